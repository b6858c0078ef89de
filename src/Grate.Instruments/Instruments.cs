using System.Net.Sockets;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Grate.Core.Places;

namespace Grate.Instruments;

/// <summary>Where the instruments are held: told to the bridge on connecting. A real one may ignore it.</summary>
/// <param name="Flue">The chain.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="OutdoorC">Outdoors, °C.</param>
/// <param name="IndoorC">Room, °C.</param>
/// <param name="VolumeM3">House volume, m³.</param>
/// <param name="Ach50">Tightness, 1/h.</param>
/// <param name="BurnKgH">The stove's normal fire, kg/h; null for an ordinary one.</param>
public sealed record InstrumentPlace(FlueEntry Flue, double AltitudeM, double OutdoorC, double IndoorC, double VolumeM3, double Ach50, double? BurnKgH = null);

/// <summary>How the connection stands.</summary>
public enum BridgeState
{
    /// <summary>No bridge is set up.</summary>
    None,

    /// <summary>Frames come.</summary>
    Connected,

    /// <summary>The bridge does not answer; it is tried again.</summary>
    Lost,
}

/// <summary>Something from the bridge: a frame, or a change of how the connection stands.</summary>
/// <param name="Frame">A frame, or null.</param>
/// <param name="State">How the connection stands.</param>
/// <param name="Dropped">Lines dropped since the stream began.</param>
public sealed record BridgeEvent(InstrumentFrame? Frame, BridgeState State, int Dropped);

/// <summary>The port to instruments.</summary>
public interface IInstruments
{
    /// <summary>Frames and states until cancelled; a lost connection is told and tried again.</summary>
    IAsyncEnumerable<BridgeEvent> ListenAsync(InstrumentPlace place, CancellationToken cancellation);
}

/// <summary>Instruments behind a bridge that speaks newline-delimited JSON over TCP (docs/instruments.md).</summary>
/// <param name="host">Its host; null where no bridge is set up.</param>
/// <param name="port">Its port.</param>
public sealed class TcpInstruments(string? host, int port) : IInstruments
{
    private static readonly TimeSpan _pause = TimeSpan.FromSeconds(1);

    // An instrument that says nothing for this long is as good as gone.
    private static readonly TimeSpan _silence = TimeSpan.FromSeconds(5);

    /// <inheritdoc/>
    public async IAsyncEnumerable<BridgeEvent> ListenAsync(InstrumentPlace place, [EnumeratorCancellation] CancellationToken cancellation)
    {
        if (host is null)
        {
            yield return new BridgeEvent(null, BridgeState.None, 0);
            yield break;
        }
        var dropped = 0;
        while (!cancellation.IsCancellationRequested)
        {
            using var client = new TcpClient { NoDelay = true };
            if (await ConnectAsync(client, place, cancellation))
            {
                yield return new BridgeEvent(null, BridgeState.Connected, dropped);
                var lines = new LineReader(client.GetStream());
                while (await NextAsync(lines, cancellation) is { } line)
                {
                    var frame = line.TooLong ? null : InstrumentFrame.Read(line.Bytes.Span, out _);
                    if (frame is null)
                        dropped++;
                    yield return new BridgeEvent(frame, BridgeState.Connected, dropped);
                }
            }
            yield return new BridgeEvent(null, BridgeState.Lost, dropped);
            await Task.Delay(_pause, cancellation).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
        }
    }

    private async Task<bool> ConnectAsync(TcpClient client, InstrumentPlace place, CancellationToken cancellation)
    {
        try
        {
            await client.ConnectAsync(host!, port, cancellation);
            var hello = JsonSerializer.SerializeToUtf8Bytes(new { hello = "grate", place }, InstrumentFrame.Json);
            await client.GetStream().WriteAsync((byte[])[.. hello, (byte)'\n'], cancellation);
            return true;
        }
        catch (Exception fault) when (fault is SocketException or IOException or OperationCanceledException)
        {
            return false;
        }
    }

    private static async Task<Line?> NextAsync(LineReader lines, CancellationToken cancellation)
    {
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        patience.CancelAfter(_silence);
        try
        {
            return await lines.ReadAsync(patience.Token);
        }
        catch (Exception fault) when (fault is IOException or SocketException or OperationCanceledException)
        {
            return null;
        }
    }
}
