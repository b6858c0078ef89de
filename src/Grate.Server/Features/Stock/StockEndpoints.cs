using System.Security.Claims;
using Grate.Core;
using Grate.Core.Door;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Stock;

/// <summary>A piece with its name.</summary>
/// <param name="Piece">The piece.</param>
/// <param name="Name">Its name in the shown units.</param>
public sealed record NamedPiece(StockPiece Piece, string Name);

/// <summary>A line of the log with the name of what it is about.</summary>
/// <param name="Line">The line.</param>
/// <param name="Name">Name of the thing in the shown units.</param>
public sealed record NamedLine(StockLine Line, string Name);

/// <summary>What lies in the vans and in the store.</summary>
/// <param name="Today">The day at the firm's place.</param>
/// <param name="Vans">Whose vans there are.</param>
/// <param name="Pieces">Every piece that is there.</param>
/// <param name="Offers">What can be bought.</param>
/// <param name="Log">What happened lately, newest first.</param>
public sealed record StockAnswer(DateOnly Today, IReadOnlyList<Technician> Vans, IReadOnlyList<NamedPiece> Pieces, IReadOnlyList<StockOffer> Offers, IReadOnlyList<NamedLine> Log);

/// <summary>A piece that comes in.</summary>
/// <param name="Id">UUIDv7 of the client: sent twice it comes in once.</param>
/// <param name="VanId">Whose van; null for the store.</param>
/// <param name="Kind">rope, tape or cement.</param>
/// <param name="SizeMm">Size of rope or tape, mm, 3..30.</param>
/// <param name="Amount">Length, m, or tubes of cement; up to 100.</param>
/// <param name="Note">Up to 200 characters.</param>
/// <param name="Batch">Batch or serial number, up to 60 characters.</param>
/// <param name="BestBefore">Last day on which it is good.</param>
public sealed record StockAdd(Guid Id, Guid? VanId = null, [property: Words(typeof(StockKind))] string? Kind = null, double? SizeMm = null, double? Amount = null, string? Note = null, string? Batch = null, DateOnly? BestBefore = null);

/// <summary>An offer as entered.</summary>
/// <param name="Name">Its name, 1 to 80 characters.</param>
/// <param name="Kind">What it is.</param>
/// <param name="SizeMm">Size, mm, where its kind has sizes.</param>
/// <param name="Amount">What a pack holds: m of rope and tape, pieces of anything else.</param>
/// <param name="Price">Price of a pack.</param>
/// <param name="Supplier">Who sells it, up to 80 characters.</param>
/// <param name="SupplierMail">Where orders go.</param>
/// <param name="LeadDays">Calendar days from order to arrival, 0..400; default 0.</param>
/// <param name="Minimum">So much is kept at least, 0..1000; default 0.</param>
/// <param name="ShelfMonths">Months that it keeps, 1..240; null where it does not age.</param>
public sealed record OfferEntry(string? Name = null, [property: Words(typeof(StockKind))] string? Kind = null, double? SizeMm = null, double? Amount = null, double? Price = null,
    string? Supplier = null, string? SupplierMail = null, int? LeadDays = null, double? Minimum = null, int? ShelfMonths = null);

/// <summary>A seal that something is cut for.</summary>
/// <param name="VisitId">Its visit.</param>
/// <param name="Place">Which seal.</param>
/// <param name="LengthM">What is cut, m.</param>
public sealed record CutSeal(Guid VisitId, SealPlace Place, double LengthM);

/// <summary>A piece that was cut.</summary>
/// <param name="SaveId">UUIDv7 of the client: sent twice it is cut once.</param>
/// <param name="Seals">What was cut from it.</param>
/// <param name="VanId">Whose van the off-cut of a bought piece goes to; null for the store.</param>
/// <param name="PieceId">The piece; null where it was bought.</param>
/// <param name="OfferId">The offer it was bought by.</param>
public sealed record CutDone(Guid SaveId, IReadOnlyList<CutSeal> Seals, Guid? VanId = null, Guid? PieceId = null, Guid? OfferId = null);

/// <summary>What was cut is of no use.</summary>
/// <param name="SaveId">UUIDv7 of the client.</param>
/// <param name="VisitId">Visit of the seal.</param>
/// <param name="Place">Which seal.</param>
public sealed record CutSpoilt(Guid SaveId, Guid VisitId, SealPlace Place);

/// <summary>Stock of vans and store, what can be bought, and what to cut.</summary>
public static class StockEndpoints
{
    private const int LogShown = 60;
    private const int MostSealsCut = 40;
    private static readonly EntryRange _days = new("Days", Quantity.Count, 1, 7);

    /// <summary>Maps the stock.</summary>
    public static void MapStock(this WebApplication app)
    {
        var stock = app.MapGroup("/api/stock").RequireAuthorization(Policies.SignedIn);
        stock.MapGet("", async ([FromQuery] string? units, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock) => TypedResults.Ok(await AllAsync(units, store, people, firms, clock)));
        stock.MapPost("", AddAsync).Produces<StockAnswer>().ProducesValidationProblem().ProducesProblem(403);
        stock.MapPost("/{id:guid}/moves", MoveAsync).Produces<StockAnswer>().ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404).ProducesProblem(409);
        stock.MapGet("/cuts", PlanAsync).Produces<CuttingPlan>().ProducesValidationProblem().ProducesProblem(404).RequireRateLimiting(Policies.CalculationRate);
        stock.MapPost("/cuts", CutAsync).Produces(204).ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404);
        stock.MapPost("/cuts/spoilt", SpoilAsync).Produces(204).ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404);
        app.MapGet("/api/stock/catalogue.csv", CatalogueLists.OutAsync).RequireAuthorization(Policies.Desk).Produces<string>(200, "text/csv");
        app.MapPost("/api/stock/catalogue.csv", TakeCatalogueAsync).RequireAuthorization(Policies.Desk).WithMetadata(CatalogueLists.Limit).TakesFile("text/csv").Produces<StockAnswer>().ProducesValidationProblem().ProducesProblem(413);
        var offers = app.MapGroup("/api/stock/offers").RequireAuthorization(Policies.Desk);
        offers.MapPut("/{id:guid}", KeepOfferAsync).Produces<StockAnswer>().ProducesValidationProblem();
        offers.MapDelete("/{id:guid}", async (Guid id, [FromQuery] string? units, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock) =>
        {
            await store.DropOfferAsync(id);
            return TypedResults.Ok(await AllAsync(units, store, people, firms, clock));
        });
    }

    private static async Task<StockAnswer> AllAsync(string? units, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var system = Asked.UnitsOf(units);
        return new((await firms.GetAsync()).Day(clock.GetUtcNow()), await people.TechniciansAsync(), [.. (await store.PiecesAsync()).Select(p => new NamedPiece(p, p.Named(system)))], await store.OffersAsync(),
            [.. (await store.LogAsync(LogShown)).Select(l => new NamedLine(l, StockPiece.Named(l.Kind, l.SizeMm, system)))]);
    }

    // A technician takes from the own van and from the store; the desk from any.
    internal static bool Reaches(ClaimsPrincipal user, Guid? vanId) => vanId is null || !user.IsInRole("technician") || vanId == user.PersonId();

    internal static IResult NotYours() => TypedResults.Problem(statusCode: 403, title: "That is another van: its technician, the office and the owner change what lies in it.");

    internal static async Task CheckVanAsync(Guid? vanId, PersonStore people, EntryErrors errors)
    {
        if (vanId is { } van && !await people.IsTechnicianAsync(van))
            errors.Add("vanId", "There is no such van.");
    }

    private static async Task<IResult> AddAsync(StockAdd entry, [FromQuery] string? units, ClaimsPrincipal user, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        if (!Reaches(user, entry.VanId))
            return NotYours();
        var errors = new EntryErrors(Asked.UnitsOf(units));
        errors.CheckText("note", entry.Note, "Note", StockPiece.LongestNote);
        await CheckVanAsync(entry.VanId, people, errors);
        if (StockPiece.New(entry.Id, entry.VanId, entry.Kind, entry.SizeMm, entry.Amount, entry.Batch, entry.BestBefore, errors) is not { } piece || errors.Any)
            return Faults.Refused(errors);
        await store.AddAsync(piece, entry.Note?.Trim() ?? "", user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(await AllAsync(units, store, people, firms, clock));
    }

    private static async Task<IResult> MoveAsync(Guid id, StockChange change, [FromQuery] string? units, ClaimsPrincipal user, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        if (await store.FindAsync(id) is not { } piece)
            return Faults.Missing("piece");
        if (!Reaches(user, piece.VanId))
            return NotYours();
        var errors = new EntryErrors(Asked.UnitsOf(units));
        await CheckVanAsync(change.VanId, people, errors);
        // Seen before it is locked, for the sentences; what is kept is reckoned under the lock.
        if (piece.After(change, errors) is null || errors.Any)
            return Faults.Refused(errors);
        var (move, stale) = (Word.Find<StockMove>(change.Move)!.Value, false);
        var kept = await store.ChangeAsync(id, change.SaveId, before =>
        {
            // What was used is taken off whatever is there; a count is of what somebody saw.
            stale = move != StockMove.Used && before.Version != change.BaseVersion;
            return stale ? null : before.After(change, errors);
        }, move, change.Note?.Trim() ?? "", user.PersonId(), clock.GetUtcNow());
        return kept ? TypedResults.Ok(await AllAsync(units, store, people, firms, clock))
            : stale ? TypedResults.Problem(statusCode: 409, title: "Somebody changed this piece in between: look at what is there now.") : Faults.Refused(errors);
    }

    private static async Task<IResult> TakeCatalogueAsync(HttpRequest request, [FromQuery] string? units, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        using var bytes = new MemoryStream();
        await request.Body.CopyToAsync(bytes, request.HttpContext.RequestAborted);
        var errors = new EntryErrors();
        var offers = CatalogueLists.Read(bytes.ToArray(), await store.OffersAsync(), errors);
        if (errors.Any)
            return Faults.Refused(errors);
        await store.KeepOffersAsync(offers);
        return TypedResults.Ok(await AllAsync(units, store, people, firms, clock));
    }

    private static async Task<IResult> KeepOfferAsync(Guid id, OfferEntry entry, [FromQuery] string? units, StockStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors(Asked.UnitsOf(units));
        if (StockOffer.New(id, entry.Name, entry.Kind, entry.SizeMm, entry.Amount, entry.Price, entry.Supplier, entry.SupplierMail, entry.LeadDays, entry.Minimum, entry.ShelfMonths, errors) is not { } offer)
            return Faults.Refused(errors);
        await store.KeepOfferAsync(offer);
        return TypedResults.Ok(await AllAsync(units, store, people, firms, clock));
    }

    // Of a visit, from its technician's van; of up to a week of a technician's visits, from van and store.
    private static async Task<IResult> PlanAsync([FromQuery] Guid? visitId, [FromQuery] Guid? technicianId, [FromQuery] DateOnly? day, [FromQuery] int? days, [FromQuery] string? units, ClaimsPrincipal user,
        StockStore store, VisitStore visits, PersonStore people, SealsDue due, FirmStore firms, TimeProvider clock, ICutSolver solver)
    {
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        Guid van;
        Guid[] ids;
        if (visitId is { } one)
        {
            if (await visits.FindAsync(one) is not { } visit)
                return Faults.Missing("visit");
            (van, ids) = (visit.TechnicianId, [one]);
        }
        else
        {
            van = technicianId ?? user.PersonId();
            if (!await people.IsTechnicianAsync(van))
                errors.Add("technicianId", "There is no such technician.");
            errors.Check("days", days, _days);
            if (errors.Any)
                return Faults.Refused(errors);
            var firm = await firms.GetAsync();
            var from = day ?? firm.Day(clock.GetUtcNow());
            if (from.Year is < 2000 or > 2200)
                return Faults.Refused("day", "Day must lie between the years 2000 and 2200.");
            ids = [.. (await visits.RoundAsync(firm.Span(from).From, firm.Span(from.AddDays((days ?? 1) - 1)).Before, van)).Where(s => s.State == "open").Select(s => s.VisitId)];
        }
        var plan = CuttingPlan.Of(await due.OfAsync(ids, system), [.. (await store.PiecesAsync()).Where(p => p.VanId == van || (p.VanId is null && visitId is null))], await store.OffersAsync(), system, errors, solver);
        return plan is null ? Faults.Refused(errors) : TypedResults.Ok(plan);
    }

    private static async Task<IResult> CutAsync(CutDone done, ClaimsPrincipal user, StockStore store, PersonStore people, SealsDue due, TimeProvider clock)
    {
        if (!Reaches(user, done.VanId))
            return NotYours();
        var errors = new EntryErrors();
        errors.CheckId("saveId", done.SaveId, "A save");
        if (done.Seals.Count is 0 or > MostSealsCut)
            errors.Add("seals", $"Between 1 and {MostSealsCut} seals are cut from a piece; {done.Seals.Count} were sent.");
        else if (done.Seals.Any(s => s is null) || done.Seals.DistinctBy(s => (s.VisitId, s.Place)).Count() < done.Seals.Count)
            errors.Add("seals", "Every seal stands once.");
        else
            foreach (var (seal, i) in done.Seals.Select((s, i) => (s, i)))
                errors.Check($"seals[{i}].lengthM", seal.LengthM, DoorRanges.RopeLength);
        await CheckVanAsync(done.VanId, people, errors);
        if (errors.Any)
            return Faults.Refused(errors);

        var offer = done.OfferId is { } id ? (await store.OffersAsync()).FirstOrDefault(o => o.Id == id) : null;
        var piece = done.PieceId is { } pieceId ? await store.FindAsync(pieceId) : offer is null ? null : new StockPiece(done.SaveId, done.VanId, offer.Kind, offer.SizeMm, offer.Amount, 1);
        if (piece is null)
            return Faults.Missing("piece");
        if (!Reaches(user, piece.VanId))
            return NotYours();
        var known = (await due.OfAsync([.. done.Seals.Select(s => s.VisitId).Distinct()], UnitSystem.Metric)).ToDictionary(s => (s.VisitId, s.Place));
        if (done.Seals.Any(s => !known.ContainsKey((s.VisitId, s.Place))))
            return Faults.Missing("seal that is due");
        foreach (var (seal, i) in done.Seals.Select((s, i) => (known[(s.VisitId, s.Place)], i)))
        {
            if (seal.Kind != piece.Kind || (seal.SizeMm is { } size && size != piece.SizeMm))
                errors.Add($"seals[{i}]", $"{seal.Named}: it takes {StockPiece.Named(seal.Kind, seal.SizeMm, UnitSystem.Metric)}; that piece is {piece.Named(UnitSystem.Metric)}.");
        }
        if (errors.Any)
            return Faults.Refused(errors);
        var cuts = done.Seals.Select(s => new SealCut(s.VisitId, Word.Of(s.Place), s.LengthM, known[(s.VisitId, s.Place)].Named)).ToList();
        return await store.CutAsync(done.SaveId, piece, done.PieceId is null ? offer!.Name : null, cuts, errors, user.PersonId(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Refused(errors);
    }

    private static async Task<IResult> SpoilAsync(CutSpoilt spoilt, ClaimsPrincipal user, StockStore store, VisitStore visits, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("saveId", spoilt.SaveId, "A save");
        if (errors.Any)
            return Faults.Refused(errors);
        if (await visits.FindAsync(spoilt.VisitId) is not { } visit)
            return Faults.Missing("visit");
        if (!Reaches(user, visit.TechnicianId))
            return NotYours();
        return await store.SpoilAsync(spoilt.SaveId, spoilt.VisitId, Word.Of(spoilt.Place), user.PersonId(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("piece that was cut for it");
    }
}
