using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>How a way to explain a missing draft stands after the tests.</summary>
[JsonConverter(typeof(WordConverter<SuspectState>))]
public enum SuspectState
{
    /// <summary>Neither shown nor ruled out.</summary>
    Open,

    /// <summary>Shown by a test or a finding.</summary>
    Named,

    /// <summary>Ruled out by a test.</summary>
    RuledOut,
}

/// <summary>How one suspect stands, and why.</summary>
/// <param name="State">Open, named or ruled out.</param>
/// <param name="Why">The test that says so; empty while open.</param>
public sealed record Suspicion(SuspectState State, string Why)
{
    /// <summary>Nothing is known yet.</summary>
    public static readonly Suspicion Unknown = new(SuspectState.Open, "");
}

/// <summary>What the tests of a visit say together about blockage, leak and house (handbook 01 sections 6 and 8).</summary>
/// <param name="Blockage">Something narrows the way out.</param>
/// <param name="Leak">Room air comes in at the collar or above.</param>
/// <param name="House">The house pulls against the flue.</param>
/// <param name="Sentences">What follows, in words.</param>
public sealed record HotEvidence(Suspicion Blockage, Suspicion Leak, Suspicion House, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>This share of what is missing, won back by a window, names the house.</summary>
    public static readonly Limit WindowNames = Limit.Assumed(0.8, "", "most of what was missing came back");

    /// <summary>Less than this share rules the house out.</summary>
    public static readonly Limit WindowClears = Limit.Assumed(0.2, "", "next to nothing came back");

    private static readonly string[] _narrowing = ["flue", "cap"];
    private static readonly string[] _leaking = ["connector", "clean-out", "damper"];

    /// <summary>Weighs everything entered so far.</summary>
    /// <param name="test">The hot test.</param>
    /// <param name="answers">Its answered readings.</param>
    /// <param name="roomOffPa">Room against outdoors at the cold checks, all fans off, Pa.</param>
    /// <param name="roomOnPa">The same, all fans on, Pa.</param>
    /// <param name="topBad">Whether the top is suspect.</param>
    /// <param name="conditionOf">Condition of a part found today, or null.</param>
    /// <param name="system">Units of the sentences.</param>
    public static HotEvidence Of(HotTest test, IReadOnlyDictionary<FiringLevel, DraftAnswer> answers, double? roomOffPa, double? roomOnPa, bool topBad,
        Func<string, Condition?> conditionOf, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var said = new Said();
        var below = answers.Values.Any(a => a.Verdict == DraftVerdict.BelowExpected);
        var worst = new WorstCase(test.Fans?.RoomOffPa ?? roomOffPa, test.Fans?.RoomOnPa ?? roomOnPa, test.Fans?.DraftOffPa, test.Fans?.DraftOnPa);
        var house = OfHouse(test, answers, worst, draft);
        var byWindow = test.Window?.DraftPa is not null && house.Why.Length > 0;
        if (byWindow)
            said.Add(house.State == SuspectState.RuledOut ? Weight.RuledOut : Weight.Verdict, Say(house.Why));
        said.Take(worst.Words(system, byWindow && house.State == SuspectState.RuledOut));

        var blockage = Marked(_narrowing, conditionOf) ?? ByFires(answers, draft);
        var leak = Marked(_leaking, conditionOf)
            ?? (below && answers.Values.All(a => a.Restated is { HousePa: not null, LeakKgS: null })
                ? new Suspicion(SuspectState.RuledOut, "No leak of room air brings the draft down that far.") : Suspicion.Unknown);
        if (house.State == SuspectState.Named && byWindow)
        {
            const string cleared = "The window brought the draft back: nothing else is needed to explain it.";
            blockage = blockage.State == SuspectState.Open ? new Suspicion(SuspectState.RuledOut, cleared) : blockage;
            leak = leak.State == SuspectState.Open ? new Suspicion(SuspectState.RuledOut, cleared) : leak;
        }
        else if (below && house.State == SuspectState.RuledOut && blockage.State == SuspectState.Open && leak.State == SuspectState.Open)
            said.Add(Weight.Hint, Say("That leaves a blockage or a leak: look at cap, screen, bends and baffle top, then go round the joints with smoke."));
        foreach (var suspicion in new[] { blockage, leak }.Where(s => s.State != SuspectState.Open && below))
            said.Add(suspicion.State == SuspectState.Named ? Weight.Verdict : Weight.RuledOut, Say(suspicion.Why));
        AddWind(said, test, topBad, system);
        return new HotEvidence(blockage, leak, house, said.InOrder());
    }

    // The window test is held against a draft with the room at outdoor pressure; the fans test against what is missing.
    private static Suspicion OfHouse(HotTest test, IReadOnlyDictionary<FiringLevel, DraftAnswer> answers, WorstCase worst, Unit draft)
    {
        if (test.Window is { DraftPa: { } open } && Word.Find<FiringLevel>(test.Window.Level) is { } at
            && test.Readings.FirstOrDefault(r => r.Level == test.Window.Level)?.DraftPa is { } closed
            && answers.TryGetValue(at, out var answer) && answer.ResidualPa - answer.HousePa is { } missing)
        {
            var gain = open - closed;
            var noise = DraftBand.Reach * Math.Sqrt(2) * FlueLimits.GaugeSigmaPa(closed);
            if (gain <= Math.Max(noise, WindowClears.Value * missing))
                return new(SuspectState.RuledOut, $"The window changed next to nothing ({draft.Format(closed)}, open {draft.Format(open)}): it is not the house.");
            // A window that helps a draft of which nothing is missing names nobody, and clears nobody.
            if (missing <= noise)
                return new(SuspectState.Open, $"The window brought {draft.Format(gain)}, and nothing to speak of was missing: it names nobody.");
            if (gain >= WindowNames.Value * missing)
                return new(SuspectState.Named, $"It is the house: with the window open the draft went from {draft.Format(closed)} to {draft.Format(open)}.");
            return new(SuspectState.Open, $"The window brought back {draft.Format(gain)} of {draft.Format(missing)}: the house is a part of it, not all.");
        }
        if (!worst.Trouble)
            return Suspicion.Unknown;
        var lost = worst.DropPa!.Value;
        var gone = answers.Values.Where(a => a.Verdict == DraftVerdict.BelowExpected).Select(a => a.ResidualPa!.Value).DefaultIfEmpty(0).Max();
        return lost >= WindowNames.Value * gone
            ? new(SuspectState.Named, $"It is the house: with everything on, {draft.Format(lost)} are lost.")
            : new(SuspectState.Open, $"With everything on, {draft.Format(lost)} of the {draft.Format(gone)} that are missing are lost to the house: a part of it, not all.");
    }

    private static Suspicion? Marked(string[] parts, Func<string, Condition?> conditionOf) =>
        parts.FirstOrDefault(p => conditionOf(p) is Condition.Spent or Condition.Unsafe) is { } part
            ? new(SuspectState.Named, $"{char.ToUpperInvariant(part[0])}{part[1..].Replace('-', ' ')} was found {Word.Of(conditionOf(part)!.Value)}.") : null;

    // What a blockage takes grows with the velocity head; what the house takes does not grow with the fire.
    private static Suspicion ByFires(IReadOnlyDictionary<FiringLevel, DraftAnswer> answers, Unit draft)
    {
        if (answers.GetValueOrDefault(FiringLevel.High) is not { ResidualPa: { } atHigh } high)
            return Suspicion.Unknown;
        if (high.Verdict is DraftVerdict.AsExpected or DraftVerdict.AsExpectedTooStrong)
        {
            return new(SuspectState.RuledOut, $"At high fire it pulls as it should: nothing blocks more than about {100 * FlueLimits.BlindBelow(FiringLevel.High).Value:0} %.");
        }
        if ((answers.GetValueOrDefault(FiringLevel.Low) ?? answers.GetValueOrDefault(FiringLevel.Normal)) is not { ResidualPa: > 0 and var atLess } less || high.Verdict != DraftVerdict.BelowExpected)
            return Suspicion.Unknown;
        var grown = atHigh / atLess;
        // ρ w²/2 = ṁ w/(2 A): the section is the same.
        var headGrown = high.GasFlowKgS * high.CollarVelocityMS / (less.GasFlowKgS * less.CollarVelocityMS);
        return grown >= (1 + headGrown) / 2
            ? new(SuspectState.Named, $"What is missing grows with the fire, from {draft.Format(atLess)} to {draft.Format(atHigh)}, as behind a blockage.")
            : grown <= 1.3
                ? new(SuspectState.RuledOut, $"What is missing stays the same at a hotter fire ({draft.Format(atLess)}, {draft.Format(atHigh)}): a blockage would take more.")
                : Suspicion.Unknown;
    }

    private static void AddWind(Said said, HotTest test, bool topBad, UnitSystem system)
    {
        foreach (var run in test.Readings.Select(r => r.Run).OfType<Steadiness>())
            said.Add(run.Unsteady == true ? Weight.Verdict : Weight.Hint, run.Say(topBad, system));
    }
}
