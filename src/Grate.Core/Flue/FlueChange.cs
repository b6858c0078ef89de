namespace Grate.Core.Flue;

/// <summary>A change that could be made to a flue.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">In a few words.</param>
/// <param name="Flue">The flue after it.</param>
public sealed record FlueChange(string Code, string Name, FlueEntry Flue)
{
    /// <summary>Height added by "half a metre more".</summary>
    public static readonly Limit Taller = Limit.Assumed(0.5, "m", "a usual length of pipe");

    /// <summary>Every change that can be made to this flue: plate out, a bend fewer, taller, liner, insulation, open top.</summary>
    /// <param name="flue">The flue as it stands; a readable one.</param>
    /// <param name="system">Units of the names.</param>
    public static IReadOnlyList<FlueChange> For(FlueEntry flue, UnitSystem system)
    {
        var segments = flue.Segments ?? [];
        var changes = new List<FlueChange>();
        void Offer(string code, string name, Func<SegmentEntry, int, SegmentEntry> change)
        {
            var changed = segments.Select(change).ToList();
            if (!changed.SequenceEqual(segments))
                changes.Add(new FlueChange(code, name, flue with { Segments = changed }));
        }

        Offer("plate-out", "plate damper out", (s, _) => Without(s, f => Fitting.IsPlate(f.Code)));
        var bend = segments.ToList().FindIndex(s => s.Fittings?.Any(IsElbow) == true);
        Offer("bend-fewer", "one bend fewer", (s, i) => i != bend ? s : s with { Fittings = [.. WithoutOneElbow(s.Fittings!)] });
        var more = Units.Of(Quantity.Length, system).Format(Taller.Value);
        Offer("taller", $"{more} taller", (s, i) => i < segments.Count - 1 ? s : s with { RiseM = s.RiseM + Taller.Value, LengthM = s.LengthM + Taller.Value });
        Offer("lined", "insulated steel liner", (s, _) => Lined(s, segments[0]));
        Offer("insulated", "outdoor run insulated, 50 mm", (s, _) =>
            s.Surroundings == "outdoor" && s.Construction is "single-wall-steel" or "double-wall-air" or "insulated-25" && s.ResistanceM2KW is null
                ? s with { Construction = "insulated-50" } : s);
        if (flue.Cap == "cowl")
            changes.Add(new FlueChange("plain-cap", "plain cap for the cowl", flue with { Cap = "low-resistance" }));
        return changes;
    }

    private static bool IsElbow(FittingEntry fitting) => Fitting.Find(fitting.Code) is { TurnDeg: > 0 } found && found.Code.StartsWith("elbow", StringComparison.Ordinal);

    private static SegmentEntry Without(SegmentEntry segment, Predicate<FittingEntry> gone) =>
        segment.Fittings?.Any(f => gone(f)) == true ? segment with { Fittings = [.. segment.Fittings.Where(f => !gone(f))] } : segment;

    // The sharpest goes first.
    private static IEnumerable<FittingEntry> WithoutOneElbow(IReadOnlyList<FittingEntry> fittings)
    {
        var gone = fittings.Where(IsElbow).MaxBy(f => Fitting.Find(f.Code)!.TurnDeg);
        var skipped = false;
        return fittings.Where(f => skipped || !(skipped = ReferenceEquals(f, gone)));
    }

    private static SegmentEntry Lined(SegmentEntry segment, SegmentEntry connector) =>
        Construction.Find(segment.Construction) is { InMasonry: true } && segment.Construction != "steel-liner-insulated"
            ? segment with { Construction = "steel-liner-insulated", Shape = connector.Shape, ResistanceM2KW = null, RoughnessMm = null }
            : segment;
}

/// <summary>A flue before and after a change, under the same fire and weather.</summary>
/// <param name="Code">Word of the change.</param>
/// <param name="Name">In a few words.</param>
/// <param name="ExpectedPa">Expected draft after it, Pa.</param>
/// <param name="LowPa">5 % end of the band, Pa.</param>
/// <param name="HighPa">95 % end, Pa.</param>
/// <param name="ExitGasC">Gas at the outlet, °C.</param>
/// <param name="GainPa">Expected after less expected before, Pa.</param>
/// <param name="Flue">The flue after it.</param>
public sealed record WhatIf(string Code, string Name, double ExpectedPa, double LowPa, double HighPa, double ExitGasC, double GainPa, FlueEntry Flue)
{
    /// <summary>Every change that could be made to a question's flue, computed under its fire and weather.</summary>
    /// <param name="question">A question that was answered.</param>
    /// <param name="before">Its answer.</param>
    /// <param name="system">Units of the names.</param>
    public static IReadOnlyList<WhatIf> For(DraftEntry question, DraftAnswer before, UnitSystem system) =>
        DraftCase.Read(question, new EntryErrors(), new Assumptions()) is { } read
            ? [.. FlueChange.For(question.Flue!, system).Select(c => Of(c, before, read.Fire, read.Air)).OfType<WhatIf>()] : [];

    /// <summary>Computes a change.</summary>
    /// <param name="change">The change.</param>
    /// <param name="before">The answer for the flue as it stands.</param>
    /// <param name="fire">The fire.</param>
    /// <param name="air">Surroundings.</param>
    public static WhatIf? Of(FlueChange change, DraftAnswer before, Fire fire, Surroundings air)
    {
        if (FlueReading.Read(change.Flue, new EntryErrors(), new Assumptions()) is not { } flue)
            return null;
        var expected = DraftModel.Expect(flue, fire, air);
        var band = DraftBand.Around(expected.Pa, flue, fire, air);
        return new WhatIf(change.Code, change.Name, expected.Pa, band.LowPa, band.HighPa, expected.March.ExitGasC, expected.Pa - before.ExpectedPa, change.Flue);
    }
}
