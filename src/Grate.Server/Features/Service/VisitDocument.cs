using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Server.Features.Deposits;
using Grate.Server.Features.Flue;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>A visit with the stove and the flue it is about.</summary>
/// <param name="Visit">Its row.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Flue">The flue that stood there.</param>
public sealed record VisitPlace(VisitRow Visit, Stove Stove, FlueVersion Flue)
{
    /// <summary>Month of the visit, 1..12.</summary>
    public int Month => Visit.PlannedStart.Month;

    /// <summary>Day of the visit.</summary>
    public DateOnly Day => DateOnly.FromDateTime(Visit.PlannedStart);
}

/// <summary>Puts a visit together as one document, and concludes from its entries.</summary>
public sealed class VisitDocument(VisitStore visits, StoveStore stoves, StopStore stops, FirmStore firms, FlueRecords records, SweepRecords sweeps, DueKeeper due, TimeProvider clock)
{
    /// <summary>A visit with its stove and flue, or null.</summary>
    public async Task<VisitPlace?> FindAsync(Guid id) => await visits.FindAsync(id) is { } visit
        ? new VisitPlace(visit, (await stoves.FindAsync(visit.ApplianceId))!, (await stoves.FlueAsync(visit.FlueVersionId))!) : null;

    /// <summary>The place of its hot readings at each fire, with the flue's own record before it.</summary>
    public Task<Func<string, HotPlace>> PlacesAsync(VisitPlace at) => records.PlacesAsync(at.Stove, at.Flue, at.Visit.PlannedStart);

    /// <summary>Reads a visit, or null.</summary>
    public async Task<VisitAnswer?> ReadAsync(Guid id, ClaimsPrincipal user)
    {
        if (await FindAsync(id) is not { } at)
            return null;
        var (visit, stove, flue) = at;
        var firm = await firms.GetAsync();
        var saved = (await visits.StepsAsync(id)).ToDictionary(s => s.Step);
        var before = await visits.BeforeAsync(visit);
        var earlierNotes = before is null ? [] : (await visits.StepsAsync(before.Id)).ToDictionary(s => s.Step, s => s.Note);
        var features = StoveKind.Find(stove.Kind)!.FeaturesOf(stove.Combustor);
        var steps = VisitSteps.All.Select(s => new StepAnswer(s.Number, s.Code, s.Name, s.Guide, s.Caution,
            [.. VisitSteps.PartsFor(s, features)],
            saved.TryGetValue(s.Code, out var row) ? VisitEntries.Saved(row) : null,
            earlierNotes.GetValueOrDefault(s.Code, ""))).ToList();
        var co = steps.Single(s => s.Code == VisitEntries.HotTestStep).Saved?.HotTest?.CoPpm;
        return new VisitAnswer(visit, stove, stove.Outline(), flue, FlueRecords.LayoutOf(stove, flue), steps,
            await visits.FindingsAsync(id), await ReadingsAsync(visit, stove, flue),
            VisitEntries.CoMeaning(co),
            before is null ? null : new EarlierVisit(before, await visits.FindingsAsync(before.Id), await ReadingsAsync(before, stove, flue)),
            StopNotice.Of((await stops.OfStoveAsync(visit.ApplianceId)).Where(s => s.ClearedAt is null)),
            await visits.AdditionsAsync(id),
            // A visit for less than an inspection leaves the date where it was.
            visit.NextInspection ?? (visit.Inspects ? null : before?.NextInspection) ?? Intervals.NextInspection(firm.Day(clock.GetUtcNow()), firm.InspectionMonths),
            await due.TasksAsync(visit.ApplianceId),
            MayWriteFilter.MayWrite(user, visit));
    }

    /// <summary>Computes what the hot test's readings mean, to be stored beside them.</summary>
    public async Task<IReadOnlyList<ReadingRow>> ConcludeAsync(VisitPlace at, HotTest? hotTest, EntryErrors errors, UnitSystem system)
    {
        var places = await PlacesAsync(at);
        var rows = new List<ReadingRow>();
        foreach (var reading in hotTest?.Readings ?? [])
        {
            var answer = places(reading.Level).Answer(reading, at.Month, errors, system);
            if (answer is null || reading.DraftPa is not { } draftPa)
                continue;
            rows.Add(new ReadingRow(reading.Level, draftPa, JsonSerializer.Serialize(reading, Json.Options),
                JsonSerializer.Serialize(answer, Json.Options), answer.ExpectedPa, answer.LowPa, answer.HighPa,
                Word.Of(answer.Verdict!.Value), Rules.Version));
        }
        return rows;
    }

    /// <summary>What follows from a step's entries, in words: to be stored beside them.</summary>
    public async Task<IReadOnlyList<Sentence>?> ConcludeAsync(VisitPlace at, StepSave save, EntryErrors errors, UnitSystem system) => save switch
    {
        { ColdChecks: { } cold } => ColdChecksAnswer.To(cold, FlueRecords.PlaceOf(at.Stove, at.Flue), at.Month, errors, system)?.Sentences,
        { Wood: { } wood } => WoodAnswer.To(wood, errors, system)?.Sentences,
        { Sweep: { } sweep } => await SweptAsync(at, sweep, errors, system),
        { HotTest: { } hot } => (await EvidenceAsync(at, await PlacesAsync(at), hot, system)).Sentences,
        _ => null,
    };

    private async Task<IReadOnlyList<Sentence>> SweptAsync(VisitPlace at, SweepStation sweep, EntryErrors errors, UnitSystem system) =>
    [
        .. sweep.Record is { } record ? SweepAnswer.To(record, await sweeps.PlaceAsync(at.Stove, at.Flue, at.Visit.PlannedStart), at.Day, at.Day, errors, system)?.Sentences ?? [] : [],
        .. sweep.Top is { } top ? TopCheckAnswer.To(top, FlueRecords.LayoutOf(at.Stove, at.Flue), errors, system)?.Sentences ?? [] : [],
    ];

    /// <summary>What the hot test says together with the visit's cold checks, top and findings.</summary>
    public async Task<HotEvidence> EvidenceAsync(VisitPlace at, Func<string, HotPlace> places, HotTest hotTest, UnitSystem system)
    {
        var steps = (await visits.StepsAsync(at.Visit.Id)).ToDictionary(s => s.Step, VisitEntries.Saved);
        var findings = (await visits.FindingsAsync(at.Visit.Id)).ToDictionary(f => f.Part, f => f.Condition);
        var top = steps.GetValueOrDefault(VisitEntries.SweepStep)?.Sweep?.Top;
        var answers = new Dictionary<string, DraftAnswer>();
        foreach (var reading in hotTest.Readings.Where(r => r.DraftPa is not null))
        {
            if (places(reading.Level).Answer(reading, at.Month, new EntryErrors(), system) is { } answer)
                answers[reading.Level] = answer;
        }
        return HotEvidence.Of(hotTest, answers, steps.GetValueOrDefault(VisitEntries.ColdChecksStep)?.ColdChecks,
            top is null ? null : TopCheckAnswer.To(top, FlueRecords.LayoutOf(at.Stove, at.Flue), new EntryErrors(), system),
            part => findings.GetValueOrDefault(part), system);
    }

    private async Task<IReadOnlyList<VisitReading>> ReadingsAsync(VisitRow visit, Stove stove, FlueVersion flue)
    {
        var standing = visit.FlueVersionId == flue.Id ? flue : (await stoves.FlueAsync(visit.FlueVersionId))!;
        return [.. (await visits.ReadingsAsync(visit.Id)).Select(row =>
        {
            var entered = JsonSerializer.Deserialize<HotReading>(row.Entered, Json.Options)!;
            var now = FlueRecords.PlaceOf(stove, standing)
                .Answer(entered, visit.PlannedStart.Month, new EntryErrors(), UnitSystem.Metric)?.ExpectedPa;
            return new VisitReading(row.Level, row.DraftPa, entered, JsonSerializer.Deserialize<DraftAnswer>(row.Computed, Json.Options)!,
                row.Verdict, row.RulesVersion, now is { } value && Math.Abs(value - row.ExpectedPa) >= 0.05 ? value : null);
        })];
    }
}
