using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>The top of the chimney as seen; every field may still be missing.</summary>
/// <param name="AboveRoofM">Height above the highest point where it passes the roof, measured, m; the drawing's otherwise.</param>
/// <param name="ScreenCloggedShare">Share of the screen that is clogged, 0..1.</param>
/// <param name="Exposed">Whether it stands badly to the wind: in the lee of a slope, a taller house, trees.</param>
public sealed record TopCheck(double? AboveRoofM = null, double? ScreenCloggedShare = null, bool? Exposed = null);

/// <summary>What follows for the top (handbook 01 section 9, 02 section 2).</summary>
/// <param name="Rules">The rules held against it; null where it ends under the roof.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Bad">Whether the top itself is suspect: too low, badly placed or clogged.</param>
public sealed record TopCheckAnswer(TerminationAnswer? Rules, IReadOnlyList<Sentence> Sentences, bool Bad) : IReckoned
{
    /// <summary>From this share on the screen wants cleaning.</summary>
    public static readonly Limit CloggedFrom = Limit.Practice(0.25, "", "a cap screen a quarter clogged: clean; also NFPA 211 guidance (from memory)");

    /// <summary>Worst case of the wind at a badly placed outlet inland.</summary>
    public static readonly Limit WindInland = Limit.Memory(-25, "Pa", "EN 13384-1: a badly placed outlet inland, worst case");

    private static readonly EntryRange _above = new("Height above the roof", Quantity.Length, -2, 20);
    private static readonly EntryRange _clogged = new("Share of the screen clogged", Quantity.Share, 0, 1);

    /// <summary>Judges the top.</summary>
    /// <param name="check">As seen.</param>
    /// <param name="layout">How the flue stands by its data.</param>
    /// <param name="errors">Takes refusals.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static TopCheckAnswer? To(TopCheck check, FlueLayout layout, EntryErrors errors, UnitSystem system)
    {
        errors.Check("aboveRoofM", check.AboveRoofM, _above);
        errors.Check("screenCloggedShare", check.ScreenCloggedShare, _clogged);
        if (errors.Any)
            return null;
        var length = Units.Of(Quantity.Length, system);
        var rules = check.AboveRoofM is { } measured ? layout.Top?.At(measured) : layout.Top;
        var words = new List<Sentence>();
        if (rules is null)
            words.Add(Say("By its data this flue ends below the roof: correct the drawing."));
        else if (layout.AsUsual && check.AboveRoofM is null)
        {
            words.Add(Say(["House, roof or flue are drawn as usually built, not measured: nothing is known of the height above the roof",
                .. rules.MissingM > 0 ? (Span[])[", which would be ", Computed(length.Format(rules.MissingM)), " too low"] : [], ". Measure it."]));
        }
        else if (rules.MissingM > 0)
        {
            words.Add(Say("The top is ", Computed(length.Format(rules.MissingM)), " too low: ",
                Computed(length.Format(rules.RequiredAbovePenetrationM)), $" above the roof where it passes are asked here{(layout.AsUsual ? ", the roof as usually built" : "")}. Wind falling off the roof reaches it."));
        }
        else
            words.Add(Say("The top stands free: ", Computed(length.Format(rules.RequiredAbovePenetrationM)), " above the roof are asked, and it has them."));
        foreach (var rule in (rules?.Rules ?? []).Where(r => !r.Ok && !r.OfHeightAboveRoof))
            words.Add(Say($"{(layout.AsUsual ? "As usually built, not measured: " : "")}{rule.Sentence(system)}"));
        var clogged = check.ScreenCloggedShare >= CloggedFrom.Value;
        if (check.ScreenCloggedShare is { } share)
            words.Add(Say("The screen is ", Measured(Units.Of(Quantity.Share, system).Format(share)), clogged ? " clogged: clean it now, a quarter is the limit." : " clogged: clean enough."));
        if (check.Exposed == true)
            words.Add(Say("It stands badly to the wind: at worst that takes ", Computed(Units.Of(Quantity.Draft, system).Format(-WindInland.Value)), " off the draft."));
        return new TopCheckAnswer(rules, words, clogged || check.Exposed == true || (rules?.MissingM > 0 && !(layout.AsUsual && check.AboveRoofM is null)));
    }
}
