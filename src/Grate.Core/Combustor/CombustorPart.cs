namespace Grate.Core.Combustor;

/// <summary>The catalytic combustor, and the probe that tells its temperature.</summary>
public sealed class CombustorPart : IPart
{
    /// <inheritdoc/>
    public string Code => "combustor";

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("probe", "flue probe", VisitSteps.OpenUp) { Feature = "probe" },
        new("combustor", "combustor", VisitSteps.OpenUp, VisitSteps.Inside)
        {
            Feature = "combustor",
            Again = Limit.Practice(12, "months", "what clogs is seen once a year"),
        },
    ];
}
