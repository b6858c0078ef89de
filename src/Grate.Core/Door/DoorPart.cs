namespace Grate.Core.Door;

/// <summary>The door with its rope, latch and glass.</summary>
public sealed class DoorPart : IPart
{
    private static readonly Limit _yearly = Limit.Practice(12, "months", "what wears is seen once a year");

    /// <inheritdoc/>
    public string Code => "door";

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("door-rope", "door rope", VisitSteps.ColdChecks, VisitSteps.BackTogether) { Again = _yearly },
        new("latch", "latch and hinges", VisitSteps.ColdChecks),
        new("glass", "glass", VisitSteps.ColdChecks) { Feature = "glass", Again = _yearly },
        new("ash-door", "ash door", VisitSteps.ColdChecks) { Feature = "grate", Again = _yearly },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new("glass", "The glass is cracked or broken: no fire.", "glass") { Retest = "New glass in place, no crack; the door closed and the strips held around it." },
        new("latch", "The door will not latch: no fire.", "latch", "door-rope") { Retest = "The door latches, and the strips hold beside latch and hinges." },
    ];
}
