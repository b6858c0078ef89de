using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Household;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Features.Visits;

/// <summary>Puts a visit together as one document.</summary>
public sealed class VisitDocument(VisitRecords records, VisitStore visits, StationStore stored, PhotoStore photos, StopStore stops, SealStore seals, DueKeeper due, Due rules, Parts parts)
{
    // Less than a gauge can tell is no difference of the rules.
    private const double Apart = 0.05;

    /// <summary>Reads a visit, or null.</summary>
    public async Task<VisitAnswer?> ReadAsync(Guid id, UnitSystem units, ClaimsPrincipal user)
    {
        if (await records.FindAsync(id, units) is not { } record)
            return null;
        var (visit, at) = (record.Visit, record.Context);
        var signed = visit.State == "signed";
        var before = at.History.Earlier.Count > 0 ? at.History.Earlier[^1] : null;
        // What was shown then is shown now, the earlier visit's marks and photos too: under the names of their day.
        var kept = await seals.OfAsync([id, .. before is null ? [] : new[] { before.Id }]);
        var (seal, sealBefore) = (signed ? kept.GetValueOrDefault(id) : null, before is null ? null : kept.GetValueOrDefault(before.Id));
        // A sealed visit brings its own rows.
        Guid[] both = [.. seal is null ? [id] : Array.Empty<Guid>(), .. before is null ? [] : new[] { before.Id }];
        var steps = await visits.StepsAsync(both);
        var stations = await stored.OfAsync(both);
        var findings = await visits.FindingsAsync(both);
        var pictures = await photos.OfAsync(both);
        // A signed visit shows what it showed: names and stops as they were then.
        var (stepsNow, stationsNow, findingsNow) = seal is { Shown: var shown }
            ? (shown.Steps, shown.Stations, shown.Findings) : ([.. steps[id]], [.. stations[id]], (IReadOnlyList<FindingRow>)[.. findings[id]]);
        var standing = await stops.OfStoveAsync(visit.ApplianceId);
        var (features, looked) = (at.Stove.Features, LookedAt.Of(at));
        return new VisitAnswer(VisitHead.Of(visit, record.Firm), record.Firm.Name, record.Customer, at.House, at.Stove, Core.Section.StoveSection.Of(at), at.House.Outline(), at.Flue, FlueLayout.Of(at.History),
            [.. VisitSteps.All.Select(s => new StepAnswer(s.Number, s.Code, s.Name, s.Guide, s.Caution, [.. parts.MarksOf(s.Code, features)],
                [.. parts.StationsOf(s.Code, features).Select(station => new StationAnswer(station.Code, station.Name, station.AgainIn,
                    Row(stationsNow, s.Code, station) is { } kept ? Kept(station, kept, at, units) : null,
                    before is not null && Row(stations[before.Id], s.Code, station) is { } earlier ? Parse(station.Upgraded(earlier.Entry, earlier.Schema)) : null))],
                stepsNow.FirstOrDefault(r => r.Step == s.Code), before is null ? "" : steps[before.Id].FirstOrDefault(r => r.Step == s.Code)?.Note ?? ""))],
            findingsNow, seal?.Shown.Photos ?? [.. pictures[id]], before is null ? null : new EarlierAnswer(before.Day, sealBefore?.Shown.Findings ?? [.. findings[before.Id]], sealBefore?.Shown.Photos ?? [.. pictures[before.Id]]),
            // What a signed visit says of stops is what it left standing; what stands now is told on the stove's page.
            StopNotice.Of(parts, record.Firm, seal?.Shown.Stops ?? standing.Where(s => s.ClearedAt is null)),
            StopNotice.Of(parts, record.Firm, standing.Where(s => s.ClearedAt is not null && seal?.Shown.Stops.Any(then => then.Id == s.Id) == true)),
            signed ? await visits.AdditionsAsync(id) : [],
            signed ? visit.NextInspection : Due.InspectionAfter(at, visit.Inspects, record.Firm.InspectionMonths), at.Found.Words(), looked.Sentence, visit.Inspects && looked.Inspected, record.Firm.Reached,
            await due.TasksAsync(visit.ApplianceId), signed ? seal?.Shown.Dates ?? [] : rules.After(at, visit.Inspects, record.Firm.InspectionMonths), parts.Van(at),
            signed ? null : SigningOf(at, stepsNow, stationsNow), seal is null ? null : new SealAnswer(seal.Number, seal.Hash), MayWriteFilter.MayWrite(user, visit));
    }

    /// <summary>What a visit is signed as, as it stands in a transaction that holds its lock.</summary>
    /// <param name="connection">The connection that holds the lock.</param>
    /// <param name="id">The visit.</param>
    /// <param name="entry">The signature.</param>
    /// <param name="errors">Takes why it may not be signed so.</param>
    public async Task<SignedAs?> SignedAsAsync(NpgsqlConnection connection, Guid id, SignEntry entry, EntryErrors errors)
    {
        var record = (await records.FindAsync(connection, id, UnitSystem.Metric))!;
        var (at, months) = (record.Context, record.Firm.InspectionMonths);
        var signing = SigningOf(at, (await VisitStore.StepsAsync(connection, id))[id], (await StationStore.OfAsync(connection, [id]))[id]);
        signing.Refuse(entry.Confirmed, entry.Reasons, errors);
        return errors.Any ? null : new(Due.InspectionAfter(at, record.Visit.Inspects, months), JsonSerializer.Serialize(signing.Missing.ToDictionary(m => m.Code, m => entry.Reasons![m.Code].Trim())),
            JsonSerializer.Serialize([.. rules.After(at, record.Visit.Inspects, months)], CoreJson.Default.DueTaskArray));
    }

    private Signing SigningOf(VisitContext at, IEnumerable<StepRow> steps, IEnumerable<StationRow> stations) => Signing.Of(parts, at,
        [.. steps.Select(s => new StepState(s.Step, Word.Find<StepStatus>(s.Status)!.Value))],
        [.. stations.Select(s => new StationState(s.Step, s.Station, s.BlocksSigning))]);

    private static StationRow? Row(IEnumerable<StationRow> rows, string step, IStation station) => rows.FirstOrDefault(r => r.Step == step && r.Station == station.Code);

    private static KeptStation Kept(IStation station, StationRow row, VisitContext at, UnitSystem units) => new(
        Parse(station.Upgraded(row.Entry, row.Schema)), row.Schema == station.Schema && row.Answer is not null ? Parse(row.Answer) : null,
        JsonSerializer.Deserialize(row.Sentences, CoreJson.Default.SentenceArray)!, station.Blocks(row.Entry, row.Answer, row.Schema, units),
        row.RulesVersion == Rules.Version ? null : Now(station, row, at), row.RulesVersion, row.Version, row.SaveId, row.SavedAt, row.SavedBy);

    // Numbers decide whether the rules differ: words may be in other units.
    private static IReadOnlyList<Sentence>? Now(IStation station, StationRow row, VisitContext at)
    {
        if (station.Reckon(row.Entry, row.Schema, at.Without(row.Step, row.Station), new EntryErrors(at.Units)) is not { } now)
            return null;
        var then = at.Facts.Where(f => f.Step == row.Step && f.Station == row.Station).ToDictionary(f => f.Name);
        return now.Facts.Count == then.Count && now.Stops.Select(s => s.Code).SequenceEqual(JsonSerializer.Deserialize(row.Stops, CoreJson.Default.ComputedStopArray)!.Select(s => s.Code))
            && now.Facts.All(f => then.TryGetValue(f.Name, out var kept) && kept.Word == f.Word && !(Math.Abs(kept.Value - f.Value ?? 0) >= Apart)) ? null : now.Sentences;
    }

    private static JsonElement Parse(string json)
    {
        using var document = JsonDocument.Parse(json);
        return document.RootElement.Clone();
    }
}
