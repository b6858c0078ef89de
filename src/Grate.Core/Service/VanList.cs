using Grate.Core.Deposits;
using Grate.Core.Flue;

namespace Grate.Core.Service;

/// <summary>What a stop needs from the van, from the flue itself (handbook 02 section 3, 10 section 1).</summary>
public static class VanList
{
    /// <summary>Lists brushes and rods; sizes in the shown units.</summary>
    public static IReadOnlyList<string> For(FlueSystem flue, UnitSystem system) => [.. SweepPlan.BrushesFor(flue, system), $"{SweepPlan.RodsFor(flue)} rods"];
}
