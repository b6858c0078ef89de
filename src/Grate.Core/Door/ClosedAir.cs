namespace Grate.Core.Door;

/// <summary>Verdict of the closed-air test.</summary>
[JsonConverter(typeof(WordConverter<ClosedAirVerdict>))]
public enum ClosedAirVerdict
{
    /// <summary>The air can be shut.</summary>
    Pass,

    /// <summary>It took long.</summary>
    Doubtful,

    /// <summary>The fire burns on.</summary>
    Fail,

    /// <summary>The flames do not come back: the intake.</summary>
    LookAtIntake,
}

/// <summary>The closed-air test with a steady fire (handbook 03 section 1).</summary>
/// <param name="ClosesFully">Whether this stove's air closes fully; a fixed least or secondary air keeps slow blue flames.</param>
/// <param name="CollapseS">Seconds until the flames are gone, or only slow blue ones are left; what did not happen: the seconds waited.</param>
/// <param name="ReviveS">Seconds until they are back once the air is opened.</param>
public sealed record ClosedAir(bool ClosesFully, double? CollapseS, double? ReviveS)
{
    /// <summary>Gone by then: the air can be shut.</summary>
    public static readonly Limit Passes = Air.AirControlsAnswer.Calm;

    /// <summary>Gone by then: doubtful.</summary>
    public static readonly Limit Doubtful = Limit.Assumed(240, "s", "twice as long as it should take");

    /// <summary>Not back by then: the intake.</summary>
    public static readonly Limit Back = Limit.Assumed(30, "s", "opening the air brings the flames straight back");

    /// <summary>Whether the intake is to be looked at.</summary>
    public bool LookAtIntake => ReviveS is { } revive && revive > Back.Value + Limit.Met;

    /// <summary>The verdict; null where the flames were not watched.</summary>
    public ClosedAirVerdict? Verdict => Collapse is ClosedAirVerdict.Fail ? ClosedAirVerdict.Fail : LookAtIntake ? ClosedAirVerdict.LookAtIntake : Collapse;

    private ClosedAirVerdict? Collapse => CollapseS is not { } s ? null
        : s <= (ClosesFully ? Passes : Doubtful).Value + Limit.Met ? ClosedAirVerdict.Pass
        : !ClosesFully || s <= Doubtful.Value + Limit.Met ? ClosedAirVerdict.Doubtful : ClosedAirVerdict.Fail;
}
