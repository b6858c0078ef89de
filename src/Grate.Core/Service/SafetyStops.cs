namespace Grate.Core.Service;

/// <summary>A reason why no fire may be lit until it is cleared (handbook 11 section 1).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Sentence">What is said on every page and in the report.</param>
/// <param name="Parts">Parts at which it is offered; none means anywhere.</param>
public sealed record StopReason(string Code, string Sentence, params string[] Parts);

/// <summary>What a carbon monoxide reading in the room means.</summary>
public enum RoomCo
{
    /// <summary>Up to 9 ppm.</summary>
    Ordinary,

    /// <summary>Above 9 ppm: find out why.</summary>
    FindOutWhy,

    /// <summary>From 35 ppm: stop the test and air.</summary>
    StopAndAir,

    /// <summary>From 100 ppm: everybody out.</summary>
    EverybodyOut,
}

/// <summary>Stop conditions of handbook 11 and 07 section 3.</summary>
public static class SafetyStops
{
    /// <summary>Carbon monoxide in the room above this: find out why.</summary>
    public static readonly Limit CoFindOutWhy = Limit.Practice(9, "ppm", "more than an ordinary room holds");

    /// <summary>From this on: stop testing and air.</summary>
    public static readonly Limit CoStop = Limit.Practice(35, "ppm", "no further test at this level");

    /// <summary>From this on: everybody out.</summary>
    public static readonly Limit CoOut = Limit.Practice(100, "ppm", "headache and dizziness follow");

    /// <summary>A draft below this at any moment is a stop.</summary>
    public static readonly Limit ReversedDraft = Limit.Practice(0, "Pa", "smoke comes into the room");

    /// <summary>Every stop, in the handbook's order.</summary>
    public static IReadOnlyList<StopReason> All { get; } =
    [
        new("glaze", "Glaze in the flue: no fire until treated and looked at again.", "flue", "connector", Deposits),
        new("deposit", "Deposit of 6 mm or more: no fire until swept.", "flue", "connector", "cap", Deposits),
        new("brick-missing", "A brick is missing or steel is visible: no fire until replaced.", "bricks"),
        new("baffle", "The baffle is missing, displaced or burnt through: no fire.", "baffle"),
        new("glass", "The glass is cracked or broken: no fire.", "glass"),
        new("latch", "The door will not latch: no fire.", "latch", "door-rope"),
        new("flue-open", "A flue tile is broken, the liner open, or the connector rusted through or disjointed: no fire.", "flue", "connector", "seals"),
        new("chimney-fire", "Signs of a chimney fire: no fire until a level II look.", "flue", "cap", "connector"),
        new("scorching", "Clearance below the limit, with scorching: no fire.", "clearances", "hearth"),
        new("spillage", "Spillage, or draft below 0, that cannot be cured today: no fire.", HotTest, "draft", "spill"),
        new("room-co", "35 ppm or more of carbon monoxide in the room: no fire, air.", HotTest, "alarms"),
        new("no-co-alarm", "No CO alarm where coal is burnt or local code asks for it: no fire.", "alarms"),
        new("part-off", "A part is off and not refitted: no fire.", "refitted"),
        new("other", "Unsafe: no fire until cleared."),
    ];

    /// <summary>Part that stands for the hot test as a whole.</summary>
    public const string HotTest = "hot-test";

    /// <summary>Part that stands for the deposits recorded in the sweep.</summary>
    public const string Deposits = "deposits";

    /// <summary>Parts whose stop follows from numbers, with the station that holds these.</summary>
    public static IReadOnlyDictionary<string, string> Computed { get; } = new Dictionary<string, string> { [HotTest] = "hot test", [Deposits] = "sweep" };

    /// <summary>The reason of a code, or null.</summary>
    public static StopReason? Find(string? code) => All.FirstOrDefault(s => s.Code == code);

    /// <summary>Judges carbon monoxide in the room.</summary>
    /// <param name="ppm">Reading, ppm, 0..2000.</param>
    public static RoomCo Judge(double ppm) =>
        ppm >= CoOut.Value ? RoomCo.EverybodyOut
        : ppm >= CoStop.Value ? RoomCo.StopAndAir
        : ppm > CoFindOutWhy.Value ? RoomCo.FindOutWhy
        : RoomCo.Ordinary;
}
