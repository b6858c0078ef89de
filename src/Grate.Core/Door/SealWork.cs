namespace Grate.Core.Door;

/// <summary>The order of renewing a seal (handbook 03 section 5).</summary>
public static class SealWork
{
    /// <summary>It is out.</summary>
    public const string Off = "off";

    /// <summary>New rope lies in its channel.</summary>
    public const string Laid = "laid";

    /// <summary>It is back and shuts.</summary>
    public const string Refitted = "refitted";

    /// <summary>The old rope is out of its channel.</summary>
    public const string Bare = "bare";

    private const string DryLaid = "dry-laid", Cemented = "cemented", Trimmed = "trimmed";

    /// <summary>The tasks in order; cement is one where the channel asks for it.</summary>
    /// <param name="place">The seal.</param>
    /// <param name="cement">Cement under it.</param>
    public static IReadOnlyList<WorkTask> Order(SealPlace place, RopeCement? cement)
    {
        var swings = place is SealPlace.Door or SealPlace.AshDoor or SealPlace.Lid;
        List<WorkTask> order =
        [
            new(Off, swings ? "Off its hinges, on a soft bench; pins, washers and side noted" : "Out, on a soft bench; screws, clips and side noted", []),
            new(Bare, "Old rope and cement out, channel bare, dust out", [Off], "new rope does not hold on old cement"),
            new(DryLaid, "Laid dry and marked", [Bare]),
        ];
        if (cement is RopeCement.Needed or RopeCement.ThinBead)
            order.Add(new(Cemented, cement == RopeCement.Needed ? "Cement in the channel" : "A thin bead of cement", [DryLaid], cement == RopeCement.Needed ? "the channel alone does not hold this rope" : "the manual asks for it"));
        order.Add(new(Laid, swings ? "Pressed in, not pulled, from the middle of the hinge side; ends butted" : "Pressed in, not pulled; ends butted", [order[^1].Code], "stretched rope is thin rope"));
        order.Add(new(Trimmed, "Trimmed square", [Laid]));
        order.Add(new(Refitted, swings ? "Back on its hinges, and it latches" : "Back in place and fast", [Off], "no visit is finished with a part off"));
        return order;
    }
}
