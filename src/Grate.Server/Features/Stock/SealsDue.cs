using Grate.Core;
using Grate.Core.Door;
using Grate.Core.Stock;
using Grate.Server.Features.Visits;
using Grate.Store;

namespace Grate.Server.Features.Stock;

/// <summary>The seals that are due on visits, and whether something is cut for them.</summary>
public sealed class SealsDue(VisitRecords records, StockStore stock)
{
    /// <summary>By the visits' start.</summary>
    /// <param name="visitIds">Which visits.</param>
    /// <param name="units">Units of the sentences.</param>
    public async Task<IReadOnlyList<PlannedSeal>> OfAsync(Guid[] visitIds, UnitSystem units)
    {
        var cut = await stock.CutAsync(visitIds);
        return [.. from record in await records.ManyAsync(visitIds, units)
                   from need in SealNeed.Of(record.Context)
                   select PlannedSeal.Of(record.Visit.Id, record.Context.Day, record.Customer.Name, need, cut.Contains((record.Visit.Id, Word.Of(need.Seal.Place))))];
    }
}
