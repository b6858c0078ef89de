using System.Net;
using System.Net.Sockets;
using System.Text.Json;
using Grate.Core.Flue;

namespace Grate.Instruments.StandIn;

/// <summary>Plays five instruments to every connection: newline-delimited JSON over loopback TCP.</summary>
public sealed class StandInServer(Stage stage, TcpListener listener, TimeProvider clock, ILogger<StandInServer> log) : BackgroundService
{
    private static readonly TimeSpan _beat = TimeSpan.FromMilliseconds(250);

    private sealed record Hello(InstrumentPlace Place);

    private int _connections;

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            var client = await listener.AcceptTcpClientAsync(stoppingToken);
            _ = PlayAsync(client, Interlocked.Increment(ref _connections), stoppingToken);
        }
    }

    private async Task PlayAsync(TcpClient client, int number, CancellationToken cancellation)
    {
        try
        {
            using (client)
            {
                client.NoDelay = true;
                var stream = client.GetStream();
                using var reader = new StreamReader(stream, leaveOpen: true);
                var hello = JsonSerializer.Deserialize<Hello>(await reader.ReadLineAsync(cancellation) ?? "", InstrumentFrame.Json)
                    ?? throw new JsonException("no hello");
                var stove = new StandInStove(hello.Place, number);
                var generation = stage.Generation;
                var speed = Clock.SpeedOf(clock);
                using var beat = new PeriodicTimer(_beat);
                for (long tick = 1; generation == stage.Generation && await beat.WaitForNextTickAsync(cancellation); tick++)
                    await stream.WriteAsync(Lines(stove.Step(stage, speed * _beat.TotalSeconds), tick), cancellation);
            }
        }
        catch (Exception fault) when (fault is IOException or SocketException or JsonException or ArgumentException or OperationCanceledException)
        {
            log.LogDebug("Connection {Number} ended: {Reason}", number, fault.Message);
        }
    }

    // Gauges speak at every beat, the slower instruments at every fourth.
    private byte[] Lines(StandInReadings now, long tick)
    {
        using var lines = new MemoryStream();
        void Say(string instrument, long seq, params (string Field, double Value)[] values)
        {
            if (stage.TakeGarble())
                lines.Write("{\"instrument\":\"draft-gauge\",\"values\":{\"draftPa\":12"u8);
            else
            {
                JsonSerializer.Serialize(lines, new InstrumentFrame(instrument, $"stand-in {instrument}", seq, clock.GetUtcNow(),
                    values.ToDictionary(v => v.Field, v => Math.Round(v.Value, 3))), InstrumentFrame.Json);
            }
            lines.WriteByte((byte)'\n');
        }
        Say("draft-gauge", tick, ("draftPa", now.DraftPa));
        Say("pressure-gauge", tick, ("roomPa", now.RoomPa));
        if (tick % 4 == 0)
        {
            Say("thermometer", tick / 4, ("flueC", now.FlueC), ("roomC", now.RoomC));
            Say("moisture-meter", tick / 4, ("moistureDryShare", now.MoistureDryShare));
            Say("co-meter", tick / 4, ("coPpm", now.CoPpm));
        }
        return lines.ToArray();
    }
}
