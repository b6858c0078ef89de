using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Stock;

/// <summary>A part on a stove with its life.</summary>
/// <param name="Part">The part.</param>
/// <param name="Bar">Its life; null once it is out.</param>
public sealed record FittedLine(FittedPart Part, LifeBar? Bar);

/// <summary>What is fitted to a stove.</summary>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Noted">Parts that were noted, those that are in first.</param>
/// <param name="FromVisits">Parts that visits fitted, and that nobody noted since.</param>
public sealed record FittedAnswer(DateOnly Today, IReadOnlyList<FittedLine> Noted, IReadOnlyList<LifeBar> FromVisits);

/// <summary>A recall.</summary>
/// <param name="Stoves">Stoves that have a part of the batch.</param>
/// <param name="Pieces">What of it lies in vans and store.</param>
/// <param name="Sentence">Both in words.</param>
public sealed record RecallAnswer(IReadOnlyList<RecalledStove> Stoves, IReadOnlyList<NamedPiece> Pieces, string Sentence);

/// <summary>Parts on their stoves: batch, warranty, life, and the search for a batch that is called back.</summary>
public static class FittedEndpoints
{
    /// <summary>Maps a stove's parts and the recall.</summary>
    public static void MapFitted(this WebApplication app)
    {
        app.MapGet("/api/stoves/{id:guid}/parts", ReadAsync).RequireAuthorization(Policies.SignedIn).Produces<FittedAnswer>().ProducesProblem(404);
        app.MapPost("/api/stoves/{id:guid}/parts", FitAsync).RequireAuthorization(Policies.SignedIn).Produces<FittedAnswer>().ProducesValidationProblem().ProducesProblem(404);
        app.MapPost("/api/stoves/{id:guid}/parts/{partId:guid}/gone", GoneAsync).RequireAuthorization(Policies.SignedIn).Produces<FittedAnswer>().ProducesProblem(404);
        app.MapGet("/api/parts/recall", RecallAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate).Produces<RecallAnswer>().ProducesValidationProblem();
    }

    private static async Task<IResult> ReadAsync(Guid id, StoveStore stoves, FittedDesk desk) => await stoves.ExistsAsync(id) ? TypedResults.Ok(await desk.OfAsync(id)) : Faults.Missing("stove");

    private static async Task<IResult> FitAsync(Guid id, FittedEntry entry, ClaimsPrincipal user, StoveStore stoves, FittedStore fitted, FittedDesk desk, FirmStore firms, TimeProvider clock)
    {
        if (!await stoves.ExistsAsync(id))
            return Faults.Missing("stove");
        var (errors, now) = (new EntryErrors(), clock.GetUtcNow());
        if (FittedPart.New(entry, (await firms.GetAsync()).Day(now), errors) is not { } part)
            return Faults.Refused(errors);
        return await fitted.FitAsync(id, part, user.PersonId(), now) ? TypedResults.Ok(await desk.OfAsync(id)) : Faults.Refused("id", "This part's id was used before for another one.");
    }

    private static async Task<IResult> GoneAsync(Guid id, Guid partId, FittedStore fitted, FittedDesk desk, FirmStore firms, TimeProvider clock) =>
        await fitted.GoneAsync(id, partId, (await firms.GetAsync()).Day(clock.GetUtcNow())) ? TypedResults.Ok(await desk.OfAsync(id)) : Faults.Missing("part on this stove");

    private static async Task<IResult> RecallAsync([FromQuery] string batch, [FromQuery] string? units, FittedStore fitted, StockStore stock)
    {
        var errors = new EntryErrors();
        errors.CheckText("batch", batch, "Batch or serial", FittedPart.LongestBatch, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        var (system, here) = (Asked.UnitsOf(units), (await fitted.InStockAsync(batch.Trim())).ToHashSet());
        var (stoves, pieces) = (await fitted.RecallAsync(batch.Trim()), (await stock.PiecesAsync()).Where(p => here.Contains(p.Id)).Select(p => new NamedPiece(p, p.Named(system))).ToList());
        string Some(int count, string one, string many) => count == 0 ? $"no {one}" : $"{count} {(count == 1 ? one : many)}";
        return TypedResults.Ok(new RecallAnswer(stoves, pieces, $"On {Some(stoves.Count, "stove", "stoves")}; {Some(pieces.Count, "piece lies", "pieces lie")} in vans and store."));
    }
}

/// <summary>Reads what is fitted to a stove, with how far each part is through its life.</summary>
public sealed class FittedDesk(FittedStore fitted, StockStore stock, FirmStore firms, TimeProvider clock)
{
    /// <summary>The parts of a stove.</summary>
    public async Task<FittedAnswer> OfAsync(Guid stoveId)
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var hours = await fitted.CombustorEndAsync(stoveId);
        // What was reckoned before it was fitted was another one's.
        DateOnly? ByHours(StockKind kind, DateOnly since) => kind == StockKind.Combustor && hours is var (end, at) && firm.Day(at) >= since ? end : null;
        // Where enough of the firm's own came to their end, these say how long; else the usual life does.
        var (noted, fromVisits, learned) = (await fitted.OfAsync(stoveId), await stock.FittedAsync(firm, stoveId), await stock.LivesAsync());
        LearnedLife? Learned(StockKind kind) => kind switch
        {
            StockKind.Rope or StockKind.Tape => learned.GetValueOrDefault(LivingPart.Seal),
            StockKind.Brick => learned.GetValueOrDefault(LivingPart.Brick),
            StockKind.Combustor => learned.GetValueOrDefault(LivingPart.Combustor),
            _ => null,
        };
        var own = fromVisits.GroupBy(f => f.Place).Select(g => g.MaxBy(f => f.Day)!).Where(f => f.Day <= today)
            .Select(f => (Fitted: f, Kind: f.Part switch { LivingPart.Seal => StockKind.Rope, LivingPart.Brick => StockKind.Brick, _ => StockKind.Combustor }))
            .Where(f => !noted.Any(n => n.GoneOn is null && n.Kind == f.Kind && n.FittedOn >= f.Fitted.Day));
        return new(today, [.. noted.Select(n => new FittedLine(n, n.GoneOn is null ? LifeBar.Of(n.Kind, n.Name, n.FittedOn, n.WarrantyUntil, PartOf(n.Kind), Learned(n.Kind), today, ByHours(n.Kind, n.FittedOn)) : null))],
            [.. own.OrderBy(f => f.Fitted.Day).Select(f => LifeBar.Of(f.Kind, NameOf(f.Fitted.Place), f.Fitted.Day, null, PartOf(f.Kind), Learned(f.Kind), today, ByHours(f.Kind, f.Fitted.Day)))]);
    }

    // "… seal.door.fitted" is the door seal, "… brick.b-3.renewed" the brick b-3.
    private static string NameOf(string place) => place.Split(' ')[1].Split('.') switch
    {
        ["seal", var seal, ..] => $"{seal.Replace('-', ' ')} seal",
        ["brick", var brick, ..] => $"brick {brick}",
        _ => "combustor",
    };

    private static string PartOf(StockKind kind) => kind switch
    {
        StockKind.Rope => "door-rope",
        StockKind.Brick => "bricks",
        StockKind.Combustor => "combustor",
        _ => "",
    };
}
