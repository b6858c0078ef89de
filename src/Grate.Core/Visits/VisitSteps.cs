namespace Grate.Core.Visits;

/// <summary>One of the twelve steps of a visit in working order (handbook 10 section 1).</summary>
/// <param name="Number">1..12.</param>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on the thread.</param>
/// <param name="Guide">What is done here, in a line.</param>
/// <param name="Caution">What to beware of (handbook 11 section 2), or none.</param>
public sealed record VisitStep(int Number, string Code, string Name, string Guide, string? Caution);

/// <summary>How far a step is.</summary>
[JsonConverter(typeof(WordConverter<StepStatus>))]
public enum StepStatus
{
    /// <summary>Not done yet.</summary>
    Open,

    /// <summary>Done.</summary>
    Done,

    /// <summary>Skipped, with a reason.</summary>
    Skipped,
}

/// <summary>The twelve steps. What is looked at and measured in them belongs to the parts.</summary>
public static class VisitSteps
{
    /// <summary>What is known before anybody drives out.</summary>
    public const string Booking = "booking";

    /// <summary>What goes into the van.</summary>
    public const string Load = "load";

    /// <summary>At the door.</summary>
    public const string Arrive = "arrive";

    /// <summary>Before anything is disturbed.</summary>
    public const string ColdChecks = "cold-checks";

    /// <summary>Taking apart.</summary>
    public const string OpenUp = "open-up";

    /// <summary>The flue.</summary>
    public const string Sweep = "sweep";

    /// <summary>The firebox.</summary>
    public const string Inside = "inside";

    /// <summary>Putting back.</summary>
    public const string BackTogether = "back-together";

    /// <summary>Ducts and dampers.</summary>
    public const string Air = "air";

    /// <summary>With a fire.</summary>
    public const string HotTest = "hot-test";

    /// <summary>With the household.</summary>
    public const string Agree = "agree";

    /// <summary>Dates and signature.</summary>
    public const string Next = "next";

    /// <summary>Steps that every visit has, whatever it is for.</summary>
    public static IReadOnlyList<string> Always { get; } = [Booking, Load, Arrive, Agree, Next];

    /// <summary>The steps in working order.</summary>
    public static IReadOnlyList<VisitStep> All { get; } =
    [
        new(1, Booking, "Booking", "Who, where, which stove; complaint by phone; access: roof, ladder, dog, key; cold from when.", null),
        new(2, Load, "Load", "Brush and rods, rope and tape, cement, bricks, sheets, vacuum filter, gauge, moisture meter, ladder kit.", null),
        new(3, Arrive, "Arrive", "Fire out, alarms there, what the household says, fuel and moisture, a look round.",
            "The stove must be cold before it is opened; coals hide in ash for days."),
        new(4, ColdChecks, "Cold checks", "Air-fall, strips, latch, glass, controls, house pressure, before anything is disturbed.",
            "No open flame into a flue that shows tar."),
        new(5, OpenUp, "Open up", "Flue probe out first; combustor and baffle out; count clips, screws and pins.",
            "Old rope, board and cement from before the 1990s may hold asbestos: wet, mask, bag."),
        new(6, Sweep, "Sweep", "Deposits per segment, sweep, cap, debris.", "Roof and ladder: weather, footing, harness. A camera from below is an answer."),
        new(7, Inside, "Inside", "Bricks, baffle, tubes, combustor, seats and seals; renew what was agreed.", "Do not dry-brush fibre or soot: wet, mask, bag."),
        new(8, BackTogether, "Back together", "The list backwards; count clips in; strip test again.", null),
        new(9, Air, "Air", "Outside duct, intake, dampers.", null),
        new(10, HotTest, "Hot test", "Preheat if needed; draft, spill, closed air, light-off, temperatures, CO.",
            "Opening a starved, smoking fire: crack it first, wait, then slowly."),
        new(11, Agree, "Say and agree", "Findings, what stops, what is due, prices.", null),
        new(12, Next, "Next", "Dates, parts to order, follow-up; report and household sheet.", null),
    ];

    /// <summary>The step of a code, or null.</summary>
    public static VisitStep? Find(string? code) => All.FirstOrDefault(s => s.Code == code);

    /// <summary>Its place in working order, 1..12; 0 for a word that is none.</summary>
    public static int NumberOf(string code) => Find(code)?.Number ?? 0;
}
