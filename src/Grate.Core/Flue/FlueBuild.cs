namespace Grate.Core.Flue;

/// <summary>Something to know about a flue that can be built but should not be, or is not as the rules want it.</summary>
/// <param name="Sentence">What it is, with numbers.</param>
/// <param name="Mark">Provenance of the rule.</param>
/// <param name="Segment">The segment it speaks of; null for the whole.</param>
public sealed record FlueRemark(string Sentence, Mark Mark, int? Segment = null);

/// <summary>What stands, and what should not (handbook 01 section 9, 06 section 6, 08).</summary>
public static class FlueBuild
{
    /// <summary>Longest horizontal run, as a share of the vertical height.</summary>
    public static readonly Limit LongestRun = Limit.Memory(0.75, "", "NFPA 211: a connector runs level for at most three quarters of the vertical height");

    /// <summary>Least rise of a level run, m per m.</summary>
    public static readonly Limit LeastRise = Limit.Memory(0.02, "m/m", "NFPA 211: at least 20 mm per m towards the chimney");

    /// <summary>Greatest step of size between two metal pieces.</summary>
    public static readonly Limit GreatestStep = Limit.Assumed(0.05, "m", "one increaser or reducer changes the bore by 50 mm at most");

    /// <summary>Two bores are the same within this.</summary>
    public static readonly Limit SameBore = Limit.Assumed(0.005, "m", "a pipe goes into a collar of its size");

    /// <summary>Most square bends.</summary>
    public static readonly Limit MostSquareBends = Limit.Practice(2, "", "two 45s are usually fine, no more than two 90s");

    /// <summary>Single-wall connector to anything combustible.</summary>
    public static readonly Limit BarePipeClearance = Limit.Memory(0.457, "m", "NFPA 211: 18 in from a single-wall connector to combustibles; a listed label wins");

    private static string? Join(Segment below, Segment above, Unit bore)
    {
        var (from, to) = (below.Section.NarrowestM, above.Section.NarrowestM);
        if (above.Construction.InMasonry)
        {
            return from > to + 0.005 && !below.Construction.InMasonry
                ? $"A pipe of {bore.Format(from)} does not go into a chimney of {bore.Format(to)}: the chimney must be at least as wide." : null;
        }
        if (below.Section.GetType() != above.Section.GetType())
            return "Round and rectangular pieces join only where a pipe enters masonry: put a transition piece between.";
        return Math.Abs(from - to) > GreatestStep.Value + 1e-9
            ? $"{bore.Format(from)} does not join {bore.Format(to)} in one step: a reducer or increaser changes the bore by {bore.Format(GreatestStep.Value)} at most." : null;
    }

    private static bool Turns(Segment segment) => segment.Fittings.Any(f => f.TurnDeg > 0);

    private static bool StandsOutside(LaidSegment segment, HouseOutline house)
    {
        var (across, height) = (segment.Path.Average(p => p.AcrossM), segment.Path.Average(p => p.HeightM));
        return across < 0 || across > house.WidthM || height > house.RoofAtM(across);
    }

    /// <summary>What to know about a flue that can stand.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="layout">How it stands.</param>
    /// <param name="house">The house around it.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <param name="answer">What it does at the fire and weather asked for; null where nobody asked.</param>
    /// <param name="collarM">Diameter of the stove's collar by its label, m; null where nobody read it.</param>
    public static IReadOnlyList<FlueRemark> Remarks(FlueSystem flue, FlueLayout layout, HouseOutline house, UnitSystem system, DraftAnswer? answer = null, double? collarM = null)
    {
        var (length, temperature) = (Units.Of(Quantity.Length, system), Units.Of(Quantity.Temperature, system));
        var remarks = new List<FlueRemark>();
        var bore = Units.Of(Quantity.Bore, system);
        if (collarM is { } collar && Math.Abs(flue.Segments[0].Section.NarrowestM - collar) > SameBore.Value)
            remarks.Add(new($"The collar is {bore.Format(collar)} by its label, the flue begins with {bore.Format(flue.Segments[0].Section.NarrowestM)}: it is drawn otherwise than it stands, or a reducer sits between.", SameBore.Mark, 0));
        // What stands there against the rules is recorded as it stands, and said.
        var run = flue.Segments.Sum(FlueLayout.AsideM);
        if (run > LongestRun.Value * flue.RiseM)
            remarks.Add(new($"It runs {length.Format(run)} aside for {length.Format(flue.RiseM)} of height: at most three quarters of the height, {length.Format(LongestRun.Value * flue.RiseM)} here.", LongestRun.Mark));
        for (var i = 1; i < flue.Segments.Count; i++)
        {
            if (Join(flue.Segments[i - 1], flue.Segments[i], bore) is { } fault)
                remarks.Add(new(fault, GreatestStep.Mark, i));
        }
        foreach (var (segment, i) in flue.Segments.Select((s, i) => (s, i)))
        {
            if (segment.RiseM < 0)
                remarks.Add(new($"{segment.Label} falls by {length.Format(-segment.RiseM)}: smoke and water stand in it. At least {length.Format(LeastRise.Value * segment.LengthM)} of rise are asked for its {length.Format(segment.LengthM)}.", LeastRise.Mark, i));
            // Below a bend that was entered the flue may already lean; a piece that leans without any is missing one.
            if (FlueLayout.AsideM(segment) > 0.1 && !Turns(segment) && (i == 0 || !Turns(flue.Segments[i - 1])))
                remarks.Add(new($"{segment.Label} goes {length.Format(FlueLayout.AsideM(segment))} aside and no elbow is entered: the bends take draft, enter them.", Mark.CommonPractice, i));
            if (FlueLayout.AsideM(segment) > 0.3 && segment.RiseM >= 0 && segment.RiseM < LeastRise.Value * segment.LengthM)
                remarks.Add(new($"{segment.Label} runs level: at least {length.Format(LeastRise.Value * segment.LengthM)} of rise are asked for its {length.Format(segment.LengthM)}.", LeastRise.Mark, i));
            if (segment.Place != SegmentPlace.Outdoor && StandsOutside(layout.Segments[i], house))
                remarks.Add(new($"{segment.Label} is entered as {(segment.Place == SegmentPlace.Attic ? "in the attic" : "indoors")} but stands in the open: it cools more than reckoned.", Mark.CommonPractice, i));
            if (!segment.Construction.BareSteel)
                continue;
            if (segment.Place != SegmentPlace.Indoor)
                remarks.Add(new($"{segment.Label}: single-wall pipe belongs in the room alone, not into an attic or outdoors.", BarePipeClearance.Mark, i));
            else if (layout.Segments[i].Path.Min(p => Math.Min(p.AcrossM, house.WidthM - p.AcrossM)) - layout.Segments[i].OuterM / 2 is var gap
                && gap > 0 && gap < BarePipeClearance.Value)
            {
                remarks.Add(new($"{segment.Label} passes {length.Format(gap)} from the wall: single-wall pipe wants {length.Format(BarePipeClearance.Value)} to anything combustible, a shielded wall less.", BarePipeClearance.Mark, i));
            }
        }
        var square = flue.Segments.Sum(s => s.Fittings.Count(f => f.TurnDeg >= 90));
        if (square > MostSquareBends.Value)
            remarks.Add(new($"{square} square bends: no more than two.", MostSquareBends.Mark));
        if (answer is not null && answer.ExitWallC < answer.DewPointC)
        {
            remarks.Add(new($"At its top the wall stands at {temperature.Format(answer.ExitWallC)}, below the dew point of {temperature.Format(answer.DewPointC)}: it stays wet there. "
                + "More insulation, or a hotter fire.", Mark.CommonPractice, flue.Segments.Count - 1));
        }
        if (layout.Top is null)
            remarks.Add(new("It ends below the roof: it has no top in the open.", TerminationAnswer.AboveRoof.Mark));
        foreach (var rule in (layout.Top?.Rules ?? []).Where(r => !r.Ok))
            remarks.Add(new(rule.Sentence(system), rule.Mark));
        return remarks;
    }
}
