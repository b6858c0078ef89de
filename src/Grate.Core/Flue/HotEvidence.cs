using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>How a way to explain a missing draft stands after the tests.</summary>
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
    private static readonly string[] _bad = ["spent", "unsafe"];

    /// <summary>Weighs everything entered so far.</summary>
    /// <param name="test">The hot test.</param>
    /// <param name="answers">Its answered readings by level.</param>
    /// <param name="cold">What the cold checks measured in the house, or null.</param>
    /// <param name="top">The top of the chimney, or null.</param>
    /// <param name="conditionOf">Condition word of a part found today, or null.</param>
    /// <param name="system">Units of the sentences.</param>
    public static HotEvidence Of(HotTest test, IReadOnlyDictionary<string, DraftAnswer> answers, ColdChecks? cold, TopCheckAnswer? top,
        Func<string, string?> conditionOf, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var words = new List<Sentence>();
        var below = answers.Values.Any(a => a.Verdict == DraftVerdict.BelowExpected);
        var worst = new WorstCase(test.Fans?.RoomOffPa ?? cold?.RoomOffPa, test.Fans?.RoomOnPa ?? cold?.RoomOnPa, test.Fans?.DraftOffPa, test.Fans?.DraftOnPa);
        var house = OfHouse(test, answers, worst, draft);
        if (test.Window?.DraftPa is not null && house.Why.Length > 0)
            words.Add(Say(house.Why));
        words.AddRange(worst.Words(system));

        var blockage = Marked(_narrowing, conditionOf) ?? ByFires(answers, draft);
        var leak = Marked(_leaking, conditionOf)
            ?? (below && answers.Values.All(a => a.Restated is { HousePa: not null, LeakKgS: null })
                ? new Suspicion(SuspectState.RuledOut, "No leak of room air brings the draft down that far.") : Suspicion.Unknown);
        if (house.State == SuspectState.Named && test.Window?.DraftPa is not null)
        {
            const string cleared = "The window brought the draft back: nothing else is needed to explain it.";
            blockage = blockage.State == SuspectState.Open ? new Suspicion(SuspectState.RuledOut, cleared) : blockage;
            leak = leak.State == SuspectState.Open ? new Suspicion(SuspectState.RuledOut, cleared) : leak;
        }
        else if (below && house.State == SuspectState.RuledOut)
            words.Add(Say("That leaves a blockage or a leak: look at cap, screen, bends and baffle top, then go round the joints with smoke."));
        if (blockage.State != SuspectState.Open && below)
            words.Add(Say(blockage.Why));
        if (leak.State == SuspectState.Named && below)
            words.Add(Say(leak.Why));
        AddWind(words, test, top, system);
        return new HotEvidence(blockage, leak, house, words);
    }

    // The window test is held against a draft with the room at outdoor pressure; the fans test against what a stove bears.
    private static Suspicion OfHouse(HotTest test, IReadOnlyDictionary<string, DraftAnswer> answers, WorstCase worst, Unit draft)
    {
        if (test.Window is { DraftPa: { } open } && test.Readings.FirstOrDefault(r => r.Level == test.Window.Level)?.DraftPa is { } closed
            && answers.TryGetValue(test.Window.Level, out var answer) && answer.ResidualPa - answer.HousePa is { } missing)
        {
            var gain = open - closed;
            var noise = DraftBand.Reach * Math.Sqrt(2) * FlueLimits.GaugeSigmaPa(closed);
            if (gain <= Math.Max(noise, WindowClears.Value * missing))
                return new(SuspectState.RuledOut, $"The window changed next to nothing ({draft.Format(closed)}, open {draft.Format(open)}): it is not the house.");
            if (gain >= WindowNames.Value * missing)
                return new(SuspectState.Named, $"It is the house: with the window open the draft went from {draft.Format(closed)} to {draft.Format(open)}.");
            return new(SuspectState.Open, $"The window brought back {draft.Format(gain)} of {draft.Format(missing)}: the house is a part of it, not all.");
        }
        return worst.Trouble
            ? new(SuspectState.Named, $"It is the house: with everything on, {draft.Format(worst.DropPa!.Value)} are lost.")
            : Suspicion.Unknown;
    }

    private static Suspicion? Marked(string[] parts, Func<string, string?> conditionOf) =>
        parts.FirstOrDefault(p => _bad.Contains(conditionOf(p))) is { } part
            ? new(SuspectState.Named, $"{char.ToUpperInvariant(part[0])}{part[1..].Replace('-', ' ')} was found {conditionOf(part)}.") : null;

    // What a blockage takes grows with the velocity head; what the house takes does not grow with the fire.
    private static Suspicion ByFires(IReadOnlyDictionary<string, DraftAnswer> answers, Unit draft)
    {
        if (answers.GetValueOrDefault("high") is not { ResidualPa: { } atHigh } high)
            return Suspicion.Unknown;
        if (high.Verdict is DraftVerdict.AsExpected or DraftVerdict.AsExpectedTooStrong)
        {
            return new(SuspectState.RuledOut, $"At high fire it pulls as it should: nothing blocks more than about {100 * FlueLimits.BlindBelow(FiringLevel.High).Value:0} %.");
        }
        if ((answers.GetValueOrDefault("low") ?? answers.GetValueOrDefault("normal")) is not { ResidualPa: > 0 and var atLess } less || high.Verdict != DraftVerdict.BelowExpected)
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

    private static void AddWind(List<Sentence> words, HotTest test, TopCheckAnswer? top, UnitSystem system)
    {
        var (share, draft) = (Units.Of(Quantity.Share, system), Units.Of(Quantity.Draft, system));
        foreach (var run in test.Readings.Select(r => r.Run).OfType<Steadiness>())
        {
            words.Add(run.Unsteady
                ? Say("The draft is unsteady: it swings by ", Measured($"±{share.Format(run.SwingShare)}"), " within a minute, between ",
                    Measured(draft.Range(run.MinPa, run.MaxPa)), ". Gusts or blowback: ",
                    top?.Bad == true ? "the top stands badly, see there." : "look at the top, its height and what stands around.")
                : Say("The draft is steady: ", Measured($"±{share.Format(run.SwingShare)}"), " within a minute, between ", Measured(draft.Range(run.MinPa, run.MaxPa)), "."));
        }
    }
}
