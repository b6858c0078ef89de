using Grate.Core.Air;
using static Grate.Core.Sentence;

namespace Grate.Core.Door;

/// <summary>A closed-air test as made; every field may still be missing.</summary>
/// <param name="ClosesFully">Whether this stove's air closes fully; default by its kind: with air tubes it does not.</param>
/// <param name="CollapseS">Seconds from shutting the air until the flames are gone, 0..3600.</param>
/// <param name="ReviveS">Seconds from opening it until they are back, 0..3600.</param>
public sealed record ClosedAirTest(bool? ClosesFully = null, double? CollapseS = null, double? ReviveS = null)
{
    /// <summary>Refuses what cannot be.</summary>
    /// <param name="path">What stands before the fields' names.</param>
    /// <param name="errors">Takes the refusals.</param>
    internal void Check(string path, EntryErrors errors)
    {
        errors.Check($"{path}collapseS", CollapseS, DoorRanges.Collapse);
        errors.Check($"{path}reviveS", ReviveS, DoorRanges.Revive);
    }
}

/// <summary>What follows from a closed-air test (handbook 03 section 1).</summary>
/// <param name="ClosesFully">How it was judged.</param>
/// <param name="Result">The verdict.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record ClosedAirTestAnswer(bool ClosesFully, ClosedAirResult Result, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>Answers a test.</summary>
    /// <param name="test">As made.</param>
    /// <param name="at">What else is known.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="ClosedAirTest"/>.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static ClosedAirTestAnswer? To(ClosedAirTest test, VisitContext at, EntryErrors errors)
    {
        test.Check("", errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var tried = at.NewestText(AirFacts.ClosesFully);
        var closes = test.ClosesFully ?? (tried is null ? !at.Stove.Features.Contains("tubes") : tried == "yes");
        if (test.ClosesFully is null)
            assumed.Note("closesFully", closes, Mark.CommonPractice, tried is null ? "air tubes keep a fixed secondary air, which keeps slow blue flames" : "as the air controls were tried");
        var air = new ClosedAir(closes, test.CollapseS, test.ReviveS);
        var answer = new ClosedAirTestAnswer(closes, new(air.Verdict, air.LookAtIntake), [], assumed.Used);
        return answer with { Sentences = answer.Words(test, at) };
    }

    private IReadOnlyList<Sentence> Words(ClosedAirTest test, VisitContext at)
    {
        var said = new Said();
        var (gone, share) = (ClosesFully ? "gone" : "down to slow blue ones", Units.Of(Quantity.Share, at.Units));
        var limit = (ClosesFully ? ClosedAir.Passes : ClosedAir.Doubtful).Value;
        if (test.CollapseS is not { } collapse)
            said.Add(Weight.Verdict, Say($"With a steady flaming fire shut every air control: within {limit:0} s the flames should be {gone}; opened again, they should be back at once."));
        else
        {
            // The watch alone, without the intake: what the door lets through.
            said.Add(Weight.Verdict, new ClosedAir(ClosesFully, collapse, null).Verdict switch
            {
                ClosedAirVerdict.Pass => Say("With the air shut the flames were ", gone, " after ", Measured($"{collapse:0} s"), ": this fire can be turned down."),
                ClosedAirVerdict.Doubtful => Say("With the air shut the flames were ", gone, " only after ", Measured($"{collapse:0} s"), $", later than {limit:0} s: doubtful. Air comes in somewhere."),
                _ => Say("With the air shut it burns on: ", Measured($"{collapse:0} s"), $", where {limit:0} s would do. Air comes in past a seal: strips round door, ash door and lid."),
            });
        }
        if (Result.LookAtIntake)
            said.Add(Weight.Verdict, Say("Opened again, the flames took ", Measured($"{test.ReviveS:0} s"), $" to come back, more than {ClosedAir.Back.Value:0} s: look at the intake."));
        else if (test.ReviveS is { } revive)
            said.Add(Weight.Hint, Say("Opened again, the flames were back in ", Measured($"{revive:0} s"), "."));
        if (at.Number(DoorFacts.StripShare()) is { } strip && Result.Verdict is ClosedAirVerdict.Fail or ClosedAirVerdict.Doubtful)
        {
            said.Add(Weight.Hint, strip > 0 ? Say("The strips found ", Computed(share.Format(strip)), " of the door's round leaking.")
                : Say("The strips found this door tight: ash door, lid, a crack in the body, or a draft that is too strong."));
        }
        return said.InOrder();
    }
}
