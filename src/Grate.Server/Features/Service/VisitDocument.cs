using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Server.Features.Flue;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Puts a visit together as one document, and concludes from its hot test.</summary>
public sealed class VisitDocument(VisitStore visits, StoveStore stoves, StopStore stops, FirmStore firms, TimeProvider clock)
{
    /// <summary>Reads a visit, or null.</summary>
    public async Task<VisitAnswer?> ReadAsync(Guid id, ClaimsPrincipal user)
    {
        if (await visits.FindAsync(id) is not { } visit)
            return null;
        var stove = (await stoves.FindAsync(visit.ApplianceId))!;
        var flue = (await stoves.FlueAsync(visit.FlueVersionId))!;
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
        return new VisitAnswer(visit, stove, flue, steps, await visits.FindingsAsync(id), await ReadingsAsync(visit, stove, flue),
            VisitEntries.CoMeaning(co),
            before is null ? null : new EarlierVisit(before, await visits.FindingsAsync(before.Id), await ReadingsAsync(before, stove, flue)),
            StopNotice.Of((await stops.OfStoveAsync(visit.ApplianceId)).Where(s => s.ClearedAt is null)),
            await visits.AdditionsAsync(id),
            visit.NextInspection ?? Intervals.NextInspection(firm.Day(clock.GetUtcNow()), firm.InspectionMonths),
            MayWriteFilter.MayWrite(user, visit));
    }

    /// <summary>Computes what the hot test's readings mean, to be stored beside them.</summary>
    public async Task<IReadOnlyList<ReadingRow>> ConcludeAsync(Guid visitId, HotTest? hotTest, EntryErrors errors, string? units)
    {
        var visit = (await visits.FindAsync(visitId))!;
        var stove = (await stoves.FindAsync(visit.ApplianceId))!;
        var flue = (await stoves.FlueAsync(visit.FlueVersionId))!;
        var place = DraftEndpoints.PlaceOf(stove, flue);
        var rows = new List<ReadingRow>();
        foreach (var reading in hotTest?.Readings ?? [])
        {
            var answer = place.Answer(reading, visit.PlannedStart.Month, errors, Word.Find<UnitSystem>(units) ?? UnitSystem.Metric);
            if (answer is null || reading.DraftPa is not { } draftPa)
                continue;
            rows.Add(new ReadingRow(reading.Level, draftPa, JsonSerializer.Serialize(reading, Json.Options),
                JsonSerializer.Serialize(answer, Json.Options), answer.ExpectedPa, answer.LowPa, answer.HighPa,
                Word.Of(answer.Verdict!.Value), Rules.Version));
        }
        return rows;
    }

    private async Task<IReadOnlyList<VisitReading>> ReadingsAsync(VisitRow visit, Stove stove, FlueVersion flue)
    {
        var standing = visit.FlueVersionId == flue.Id ? flue : (await stoves.FlueAsync(visit.FlueVersionId))!;
        return [.. (await visits.ReadingsAsync(visit.Id)).Select(row =>
        {
            var entered = JsonSerializer.Deserialize<HotReading>(row.Entered, Json.Options)!;
            var now = DraftEndpoints.PlaceOf(stove, standing)
                .Answer(entered, visit.PlannedStart.Month, new EntryErrors(), UnitSystem.Metric)?.ExpectedPa;
            return new VisitReading(row.Level, row.DraftPa, entered, JsonSerializer.Deserialize<DraftAnswer>(row.Computed, Json.Options)!,
                row.Verdict, row.RulesVersion, now is { } value && Math.Abs(value - row.ExpectedPa) >= 0.05 ? value : null);
        })];
    }
}
