using Grate.Core;

namespace Grate.Server;

/// <summary>What a question's address says.</summary>
internal static class Asked
{
    /// <summary>The unit system of a query, metric by default.</summary>
    public static UnitSystem UnitsOf(string? units) => Word.Find<UnitSystem>(units) ?? UnitSystem.Metric;
}
