namespace Grate.Core.Clearances;

/// <summary>Distances to what burns, the hearth, and the alarms of the room.</summary>
public sealed class ClearancesPart : IPart
{
    private static readonly Condition[] _distances = [Condition.Sound, Condition.Wearing, Condition.Unsafe, Condition.NotSeen];

    /// <inheritdoc/>
    public string Code => "clearances";

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("alarms", "smoke and CO alarms", VisitSteps.Arrive),
        new("clearances", "clearances", VisitSteps.Arrive) { Words = _distances },
        new("hearth", "hearth", VisitSteps.Arrive),
    ];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new("scorching", "Clearance below the limit, with scorching: no fire.", "clearances", "hearth") { Retest = "The distance measured again, or the shield in place, and the surface below its limit at high fire." },
        new("no-co-alarm", "No CO alarm where coal is burnt or local code asks for it: no fire.", "alarms") { Retest = "The alarm is in place and its test button was heard." },
    ];
}
