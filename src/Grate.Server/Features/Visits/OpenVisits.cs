using Grate.Core;
using Grate.Core.Visits;
using Grate.Store;

namespace Grate.Server.Features.Visits;

/// <summary>Open visits follow what they rest on.</summary>
public sealed class OpenVisits(VisitRecords records, VisitStore visits, StationStore stations, Parts parts, TimeProvider clock)
{
    /// <summary>
    /// Concludes the stations of a stove's open visits again, in the order of the parts: a report never shows one flue and the numbers
    /// of another. Entries that no longer fit are kept, conclude nothing, and keep the visit from being signed.
    /// </summary>
    /// <param name="applianceId">The stove whose flue was changed.</param>
    /// <param name="units">Units of the sentences.</param>
    /// <param name="by">Who changed it.</param>
    public async Task ConcludeAgainAsync(Guid applianceId, UnitSystem units, Guid by)
    {
        foreach (var id in await visits.OpenAsync(applianceId))
        {
            var rows = (await stations.OfAsync([id]))[id].ToList();
            foreach (var (station, row) in parts.Stations.SelectMany(s => rows.Where(r => r.Station == s.Code).Select(r => (s, r))))
            {
                // Read anew for each: what the one before concluded is a fact for the next.
                if (await records.FindAsync(id, units) is not { } record)
                    break;
                var kept = station.Reckon(row.Entry, row.Schema, record.Context.Without(row.Step, row.Station), new EntryErrors(units));
                await stations.ConcludeAgainAsync(kept is null
                    ? row with { Answer = null, Sentences = "[]", Stops = "[]", BlocksSigning = $"{station.Name}: what was entered does not fit the flue as it stands now. Look at it again." }
                    : StationRow.Of(id, row.Step, station, kept, row.Version, row.SaveId, row.SavedAt, row.SavedBy), kept, by, clock.GetUtcNow());
            }
        }
    }
}
