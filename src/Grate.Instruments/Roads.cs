using System.Collections.Concurrent;
using System.Net.Http.Json;
using System.Text.Json;
using Grate.Core.Places;

namespace Grate.Instruments;

/// <summary>A place on the road.</summary>
/// <param name="Lat">Degrees north.</param>
/// <param name="Lon">Degrees east.</param>
public readonly record struct RoadPlace(double Lat, double Lon);

/// <summary>Minutes between places.</summary>
/// <param name="Minutes">From and to.</param>
/// <param name="ByRule">Whether no road service answered, and the plain rule stands in.</param>
public sealed record RoadTimes(IReadOnlyDictionary<(RoadPlace From, RoadPlace To), double> Minutes, bool ByRule)
{
    /// <summary>Where they come from, in words.</summary>
    public string Said => ByRule ? "The road service does not answer: drives by the plain rule, 1.3 times the straight way at 45 km/h." : "Drives by the road service.";

    /// <summary>Minutes of a drive; by the plain rule where it was not asked for.</summary>
    public double Between(double lat1, double lon1, double lat2, double lon2) =>
        Minutes.TryGetValue((new(lat1, lon1), new(lat2, lon2)), out var minutes) ? minutes : Road.Minutes(lat1, lon1, lat2, lon2);
}

/// <summary>What a road service is asked: all pairs of some places.</summary>
/// <param name="Places">At most 200.</param>
public sealed record RoadQuestion(IReadOnlyList<RoadPlace> Places);

/// <summary>And what it answers.</summary>
/// <param name="Minutes">Row by row, from each place to each.</param>
public sealed record RoadMatrix(IReadOnlyList<IReadOnlyList<double>> Minutes);

/// <summary>The port to a road service.</summary>
public interface IRoads
{
    /// <summary>Minutes between all of some places; never fails.</summary>
    Task<RoadTimes> BetweenAsync(IEnumerable<RoadPlace> places, CancellationToken cancellation);
}

/// <summary>A road service over HTTP (POST /roads), remembered; its failure is survived with the plain rule.</summary>
/// <param name="client">Speaks to the service; without a base address the plain rule stands alone.</param>
/// <param name="clock">Tells how long a service that failed is left alone.</param>
public sealed class HttpRoads(HttpClient client, TimeProvider clock) : IRoads
{
    /// <summary>A service that failed is not asked again for so long: nobody waits for it on every page.</summary>
    public static readonly TimeSpan LeftAlone = TimeSpan.FromSeconds(30);

    /// <summary>Most places that are asked at once.</summary>
    public const int MostPlaces = 200;

    private const int MostKnown = 200_000;
    private const double LongestMin = 24 * 60;

    private readonly ConcurrentDictionary<(RoadPlace, RoadPlace), double> _known = new();

    // Of the clock's stamps; 0 while it never failed.
    private long _failedAt;

    /// <inheritdoc/>
    public async Task<RoadTimes> BetweenAsync(IEnumerable<RoadPlace> places, CancellationToken cancellation)
    {
        List<RoadPlace> asked = [.. places.Distinct()];
        // So many have too many ways between them to be asked for, and to be remembered.
        if (asked.Count > MostPlaces)
            return new(new Dictionary<(RoadPlace, RoadPlace), double>(), true);
        var pairs = asked.SelectMany(a => asked.Select(b => (From: a, To: b))).ToList();
        var answered = pairs.TrueForAll(_known.ContainsKey) || await AskAsync(asked, cancellation);
        return new(pairs.ToDictionary(p => p, p => _known.TryGetValue(p, out var minutes) ? minutes : Road.Minutes(p.From.Lat, p.From.Lon, p.To.Lat, p.To.Lon)), !answered);
    }

    private async Task<bool> AskAsync(List<RoadPlace> places, CancellationToken cancellation)
    {
        var failed = Interlocked.Read(ref _failedAt);
        if (client.BaseAddress is null || (failed != 0 && clock.GetElapsedTime(failed) < LeftAlone))
            return false;
        var answered = await ReadAsync(places, cancellation);
        Interlocked.Exchange(ref _failedAt, answered ? 0 : clock.GetTimestamp());
        return answered;
    }

    private async Task<bool> ReadAsync(List<RoadPlace> places, CancellationToken cancellation)
    {
        try
        {
            using var response = await client.PostAsJsonAsync("roads", new RoadQuestion(places), cancellation);
            response.EnsureSuccessStatusCode();
            var matrix = (await response.Content.ReadFromJsonAsync<RoadMatrix>(cancellation))?.Minutes;
            if (matrix?.Count != places.Count || matrix.Any(r => r?.Count != places.Count || r.Any(m => m is not (>= 0 and <= LongestMin))))
                return false;
            if (_known.Count > MostKnown)
                _known.Clear();
            for (var a = 0; a < places.Count; a++)
            {
                for (var b = 0; b < places.Count; b++)
                    _known[(places[a], places[b])] = matrix[a][b];
            }
            return true;
        }
        catch (Exception fault) when (fault is HttpRequestException or JsonException or NotSupportedException || (fault is OperationCanceledException && !cancellation.IsCancellationRequested))
        {
            return false;
        }
    }
}
