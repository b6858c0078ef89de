using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Store;

namespace Grate.Server.Features.Flue;

/// <summary>What the records know of a flue, as the core asks for it.</summary>
public sealed class FlueRecords(StoveStore stoves)
{
    /// <summary>
    /// The place of a hot reading at each fire, with the flue's own record before a moment: of an earlier visit the reading at
    /// the fire asked for counts, else the nearest.
    /// </summary>
    /// <param name="stove">The stove.</param>
    /// <param name="flue">The version that stands there.</param>
    /// <param name="before">Only visits before this.</param>
    public async Task<Func<string, HotPlace>> PlacesAsync(Stove stove, FlueVersion flue, DateTime before)
    {
        var past = await stoves.SoundReadingsAsync(flue.Id, before);
        return level => PlaceOf(stove, flue) with { Past = PastOf(past, level) };
    }

    /// <summary>The same without the flue's own record.</summary>
    public static HotPlace PlaceOf(Stove stove, FlueVersion flue) =>
        new(flue.Flue, stove.AltitudeM, stove.MonthlyC, stove.LabelMinPa, stove.LabelMaxPa, stove.Air());

    /// <summary>A stored flue as the model reads it.</summary>
    /// <exception cref="InvalidOperationException">The stored chain is not readable; the database's checks forbid that.</exception>
    public static FlueSystem ReadStored(FlueVersion flue)
    {
        var errors = new EntryErrors();
        return FlueReading.Read(flue.Flue, errors, new Assumptions())
            ?? throw new InvalidOperationException($"Flue version {flue.Id}: {string.Join(" ", errors.ByField.SelectMany(e => e.Value))}");
    }

    /// <summary>How a stored flue stands in its house.</summary>
    public static FlueLayout LayoutOf(Stove stove, FlueVersion flue) =>
        FlueLayout.Of(ReadStored(flue), stove.StandsAt(flue.StoveXM), stove.Outline());

    // One reading a visit: at the fire asked for, else the one nearest to it.
    private static List<HistoryEntry> PastOf(IEnumerable<SoundReadingRow> rows, string level)
    {
        int Away(string other) => Math.Abs((int)Word.Find<FiringLevel>(other)!.Value - (int)(Word.Find<FiringLevel>(level) ?? FiringLevel.Normal));
        return [.. rows.GroupBy(r => r.VisitId).Select(visit => visit.MinBy(r => Away(r.Level))!)
            .Select(r => new HistoryEntry(r.DraftPa, r.ExpectedPa,
                DraftBaseline.VisitSigmaPa(JsonSerializer.Deserialize<Contribution[]>(r.Contributions, Json.Options)!)))];
    }
}
