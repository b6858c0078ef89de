using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Grate.Core;
using Grate.Instruments;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Grate.Server.Features.Flue;

/// <summary>Live instruments in a visit, as server-sent events.</summary>
public static class InstrumentEndpoints
{
    /// <summary>Most streams of one server.</summary>
    private const int MostStreams = 400;

    private static int _streams;

    /// <summary>Adds the port to instruments: the bridge at Instruments:Host and Instruments:Port, or none.</summary>
    public static void AddInstruments(this WebApplicationBuilder builder)
    {
        var bridge = builder.Configuration.GetSection("Instruments");
        builder.Services.AddSingleton<IInstruments>(new TcpInstruments(bridge["Host"], bridge.GetValue("Port", 8510)));
        builder.Services.AddSingleton<IWeather, StandInWeather>();
    }

    /// <summary>Maps GET /api/visits/{id}/instruments: events "bridge", each a frame or a change of the connection.</summary>
    public static void MapInstruments(this WebApplication app) =>
        app.MapGet("/api/visits/{id:guid}/instruments", StreamAsync).RequireAuthorization(Policies.SignedIn)
            .Produces<BridgeEvent>(200, "text/event-stream").ProducesProblem(404).ProducesProblem(503);

    private static async Task<Results<ServerSentEventsResult<BridgeEvent>, ProblemHttpResult>> StreamAsync(Guid id, VisitRecords records,
        IInstruments instruments, CancellationToken cancellation)
    {
        if (await records.FindAsync(id, UnitSystem.Metric) is not { Context: var at })
            return TypedResults.Problem(statusCode: 404, title: "There is no such visit.");
        if (Volatile.Read(ref _streams) >= MostStreams)
            return TypedResults.Problem(statusCode: 503, title: "Too many instruments are connected to this server; try again in a while.");
        var place = new InstrumentPlace(at.Flue.Flue, at.House.AltitudeM, at.Weather!.OutdoorC, 20, at.House.VolumeM3 ?? 300,
            at.House.Ach50 ?? Core.Flue.HouseLeakage.ByEra[at.House.BuiltEra!].Value, Core.Flue.HotPlace.Of(at).Fires?.NormalKgH);
        return TypedResults.ServerSentEvents(EventsAsync(instruments, place, cancellation), "bridge");
    }

    private static async IAsyncEnumerable<BridgeEvent> EventsAsync(IInstruments instruments, InstrumentPlace place,
        [EnumeratorCancellation] CancellationToken cancellation)
    {
        Interlocked.Increment(ref _streams);
        try
        {
            await foreach (var happened in instruments.ListenAsync(place, cancellation))
                yield return happened;
        }
        finally
        {
            Interlocked.Decrement(ref _streams);
        }
    }
}
