using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Security.Claims;
using Grate.Core;
using Grate.Instruments;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Grate.Server.Features.Flue;

/// <summary>Live instruments in a visit, as server-sent events.</summary>
public static class InstrumentEndpoints
{
    /// <summary>Most streams of one server, and of one person: a visit on a phone and a tablet, and one that has not noticed yet that it is gone.</summary>
    private const int MostStreams = 400, MostOfOne = 4;

    private static readonly Dictionary<Guid, int> _streams = [];

    /// <summary>Adds the port to instruments: the bridge at Instruments:Host and Instruments:Port, or none.</summary>
    public static void AddInstruments(this WebApplicationBuilder builder)
    {
        var bridge = builder.Configuration.GetSection("Instruments");
        builder.Services.AddSingleton<IInstruments>(new TcpInstruments(bridge["Host"], bridge.GetValue("Port", 8510)));
        builder.Services.AddSingleton<IWeather, StandInWeather>();
        var roads = builder.Configuration["Roads:Address"];
        builder.Services.AddSingleton<IRoads>(new HttpRoads(new HttpClient { Timeout = TimeSpan.FromSeconds(2), BaseAddress = roads is null ? null : new Uri(roads) }, TimeProvider.System));
    }

    /// <summary>Maps GET /api/visits/{id}/instruments: events "bridge", each a frame or a change of the connection.</summary>
    public static void MapInstruments(this WebApplication app) =>
        app.MapGet("/api/visits/{id:guid}/instruments", StreamAsync).RequireAuthorization(Policies.SignedIn)
            .Produces<BridgeEvent>(200, "text/event-stream").ProducesProblem(404).ProducesProblem(429).ProducesProblem(503);

    private static async Task<Results<ServerSentEventsResult<BridgeEvent>, ProblemHttpResult>> StreamAsync(Guid id, HttpContext context, VisitRecords records,
        IInstruments instruments, IHostApplicationLifetime life, IConfiguration configuration, CancellationToken cancellation)
    {
        if (await records.FindAsync(id, UnitSystem.Metric) is not { Context: var at })
            return TypedResults.Problem(statusCode: 404, title: "There is no such visit.");
        var place = new InstrumentPlace(at.Flue.Flue, at.House.AltitudeM, at.Weather!.OutdoorC, 20, at.House.VolumeM3 ?? 300,
            at.House.Ach50 ?? Core.Flue.HouseLeakage.ByEra[at.House.BuiltEra!].Value, Core.Flue.HotPlace.Of(at).Fires?.NormalKgH);
        var person = context.User.PersonId();
        if (Took(person, configuration.GetValue("Limits:StreamsPerPerson", MostOfOne)) is { } refused)
            return refused;
        context.Response.OnCompleted(() => GaveBack(person));
        return TypedResults.ServerSentEvents(EventsAsync(instruments, place, life.ApplicationStopping, cancellation), "bridge");
    }

    private static ProblemHttpResult? Took(Guid person, int most)
    {
        lock (_streams)
        {
            var own = _streams.GetValueOrDefault(person);
            if (own >= most)
                return TypedResults.Problem(statusCode: 429, title: $"You have {own} instruments connected already: close another page that shows them.");
            if (_streams.Values.Sum() >= MostStreams)
                return TypedResults.Problem(statusCode: 503, title: "Too many instruments are connected to this server; try again in a while.");
            _streams[person] = own + 1;
            return null;
        }
    }

    private static Task GaveBack(Guid person)
    {
        lock (_streams)
        {
            if (--_streams[person] == 0)
                _streams.Remove(person);
        }
        return Task.CompletedTask;
    }

    private static async IAsyncEnumerable<BridgeEvent> EventsAsync(IInstruments instruments, InstrumentPlace place, CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken cancellation)
    {
        // The server does not wait for a stove to burn out.
        using var end = CancellationTokenSource.CreateLinkedTokenSource(cancellation, stopping);
        await foreach (var happened in instruments.ListenAsync(place, end.Token))
            yield return happened;
    }
}
