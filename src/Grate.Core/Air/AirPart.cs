namespace Grate.Core.Air;

/// <summary>The stove's air: controls, duct, intake, damper.</summary>
public sealed class AirPart : IPart
{
    /// <inheritdoc/>
    public string Code => "air";

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("controls", "air controls", VisitSteps.ColdChecks),
        new("duct", "outside duct", VisitSteps.Air) { Feature = "duct" },
        new("intake", "air intake", VisitSteps.Air),
        new("damper", "plate damper", VisitSteps.Air),
    ];
}
