namespace Grate.Core.Clearances;

/// <summary>Distances to what burns, the hearth, and the alarms of the room.</summary>
public sealed class ClearancesPart : IPart
{
    private static readonly Condition[] _measured = [Condition.Sound, Condition.Spent, Condition.Unsafe, Condition.NotSeen];

    /// <inheritdoc/>
    public string Code => "clearances";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new RoomPlanStation(), new HearthStation(), new SurfacesStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("alarms", "smoke and CO alarms", VisitSteps.Arrive),
        new("clearances", "clearances", VisitSteps.Arrive) { Words = _measured, Wears = false },
        new("hearth", "hearth", VisitSteps.Arrive) { Words = _measured, Wears = false },
        new("surfaces", "surfaces near the stove", VisitSteps.HotTest) { Words = _measured, Wears = false },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new(RoomPlanStation.Scorching, "Clearance below the limit, with scorching: no fire.", "clearances", "hearth") { Retest = "The distance measured again, or the shield in place, and the surface below its limit at high fire." },
        new(SurfacesStation.TooHot, "A surface that burns gets far hotter than it may: no fire.", "surfaces", "clearances") { Retest = "More distance or a shield is in place, and the surface is below its limit at high fire." },
        new("no-co-alarm", "No CO alarm where coal is burnt or local code asks for it: no fire.", "alarms") { Retest = "The alarm is in place and its test button was heard." },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = [ClearanceFacts.ShortMm, ClearanceFacts.MissingR];

    /// <inheritdoc/>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today)
    {
        if (history.NewestNumber(ClearanceFacts.ShortMm) is > 0)
            yield return new(StockKind.Shield, 1, "heat shield", "a distance was short");
        if (history.NewestNumber(ClearanceFacts.MissingR) is > 0)
            yield return new(StockKind.HearthBoard, 1, "boards for the hearth", "the hearth lacked resistance");
    }

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at)
    {
        if (at.NewestNumber(ClearanceFacts.ShortMm) is > 0 and var missing)
            yield return new("sheet-metal shield, 25 mm spacers", $"a distance was short by {Units.Of(Quantity.Bore, at.Units).Format(missing / 1000)}");
        if (at.NewestNumber(ClearanceFacts.MissingR) is > 0)
            yield return new("boards for the hearth", "the hearth lacked resistance");
    }
}

/// <summary>Names of what is known of distances, hearth and surfaces.</summary>
public static class ClearanceFacts
{
    /// <summary>What the worst distance lacks, mm; 0 where all are enough.</summary>
    public const string ShortMm = "clearance.short-mm";

    /// <summary>What the hearth lacks, m² K/W.</summary>
    public const string MissingR = "hearth.missing-r";

    /// <summary>Largest share of its limit that a surface reaches at high fire.</summary>
    public const string SurfaceShare = "surface.share";
}
