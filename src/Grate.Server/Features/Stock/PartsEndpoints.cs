using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Door;
using Grate.Core.Service;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Stock;

/// <summary>What stoves want, what is to be ordered and what is coming.</summary>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Plan">Wants, and one list a supplier and week.</param>
/// <param name="Coming">What was ordered and has not come wholly.</param>
/// <param name="Vans">Whose vans there are.</param>
public sealed record PartsAnswer(DateOnly Today, PurchasePlan Plan, IReadOnlyList<Purchase> Coming, IReadOnlyList<Technician> Vans);

/// <summary>What will not be there for a visit.</summary>
/// <param name="Sentence">What, in a sentence; null where everything will, and once it is signed or cancelled.</param>
public sealed record PartsMissing(string? Sentence);

/// <summary>A line of an order.</summary>
/// <param name="OfferId">The part of the catalogue.</param>
/// <param name="Packs">Packs, 1..1000.</param>
public sealed record OrderLine(Guid OfferId, int Packs);

/// <summary>An order as sent.</summary>
/// <param name="SaveId">UUIDv7 of the client: sent twice it is one.</param>
/// <param name="Lines">What is ordered, all of one supplier, at most 100.</param>
public sealed record OrderEntry(Guid SaveId, IReadOnlyList<OrderLine>? Lines = null);

/// <summary>What came of a purchase.</summary>
/// <param name="SaveId">UUIDv7 of the client: sent twice it comes in once.</param>
/// <param name="Packs">Packs that came, 0 to those that are open.</param>
/// <param name="Ends">Whether nothing more will come.</param>
/// <param name="VanId">Whose van they go to; null for the store.</param>
/// <param name="Batch">Their batch or serial number, up to 60 characters.</param>
public sealed record ReceivedEntry(Guid SaveId, int Packs, bool Ends = false, Guid? VanId = null, string? Batch = null);

/// <summary>Parts: what is wanted, ordered, and booked in.</summary>
public static class PartsEndpoints
{
    private const int MostLines = 100, MostPacks = 1000;

    /// <summary>Maps /api/parts.</summary>
    public static void MapParts(this WebApplication app)
    {
        app.MapGet("/api/parts", async ([FromQuery] string? units, PartsDesk desk) => TypedResults.Ok(await desk.AllAsync(Asked.UnitsOf(units))))
            .RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate);
        app.MapGet("/api/parts/lives", async (StockStore stock, FirmStore firms, TimeProvider clock) =>
        {
            var firm = await firms.GetAsync();
            return TypedResults.Ok(PartLife.Of(await stock.FittedAsync(firm), firm.Day(clock.GetUtcNow())));
        }).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate);
        app.MapGet("/api/visits/{id:guid}/parts", MissingAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate).Produces<PartsMissing>().ProducesProblem(404);
        app.MapGet("/api/parts/list.csv", ListAsync).RequireAuthorization(Policies.Desk).RequireRateLimiting(Policies.CalculationRate).Produces<string>(200, "text/csv").ProducesProblem(404);
        app.MapPost("/api/parts/orders", OrderAsync).RequireAuthorization(Policies.Desk).Produces<PartsAnswer>().ProducesValidationProblem();
        app.MapPost("/api/parts/orders/{id:guid}/received", ReceiveAsync).RequireAuthorization(Policies.SignedIn).Produces<PartsAnswer>().ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404);
    }

    private static async Task<IResult> MissingAsync(Guid id, VisitStore visits, FirmStore firms, PartsDesk desk) => await visits.FindAsync(id) is not { } visit ? Faults.Missing("visit")
        : TypedResults.Ok(new PartsMissing(visit.State == "open" ? await desk.MissingAsync(visit.ApplianceId, (await firms.GetAsync()).Day(visit.PlannedStart)) : null));

    private static async Task<IResult> ListAsync([FromQuery] string supplier, [FromQuery] DateOnly on, PartsDesk desk)
    {
        if ((await desk.AllAsync(UnitSystem.Metric)).Plan.Lists.FirstOrDefault(l => l.Supplier == supplier && l.On == on) is not { } list)
            return Faults.Missing("list of that supplier and day");
        return TypedResults.Stream(async stream =>
        {
            await using var csv = Csv.To(stream);
            await csv.WriteRecordAsync(["supplier", "order on", "part", "packs", "cost"]);
            foreach (var line in list.Lines)
                await csv.WriteRecordAsync([list.Supplier, $"{list.On:yyyy-MM-dd}", line.Name, $"{line.Packs}", line.Cost.ToString("0.00", CultureInfo.InvariantCulture)]);
        }, Csv.Type, $"order-{on:yyyy-MM-dd}.csv");
    }

    private static async Task<IResult> OrderAsync(OrderEntry entry, [FromQuery] string? units, ClaimsPrincipal user, PartsDesk desk, StockStore stock, FirmStore firms, Outbox outbox, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("saveId", entry.SaveId, "A save");
        if (entry.Lines is not { Count: > 0 })
            errors.Add("lines", "An order has at least one line.");
        var offers = (await stock.OffersAsync()).ToDictionary(o => o.Id);
        var (now, firm) = (clock.GetUtcNow(), await firms.GetAsync());
        var lines = new List<(StockOffer Offer, int Packs)>();
        foreach (var (line, i) in errors.Each("lines", entry.Lines, MostLines, "lines"))
        {
            if (line.Packs is < 1 or > MostPacks)
                errors.Add($"lines[{i}].packs", $"Packs must lie between 1 and {MostPacks}; {line.Packs} was entered.");
            if (offers.TryGetValue(line.OfferId, out var offer))
                lines.Add((offer, line.Packs));
            else
                errors.Add($"lines[{i}].offerId", "That part is in the catalogue no more: read the list again.");
        }
        if (!errors.Any && lines.DistinctBy(l => l.Offer.Supplier).Count() > 1)
            errors.Add("lines", "An order goes to one supplier.");
        if (errors.Any)
            return Faults.Refused(errors);
        var today = firm.Day(now);
        var order = lines.Select(l => new Purchase(Guid.CreateVersion7(), l.Offer.Name, l.Offer.Kind, l.Offer.SizeMm, l.Offer.Amount, l.Packs, 0, l.Offer.Supplier, today, today.AddDays(l.Offer.LeadDays), l.Offer.ShelfMonths)).ToList();
        var mail = lines.Select(l => l.Offer.SupplierMail).FirstOrDefault(m => m.Length > 0);
        MailAddresses.Check("lines", mail, "Where orders to this supplier go", errors, MailAddresses.Most);
        if (errors.Any)
            return Faults.Refused(errors);
        if (mail is not null && Outbox.Missing(firm) is { } none)
            return Faults.Refused("lines", none);
        var letter = mail is null ? null : Outbox.Write(firm, lines[0].Offer.Supplier, mail, $"{firm.Name}: order of {today:d MMMM yyyy}",
            $"{firm.Name}, {(firm.Reached.Address is { Length: > 0 } address ? address.ReplaceLineEndings(", ") : firm.Place)}, orders:\n\n{string.Join("\n", order.Select(p => $"{p.Packs} × {p.Name}"))}\n\nExpected by {order.Max(p => p.ExpectedOn):d MMMM yyyy}. Please tell us if anything comes later.\n\n{user.Name()}\n{firm.Reached.Phone}\n", now);
        await stock.OrderAsync(entry.SaveId, order, letter, user.PersonId(), now);
        await outbox.SendAsync();
        return TypedResults.Ok(await desk.AllAsync(Asked.UnitsOf(units)));
    }

    private static async Task<IResult> ReceiveAsync(Guid id, ReceivedEntry entry, [FromQuery] string? units, ClaimsPrincipal user, PartsDesk desk, StockStore stock, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        if (!StockEndpoints.Reaches(user, entry.VanId))
            return StockEndpoints.NotYours();
        var errors = new EntryErrors();
        errors.CheckId("saveId", entry.SaveId, "A save");
        errors.CheckText("batch", entry.Batch, "Batch or serial", FittedPart.LongestBatch);
        await StockEndpoints.CheckVanAsync(entry.VanId, people, errors);
        if (entry.Packs < 0 || (entry.Packs == 0 && !entry.Ends))
            errors.Add("packs", $"What came is at least one pack, unless nothing more will come; {entry.Packs} was entered.");
        if (errors.Any)
            return Faults.Refused(errors);
        var now = clock.GetUtcNow();
        return await stock.ReceiveAsync(id, entry.SaveId, entry.Packs, entry.Ends, entry.VanId, entry.Batch?.Trim() ?? "", (await firms.GetAsync()).Day(now), user.PersonId(), now) is null
            ? Faults.Missing("purchase that is still to come") : TypedResults.Ok(await desk.AllAsync(Asked.UnitsOf(units)));
    }
}

/// <summary>Reads what the purchases are planned from, and plans them.</summary>
public sealed class PartsDesk(StockStore stock, PersonStore people, FirmStore firms, TimeProvider clock, ICutSolver solver)
{
    /// <summary>Stoves that want something from the stock.</summary>
    public async Task<IReadOnlySet<Guid>> WantingAsync() => (await WantsAsync()).Rows.Select(w => w.ApplianceId).ToHashSet();

    /// <summary>What would not be there for a visit on a day, in a sentence; null where everything would.</summary>
    /// <param name="stoveId">The stove.</param>
    /// <param name="day">The day.</param>
    public async Task<string?> MissingAsync(Guid stoveId, DateOnly day)
    {
        var (firm, rows) = await WantsAsync();
        if (rows.All(w => w.ApplianceId != stoveId))
            return null;
        var plan = await PlanAsync(rows, await stock.ComingAsync(), firm, UnitSystem.Metric, (stoveId, day));
        var late = plan.Wants.Where(w => w.Want.StoveId == stoveId && !w.InTime).ToList();
        return late.Count == 0 ? null : $"Parts would be missing: {string.Join("; ", late.Select(w => w.ArrivesOn is { } comes ? $"{w.Want.Part.What}, which comes {comes:d MMMM}" : w.Want.Part.What))}.";
    }

    /// <summary>Wants, lists and what is coming, as they are now.</summary>
    /// <param name="units">Units of the sentences.</param>
    public async Task<PartsAnswer> AllAsync(UnitSystem units)
    {
        var ((firm, rows), coming) = (await WantsAsync(), await stock.ComingAsync());
        return new(firm.Day(clock.GetUtcNow()), await PlanAsync(rows, coming, firm, units), coming, await people.TechniciansAsync());
    }

    private async Task<(Firm Firm, IReadOnlyList<WantRow> Rows)> WantsAsync()
    {
        var firm = await firms.GetAsync();
        return (firm, await stock.WantsAsync(firm.Span(firm.Day(clock.GetUtcNow())).From));
    }

    // Planned: a stove's visit as it would be.
    private async Task<PurchasePlan> PlanAsync(IReadOnlyList<WantRow> rows, IReadOnlyList<Purchase> coming, Firm firm, UnitSystem units, (Guid StoveId, DateOnly Day)? planned = null)
    {
        var today = firm.Day(clock.GetUtcNow());
        var wants = from row in rows
                    from want in JsonSerializer.Deserialize(row.Wants, CoreJson.Default.WantedPartArray)!
                    let day = planned?.StoveId == row.ApplianceId ? planned.Value.Day : row.PlannedStart is { } start ? firm.Day(start) : want.By ?? row.ByDay ?? today
                    select new StoveWant(row.ApplianceId, row.VisitId, row.Household, row.Place, day, want);
        return PurchasePlan.Of([.. wants], await stock.PiecesAsync(), coming, await stock.OffersAsync(), today, units, solver);
    }
}
