namespace Grate.Core.Service;

/// <summary>A part that a step looks at.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="Feature">A feature of the stove it needs, or none.</param>
public sealed record StepPart(string Code, string Name, string? Feature = null);

/// <summary>One of the twelve steps of a visit in working order (handbook 10 section 1).</summary>
/// <param name="Number">1..12.</param>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on the thread.</param>
/// <param name="Guide">What is done here, in a line.</param>
/// <param name="Caution">What to beware of (handbook 11 section 2), or none.</param>
/// <param name="Parts">Parts to mark.</param>
public sealed record VisitStep(int Number, string Code, string Name, string Guide, string? Caution, params StepPart[] Parts);

/// <summary>The twelve steps.</summary>
public static class VisitSteps
{
    private static readonly StepPart
        _rope = new("door-rope", "door rope"),
        _bricks = new("bricks", "bricks", "bricks"),
        _baffle = new("baffle", "baffle", "baffle"),
        _combustor = new("combustor", "combustor", "combustor");

    /// <summary>The steps in working order.</summary>
    public static IReadOnlyList<VisitStep> All { get; } =
    [
        new(1, "booking", "Booking", "Who, where, which stove; complaint by phone; access: roof, ladder, dog, key; cold from when.", null),
        new(2, "load", "Load", "Brush and rods, rope and tape, cement, bricks, sheets, vacuum filter, gauge, moisture meter, ladder kit.", null),
        new(3, "arrive", "Arrive", "Fire out, alarms there, what the household says, fuel and moisture, a look round.",
            "The stove must be cold before it is opened; coals hide in ash for days.",
            new("alarms", "smoke and CO alarms"), new("clearances", "clearances"), new("hearth", "hearth"),
            new("connector", "connector"), new("fuel", "fuel and moisture")),
        new(4, "cold-checks", "Cold checks", "Air-fall, strips, latch, glass, controls, house pressure, before anything is disturbed.",
            "No open flame into a flue that shows tar.",
            _rope, new("latch", "latch and hinges"), new("glass", "glass", "glass"), new("controls", "air controls"),
            new("ash-door", "ash door", "grate")),
        new(5, "open-up", "Open up", "Flue probe out first; combustor and baffle out; count clips, screws and pins.",
            "Old rope, board and cement from before the 1990s may hold asbestos: wet, mask, bag.",
            new("probe", "flue probe"), _combustor, _baffle),
        new(6, "sweep", "Sweep", "Deposits per segment, sweep, cap, debris.",
            "Roof and ladder: weather, footing, harness. A camera from below is an answer.",
            new("flue", "flue"), new("connector", "connector"), new("cap", "cap and screen"), new("clean-out", "clean-out")),
        new(7, "inside", "Inside", "Bricks, baffle, tubes, combustor, seats and seals; renew what was agreed.", "Do not dry-brush fibre or soot: wet, mask, bag.",
            _bricks, _baffle, new("tubes", "air tubes", "tubes"), _combustor, new("seals", "seats and seals"),
            new("grate", "grate", "grate"), new("channels", "channels", "channels"), new("oven-path", "oven path", "oven")),
        new(8, "back-together", "Back together", "The list backwards; count clips in; strip test again.", null,
            new("refitted", "all parts refitted"), _rope),
        new(9, "air", "Air", "Outside duct, intake, dampers.", null,
            new("duct", "outside duct", "duct"), new("intake", "air intake"), new("damper", "plate damper")),
        new(10, "hot-test", "Hot test", "Preheat if needed; draft, spill, closed air, light-off, temperatures, CO.",
            "Opening a starved, smoking fire: crack it first, wait, then slowly.",
            new("draft", "draft"), new("spill", "smoke at the door")),
        new(11, "agree", "Say and agree", "Findings, what stops, what is due, prices.", null),
        new(12, "next", "Next", "Dates, parts to order, follow-up; report and household sheet.", null),
    ];

    /// <summary>The step of a code, or null.</summary>
    public static VisitStep? Find(string? code) => All.FirstOrDefault(s => s.Code == code);

    /// <summary>The name of a part, or null if no step knows it.</summary>
    public static string? PartName(string code) =>
        SafetyStops.Computed.ContainsKey(code) ? code.Replace('-', ' ') : All.SelectMany(s => s.Parts).FirstOrDefault(p => p.Code == code)?.Name;

    /// <summary>Parts of a step that this stove has.</summary>
    public static IEnumerable<StepPart> PartsFor(VisitStep step, IReadOnlyCollection<string> features) =>
        step.Parts.Where(p => p.Feature is null || features.Contains(p.Feature));
}

/// <summary>The seven stove patterns and what each has (handbook 04 section 4, 09 section 1).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Features">Parts and ways it has.</param>
public sealed record StoveKind(string Code, string Name, params string[] Features)
{
    /// <summary>All seven.</summary>
    public static IReadOnlyList<StoveKind> All { get; } =
    [
        new("steel", "steel stove", "pipe", "glass", "bricks", "baffle", "tubes"),
        new("top-loader", "top-loading stove", "pipe", "glass", "bricks", "baffle"),
        new("insert", "insert", "glass", "bricks", "baffle", "tubes", "blower"),
        new("zero-clearance", "zero-clearance fireplace", "glass", "bricks", "baffle", "tubes", "blower", "duct"),
        new("multi-fuel", "multi-fuel stove", "pipe", "glass", "bricks", "baffle", "grate"),
        new("masonry-heater", "masonry heater", "glass", "channels", "shutoff"),
        new("cookstove", "cookstove", "pipe", "bricks", "grate", "oven"),
    ];

    /// <summary>Features that a combustor brings; it takes the place of the air tubes.</summary>
    public static IReadOnlyList<string> WithCombustor { get; } = ["combustor", "bypass", "thermostat"];

    /// <summary>The kind of a code, or null.</summary>
    public static StoveKind? Find(string? code) => All.FirstOrDefault(k => k.Code == code);

    /// <summary>What a stove of this kind has.</summary>
    public IReadOnlyList<string> FeaturesOf(bool combustor) =>
        combustor ? [.. Features.Except(["tubes"]), .. WithCombustor] : Features;
}
