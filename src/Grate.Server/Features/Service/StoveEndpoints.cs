using System.Security.Claims;
using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Section;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A page of a search.</summary>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Stoves">Rows.</param>
/// <param name="More">Whether more follow.</param>
/// <param name="Near">Whether nothing is spelled so, and these come near.</param>
public sealed record StovesAnswer(DateOnly Today, IReadOnlyList<StoveAtPlace> Stoves, bool More, bool Near);

/// <summary>A stove in a list.</summary>
/// <param name="Line">The stove.</param>
/// <param name="LastVisit">Day of its last signed visit; null where there was none.</param>
public sealed record StoveAtPlace(StoveLine Line, DateOnly? LastVisit);

/// <summary>A stop with its sentence.</summary>
/// <param name="Stop">As stored.</param>
/// <param name="SetOn">Day it was set at the firm's place.</param>
/// <param name="ClearedOn">Day it was cleared; null while it stands.</param>
/// <param name="Sentence">What is said on every page.</param>
/// <param name="Retest">What has to be tested again, and pass, before it is cleared.</param>
public sealed record StopNotice(StopRow Stop, DateOnly SetOn, DateOnly? ClearedOn, string Sentence, string Retest)
{
    /// <summary>Stops with their sentences.</summary>
    public static IReadOnlyList<StopNotice> Of(Parts parts, Firm firm, IEnumerable<StopRow> stops) =>
        [.. stops.Select(s => new StopNotice(s, firm.Day(s.SetAt), s.ClearedAt is { } cleared ? firm.Day(cleared) : null, parts.StopOrOther(s.Code).Sentence, parts.StopOrOther(s.Code).Retest))];
}

/// <summary>The flue as it is today: what was left at the last sweep, and what has grown since.</summary>
/// <param name="Swept">When it was last swept.</param>
/// <param name="Answer">What hangs there today and when to sweep, by today's rules.</param>
/// <param name="SegmentsMm">Thickness in every segment at each point of the forecast's curve, mm.</param>
/// <param name="Life">All sweeps and the wood between them.</param>
public sealed record FlueToday(DateOnly Swept, SweepAnswer Answer, IReadOnlyList<IReadOnlyList<double>> SegmentsMm, FlueLife Life)
{
    /// <summary>The flue today; null where no sweep was ever recorded.</summary>
    public static FlueToday? Of(StoveHistory history, DateOnly today, UnitSystem units)
    {
        var place = SweepPlace.Of(history);
        if (place.LastSwept is not { } last || SweepAnswer.To(new SweepRecord(), place, today, today, new EntryErrors(units), units) is not { } answer)
            return null;
        return new FlueToday(last.Day, answer, answer.SegmentsMm(), SweepAnswer.LifeOf(place, answer.Forecast.Curve[^1].Date));
    }
}

/// <summary>A stove's page.</summary>
/// <param name="Customer">Whose it is.</param>
/// <param name="House">Its house.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Features">Parts and ways it has.</param>
/// <param name="Section">The stove cut open.</param>
/// <param name="MayMeasure">Whether the person who asks may measure it: the owner, and a technician where nobody else holds an open visit.</param>
/// <param name="Outline">Its house as drawn.</param>
/// <param name="Flue">Its flue now.</param>
/// <param name="Layout">How it stands in the house.</param>
/// <param name="Remarks">What to know about it.</param>
/// <param name="Year">Draft over the year at low fire.</param>
/// <param name="Today">The flue as it is today; null where no sweep was ever recorded.</param>
/// <param name="Day">Today at the firm's place.</param>
/// <param name="Visits">Visits, newest first.</param>
/// <param name="Readings">Draft history, oldest first.</param>
/// <param name="Findings">The latest word on every part.</param>
/// <param name="Stops">Stops, the open ones first.</param>
/// <param name="MayClear">Whether the person who asks may clear stops here: the owner, and whoever holds a visit.</param>
/// <param name="NextInspection">When it is due.</param>
/// <param name="Due">Everything that is due: stops first, then by the day it is wanted.</param>
public sealed record StoveAnswer(
    Customer Customer, House House, Stove Stove, IReadOnlyList<string> Features, StoveSection Section, bool MayMeasure, HouseOutline Outline, FlueVersion Flue, FlueLayout Layout, IReadOnlyList<FlueRemark> Remarks,
    DraftYear Year, FlueToday? Today, DateOnly Day, IReadOnlyList<VisitHead> Visits, IReadOnlyList<PastReading> Readings,
    IReadOnlyList<FindingRow> Findings, IReadOnlyList<StopNotice> Stops, bool MayClear, DateOnly? NextInspection, IReadOnlyList<DueTask> Due);

/// <summary>A measure of a stove's body.</summary>
/// <param name="M">The measure, m; null takes it away.</param>
public sealed record MeasureEntry(double? M = null);

/// <summary>Stoves: search, page and measures.</summary>
public static class StoveEndpoints
{
    private const int LongestSearch = 100;

    /// <summary>Maps the stove endpoints.</summary>
    public static void MapStoves(this WebApplication app)
    {
        app.MapGet("/api/stoves", SearchAsync).RequireAuthorization(Policies.SignedIn).Produces<StovesAnswer>().ProducesValidationProblem();
        app.MapGet("/api/stoves/{id:guid}", StoveAsync).RequireAuthorization(Policies.SignedIn).Produces<StoveAnswer>().ProducesProblem(404);
        app.MapPut("/api/stoves/{id:guid}/measures/{field}", MeasureAsync).RequireAuthorization(Policies.Field)
            .Produces<StoveSection>().ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404);
    }

    private static async Task<IResult> SearchAsync([FromQuery] string? q, [FromQuery] int? offset, StoveStore stoves, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("q", q, "A search", LongestSearch);
        if (offset is < 0 or > 100_000)
            errors.Add("offset", "Offset must lie between 0 and 100 000.");
        if (errors.Any)
            return Faults.Refused(errors);
        var words = (q ?? "").ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(DigitsOfNumber).Where(w => w.Length > 0).ToList();
        var found = await stoves.SearchAsync(words, offset ?? 0);
        var near = found.Count == 0 && offset is null or 0 && words.Any(w => w.Length >= StoveStore.LeastToMistype);
        if (near)
            found = await stoves.NearAsync(words);
        var firm = await firms.GetAsync();
        return TypedResults.Ok(new StovesAnswer(firm.Day(clock.GetUtcNow()), [.. found.Select(s => new StoveAtPlace(s, s.LastStart is { } at ? firm.Day(at) : null))], !near && found.Count == StoveStore.PageSize, near && found.Count > 0));
    }

    private static string DigitsOfNumber(string word) =>
        !word.Any(char.IsAsciiDigit) || !word.All(c => char.IsAsciiDigit(c) || "+-/().".Contains(c)) ? word : Telephone.DigitsOf(word);

    private static async Task<IResult> StoveAsync(Guid id, [FromQuery] string? units, ClaimsPrincipal user, HistoryStore histories, TimeProvider clock, VisitStore visits, StopStore stops, DueKeeper due, Parts parts)
    {
        if (await histories.StoveAsync(id) is not { } record)
            return Faults.Missing("stove");
        var (history, firm, system) = (record.History, record.Firm, Asked.UnitsOf(units));
        var chain = FlueReading.Stored(history.Flue);
        var (outline, layout, place) = (history.House.Outline(), FlueLayout.Of(history), HotPlace.Of(history));
        // The year needs no reading: any outdoor temperature reads the rest of the place.
        var ordinary = DraftCase.Read(place.Question(new HotReading("low"), 1), new EntryErrors(), new Assumptions())!;
        var rows = await visits.OfStoveAsync(id);
        var today = firm.Day(clock.GetUtcNow());
        var standing = await stops.OfStoveAsync(id);
        var mayClear = user.IsInRole("owner")
            || rows.Any(v => v.TechnicianId == user.PersonId() && (v.State == "open" || standing.Any(s => s.ClearedAt is null && s.VisitId == v.Id)));
        return TypedResults.Ok(new StoveAnswer(record.Customer, history.House, history.Stove, history.Stove.Features,
            SectionOf(history, today, system), MayMeasure(user, rows.FirstOrDefault(v => v.State == "open")?.TechnicianId), outline, history.Flue, layout,
            FlueBuild.Remarks(chain, layout, outline, system, collarM: history.Stove.Label?.CollarM), DraftYear.Of(chain, ordinary.Air, history.House.MonthlyC, ordinary.Need, place.Fires),
            FlueToday.Of(history, today, system), today, [.. rows.Select(v => VisitHead.Of(v, firm))], FlueFacts.Readings(history),
            await visits.LatestFindingsAsync(id, [.. VisitSteps.All.Select(s => s.Code)]), StopNotice.Of(parts, firm, standing), mayClear,
            rows.FirstOrDefault(v => v.NextInspection is not null)?.NextInspection, await due.TasksAsync(id)));
    }

    private static bool MayMeasure(ClaimsPrincipal user, Guid? holder) =>
        user.IsInRole("owner") || (user.IsInRole("technician") && (holder is null || holder == user.PersonId()));

    // One measure at a time: two who measure at once take nothing from each other.
    private static async Task<IResult> MeasureAsync(Guid id, string field, MeasureEntry entry, [FromQuery] string? units, ClaimsPrincipal user, StoveStore stoves, HistoryStore histories, TimeProvider clock)
    {
        if (!await stoves.ExistsAsync(id))
            return Faults.Missing("stove");
        if (await stoves.HolderAsync(id) is { } holder && !MayMeasure(user, holder.Id))
            return TypedResults.Problem(statusCode: 403, title: $"{holder.Name} has an open visit at this stove; only they and the owner measure it now.");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        if (!StoveMeasures.Fields.Contains(field))
            errors.Add("field", $"A measure is one of {string.Join(", ", StoveMeasures.Fields)}.");
        if (errors.Any || !await stoves.MeasureAsync(id, measures => Checked(measures.Set(field, entry.M), errors)))
            return Faults.Refused(errors);
        return await histories.StoveAsync(id) is { } record ? TypedResults.Ok(SectionOf(record.History, record.Firm.Day(clock.GetUtcNow()), system)) : Faults.Missing("flue");
    }

    // As the records know the stove, without a visit.
    private static StoveSection SectionOf(StoveHistory history, DateOnly today, UnitSystem units) => StoveSection.Of(history.On(today, units));

    private static StoveMeasures? Checked(StoveMeasures measures, EntryErrors errors)
    {
        measures.Check(errors);
        return errors.Any ? null : measures;
    }
}
