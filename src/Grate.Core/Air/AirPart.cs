namespace Grate.Core.Air;

/// <summary>The stove's air: controls, duct, intake, damper.</summary>
public sealed class AirPart : IPart
{
    /// <inheritdoc/>
    public string Code => "air";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new AirControlsStation(), new OutsideAirStation(), new DamperStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("controls", "air controls", VisitSteps.ColdChecks),
        new("duct", "outside duct", VisitSteps.Air) { Feature = "duct" },
        new("intake", "air intake", VisitSteps.Air),
        new("damper", "plate damper", VisitSteps.Air),
    ];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = [AirFacts.WantedMm];

    /// <inheritdoc/>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today)
    {
        if (history.NewestNumber(AirFacts.WantedMm) is { } wanted)
            yield return new(StockKind.Duct, 1, "outside duct", "the duct that is there is too small", wanted);
    }

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at)
    {
        if (at.NewestNumber(AirFacts.WantedMm) is { } wanted)
            yield return new($"duct of {Units.Of(Quantity.Bore, at.Units).Format(wanted / 1000)}, hood, screen", "the duct that is there is too small");
    }
}
