using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>A panel of the firebox, unfolded.</summary>
[JsonConverter(typeof(WordConverter<PanelPlace>))]
public enum PanelPlace
{
    /// <summary>The floor.</summary>
    Floor,

    /// <summary>The back.</summary>
    Back,

    /// <summary>Left, seen from the door.</summary>
    Left,

    /// <summary>Right, seen from the door.</summary>
    Right,

    /// <summary>The front lip.</summary>
    [Said("Front lip")]
    Lip,

    /// <summary>The arch over the left side, its height taken along the curve.</summary>
    [Said("Left arch")]
    LeftArch,

    /// <summary>The arch over the right side, its height taken along the curve.</summary>
    [Said("Right arch")]
    RightArch,
}

/// <summary>State of a brick (handbook 04 section 1).</summary>
[JsonConverter(typeof(WordConverter<BrickState>))]
public enum BrickState
{
    /// <summary>Sound.</summary>
    Sound,

    /// <summary>A hairline.</summary>
    Hairline,

    /// <summary>Cracked through, in place.</summary>
    [Said("Cracked, in place")]
    Cracked,

    /// <summary>A crack stands open.</summary>
    [Said("Crack open")]
    Open,

    /// <summary>Loose, leaning or moved.</summary>
    [Said("Loose or moved")]
    Moved,

    /// <summary>Worn or spalled.</summary>
    Worn,

    /// <summary>Crumbling.</summary>
    Crumbling,

    /// <summary>Missing.</summary>
    Missing,

    /// <summary>Steel is visible.</summary>
    [Said("Steel visible")]
    SteelVisible,
}

/// <summary>Why a brick went: it comes back.</summary>
[JsonConverter(typeof(WordConverter<BrickCause>))]
public enum BrickCause
{
    /// <summary>Logs are thrown in.</summary>
    [Said("Logs thrown in")]
    LogsThrown,

    /// <summary>Years of heating and cooling.</summary>
    Years,

    /// <summary>Damp summers.</summary>
    [Said("Damp summers")]
    DampSummers,

    /// <summary>Overfired.</summary>
    Overfired,

    /// <summary>Fired wet after a repair.</summary>
    [Said("Fired wet after repair")]
    FiredWet,

    /// <summary>The poker.</summary>
    Poker,
}

/// <summary>A panel as measured; what is missing is as found before, else usual for the kind of stove.</summary>
/// <param name="WidthMm">Width, mm, 50..2000.</param>
/// <param name="HeightMm">Height, of the floor its depth, mm, 50..2000.</param>
/// <param name="ThicknessMm">Thickness of the bricks, mm, 10..150.</param>
/// <param name="Courses">Bricks in each course, from below: 1..12 each, 1..12 courses.</param>
public sealed record PanelEntry(double? WidthMm = null, double? HeightMm = null, double? ThicknessMm = null, IReadOnlyList<int>? Courses = null);

/// <summary>A brick as looked at.</summary>
/// <param name="State">Its state.</param>
/// <param name="CrackMm">How far a crack stands open, mm, 0..50.</param>
/// <param name="LostMm">How much is lost, mm, 0..150.</param>
/// <param name="Cause">Why.</param>
/// <param name="Renewed">Whether a new one was set today.</param>
public sealed record BrickMark([property: Words(typeof(BrickState))] string? State = null, double? CrackMm = null, double? LostMm = null, [property: Words(typeof(BrickCause))] string? Cause = null, bool Renewed = false);

/// <summary>The lining as looked at.</summary>
/// <param name="Panels">Panels by the words of their places; one of lip or arches that is named here is there.</param>
/// <param name="Bricks">Bricks by panel and number: "floor-3".</param>
/// <param name="Order">Bricks in the order they came out; those that are not named are numbered after them. Default as found before.</param>
public sealed record LiningCheck(IReadOnlyDictionary<string, PanelEntry?>? Panels = null, IReadOnlyDictionary<string, BrickMark?>? Bricks = null, IReadOnlyList<string>? Order = null);

/// <summary>A brick in its panel.</summary>
/// <param name="Code">Its word: "floor-3".</param>
/// <param name="Number">Its number on the drawing, over all panels: in the order they came out, where that is known.</param>
/// <param name="XMm">Left edge, mm.</param>
/// <param name="YMm">Lower edge, mm.</param>
/// <param name="WidthMm">Width, mm.</param>
/// <param name="HeightMm">Height, mm.</param>
/// <param name="State">Its state; null where nobody looked.</param>
/// <param name="Condition">Its word.</param>
/// <param name="RenewedOn">When it was set; null where that is not known.</param>
public sealed record LiningBrick(string Code, int Number, double XMm, double YMm, double WidthMm, double HeightMm, BrickState? State, Condition Condition, DateOnly? RenewedOn);

/// <summary>A panel, reckoned.</summary>
/// <param name="Place">Where.</param>
/// <param name="Name">Its name.</param>
/// <param name="WidthMm">Width, mm.</param>
/// <param name="HeightMm">Height, mm.</param>
/// <param name="ThicknessMm">Thickness, mm.</param>
/// <param name="Measured">Whether somebody measured it.</param>
/// <param name="Courses">Bricks in each course, from below.</param>
/// <param name="StoredKwh">Heat it holds, kWh.</param>
/// <param name="Bricks">Its bricks.</param>
public sealed record LiningPanel(PanelPlace Place, string Name, double WidthMm, double HeightMm, double ThicknessMm, bool Measured, IReadOnlyList<int> Courses, double StoredKwh, IReadOnlyList<LiningBrick> Bricks);

/// <summary>What follows for a lining (handbook 04 section 1).</summary>
/// <param name="Panels">Its panels.</param>
/// <param name="Renew">Bricks to renew.</param>
/// <param name="StoredKwh">Heat it holds, kWh.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record LiningCheckAnswer(IReadOnlyList<LiningPanel> Panels, IReadOnlyList<LiningBrick> Renew, double StoredKwh, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>A crack from which a brick is renewed.</summary>
    public static readonly Limit OpenCrack = Limit.Practice(3, "mm", "replace a crack open 3 mm or more");

    /// <summary>Share of the thickness that may be gone.</summary>
    public static readonly Limit LostShare = Limit.Practice(1 / 3.0, "", "replace where a third of the thickness is gone");

    /// <summary>A lining in use.</summary>
    public static readonly Limit HotC = Limit.Assumed(350, "°C", "a lining in steady use");

    private static readonly EntryRange
        _side = new("Width and height of the panel", Quantity.Bore, 50, 2000, 0.001),
        _thickness = new("Thickness of the bricks", Quantity.Bore, 10, 150, 0.001),
        _courses = new("Bricks in a course", Quantity.Count, 1, 12),
        _crack = new("Opening of the crack", Quantity.Thickness, 0, 50, 0.001),
        _lost = new("What is lost", Quantity.Thickness, 0, 150, 0.001);

    private const int MostCourses = 12, MostBricks = 720;

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by fields such as panels.floor.widthMm and bricks.floor-3.crackMm.</returns>
    public static LiningCheckAnswer? To(LiningCheck check, VisitContext at, EntryErrors errors)
    {
        var entered = check.Panels ?? new Dictionary<string, PanelEntry?>();
        foreach (var code in entered.Keys.Where(k => Word.Find<PanelPlace>(k) is null).Take(5))
            errors.Add($"panels.{code}", Word.OneOf("Panel", code, Word.All<PanelPlace>()));
        var panels = new List<LiningPanel>();
        // Every firebox has a floor and three walls; lip and arches only where somebody said so.
        foreach (var place in Enum.GetValues<PanelPlace>().Where(p => p < PanelPlace.Lip || entered.ContainsKey(Word.Of(p)) || at.NewestText(LiningFacts.Present(p)) is not null || at.NewestNumber(LiningFacts.WidthMm(p)) is not null))
        {
            if (Panel(place, entered.GetValueOrDefault(Word.Of(place)) ?? new(), check, at, errors) is not { } panel)
                continue;
            panels.Add(panel);
        }
        if (errors.Any)
            return null;
        var marks = check.Bricks ?? new Dictionary<string, BrickMark?>();
        var order = errors.Each("order", check.Order, MostBricks, "bricks").Select(o => o.Item).ToList();
        var known = panels.SelectMany(p => p.Bricks).Select(b => b.Code).ToHashSet();
        foreach (var (field, code) in marks.Keys.Where(c => !known.Contains(c)).Take(5).Select(c => ($"bricks.{c}", c)).Concat(order.Where(c => !known.Contains(c)).Take(5).Select(c => ("order", c))))
            errors.Add(field, $"There is no brick “{code[..Math.Min(code.Length, 40)]}” in this firebox.");
        if (errors.Any)
            return null;
        panels = Numbered(panels, check.Order is null ? LiningFacts.OrderOf(at.NewestText(LiningFacts.Order)) : order);
        List<LiningBrick> renew = [.. panels.SelectMany(p => p.Bricks).Where(b => b.Condition is Condition.Spent or Condition.Unsafe)];
        var answer = new LiningCheckAnswer(panels, renew, panels.Sum(p => p.StoredKwh), [], []);
        var decided = answer.Decide();
        return answer with { Parts = decided is null ? [] : [decided], Sentences = answer.Words(decided, marks, at.Units) };
    }

    // As they came out; those of which that is not known follow, panel by panel.
    private static List<LiningPanel> Numbered(List<LiningPanel> panels, IReadOnlyList<string> order)
    {
        string[] all = [.. panels.SelectMany(p => p.Bricks).Select(b => b.Code)];
        var numbers = order.Intersect(all).Concat(all).Distinct().Select((code, i) => (code, i)).ToDictionary(c => c.code, c => c.i + 1);
        return [.. panels.Select(p => p with { Bricks = [.. p.Bricks.Select(b => b with { Number = numbers[b.Code] })] })];
    }

    // What an earlier visit measured stands until it is measured again.
    private static LiningPanel? Panel(PanelPlace place, PanelEntry entry, LiningCheck check, VisitContext at, EntryErrors errors)
    {
        var field = $"panels.{Word.Of(place)}";
        errors.Check($"{field}.widthMm", entry.WidthMm, _side);
        errors.Check($"{field}.heightMm", entry.HeightMm, _side);
        errors.Check($"{field}.thicknessMm", entry.ThicknessMm, _thickness);
        foreach (var (count, i) in errors.Each($"{field}.courses", entry.Courses, MostCourses, "courses"))
            errors.Check($"{field}.courses[{i}]", count, _courses);
        if (entry.Courses is { Count: 0 })
            errors.Add($"{field}.courses", "A panel has at least one course.");
        if (errors.Any)
            return null;
        var (usualWidth, usualHeight) = Usual(place, at.Stove);
        var known = (Width: entry.WidthMm ?? at.NewestNumber(LiningFacts.WidthMm(place)), Height: entry.HeightMm ?? at.NewestNumber(LiningFacts.HeightMm(place)));
        var (width, height, thickness) = (known.Width ?? usualWidth, known.Height ?? usualHeight, entry.ThicknessMm ?? at.NewestNumber(LiningFacts.ThicknessMm(place)) ?? 32);
        var courses = entry.Courses ?? LiningFacts.CoursesOf(at.NewestText(LiningFacts.Courses(place))) ?? Courses(width, height);
        var bricks = new List<LiningBrick>();
        for (var course = 0; course < courses.Count; course++)
        {
            var (w, h) = (width / courses[course], height / courses.Count);
            for (var i = 0; i < courses[course]; i++)
            {
                var code = $"{Word.Of(place)}-{bricks.Count + 1}";
                var mark = check.Bricks?.GetValueOrDefault(code) ?? new();
                var state = Check(code, mark, errors);
                var renewed = mark.Renewed ? at.Day : at.History.Earlier.LastOrDefault(v => v.Text(LiningFacts.Renewed(code)) is not null)?.Day;
                bricks.Add(new(code, 0, i * w, course * h, w, h, state, mark.Renewed ? Condition.Sound : ConditionOf(state, mark, thickness), renewed));
            }
        }
        var mass = Lining.VolumeM3(width, height, thickness) * Lining.Density(SlabKind.Dense).Usual;
        return errors.Any ? null : new(place, Word.Said(place), width, height, thickness, known is { Width: not null, Height: not null }, courses, Lining.Heat(mass, HotC.Value, Flue.FlueLimits.Room.Value, Lining.SpecificHeat.Value).StoredKwh, bricks);
    }

    private static BrickState? Check(string code, BrickMark mark, EntryErrors errors)
    {
        errors.Check($"bricks.{code}.crackMm", mark.CrackMm, _crack);
        errors.Check($"bricks.{code}.lostMm", mark.LostMm, _lost);
        errors.CheckWord<BrickCause>($"bricks.{code}.cause", mark.Cause, "Cause");
        return mark.State is { } word ? errors.Need<BrickState>($"bricks.{code}.state", word, "State of the brick") : null;
    }

    // Inside of a firebox of its kind, until it is measured, mm.
    private static (double Width, double Height) Usual(PanelPlace place, Stove stove)
    {
        var width = Math.Round(1000 * ((stove.Measures?.WidthM ?? 0.60) - 0.12));
        var depth = Math.Round(1000 * ((stove.Measures?.DepthM ?? 0.52) - 0.14));
        return place switch { PanelPlace.Floor => (width, depth), PanelPlace.Back => (width, 300), PanelPlace.Lip => (width, 60), PanelPlace.LeftArch or PanelPlace.RightArch => (depth, 120), _ => (depth, 300) };
    }

    // As bricks of 229 × 114 mm lie, about.
    private static IReadOnlyList<int> Courses(double width, double height) => [.. Enumerable.Repeat((int)Math.Clamp(Math.Ceiling(width / 240), 1, 12), (int)Math.Clamp(Math.Ceiling(height / 120), 1, 12))];

    private static Condition ConditionOf(BrickState? state, BrickMark mark, double thicknessMm) => state switch
    {
        null => Condition.NotSeen,
        BrickState.Sound or BrickState.Hairline => Condition.Sound,
        BrickState.Cracked => Condition.Wearing,
        // A crack that stands open and was not measured is taken as wide open.
        BrickState.Open => mark.CrackMm < OpenCrack.Value - Limit.Met ? Condition.Wearing : Condition.Spent,
        BrickState.Worn => mark.LostMm >= LostShare.Value * thicknessMm - Limit.Met ? Condition.Spent : Condition.Wearing,
        BrickState.Missing or BrickState.SteelVisible => Condition.Unsafe,
        _ => Condition.Spent,
    };

    private static string List(IEnumerable<LiningBrick> bricks) => string.Join(", ", bricks.Select(b => b.Number).Order());

    private PartDecided? Decide()
    {
        var seen = Panels.SelectMany(p => p.Bricks).Where(b => b.Condition != Condition.NotSeen).ToList();
        if (seen.Count == 0)
            return null;
        var worst = seen.Max(b => b.Condition);
        List<LiningBrick> of = [.. seen.Where(b => b.Condition == worst)];
        var (one, numbers) = (of.Count == 1, List(of));
        return new("bricks", "bricks", worst, worst == Condition.Unsafe ? FireboxPart.BrickMissing : null, worst switch
        {
            Condition.Unsafe => Say($"Brick{(one ? "" : "s")} {numbers}: missing, or steel is visible. Steel warps there: no fire until replaced."),
            Condition.Spent => Say($"Brick{(one ? "" : "s")} {numbers}: renew {(one ? "it" : "them")}."),
            Condition.Wearing => Say($"Brick{(one ? "" : "s")} {numbers}: {(one ? "it stays" : "they stay")}, and {(one ? "is" : "are")} looked at again."),
            _ => Say(seen.Count == Panels.Sum(p => p.Bricks.Count) ? "Every brick is sound." : "The bricks that were looked at are sound."),
        });
    }

    private IReadOnlyList<Sentence> Words(PartDecided? decided, IReadOnlyDictionary<string, BrickMark?> marks, UnitSystem units)
    {
        var said = new Said();
        said.Add(decided?.Condition == Condition.Unsafe ? Weight.Stop : Weight.Verdict, decided?.Why ?? Say("Tap a brick and give it its state: hairlines and closed cracks stay, what is open, loose or thin is renewed."));
        var others = Renew.Where(b => b.Condition == Condition.Spent).ToList();
        if (decided?.Condition == Condition.Unsafe && others.Count > 0)
            said.Add(Weight.Verdict, Say($"To renew beside {(Renew.Count - others.Count == 1 ? "it" : "them")}: {List(others)}."));
        foreach (var cause in marks.Values.Select(m => Word.Find<BrickCause>(m?.Cause)).OfType<BrickCause>().Distinct())
        {
            said.Add(Weight.Hint, cause switch
            {
                BrickCause.LogsThrown => Say("Logs thrown in break bricks: agree gloves and placing with the household."),
                BrickCause.Overfired => Say("Overfiring breaks the new ones, too: look at the seals and the air first."),
                BrickCause.FiredWet => Say("After a repair small fires first, each hotter."),
                BrickCause.DampSummers => Say("A damp summer breaks bricks: close the flue's top, leave the door ajar."),
                BrickCause.Poker => Say("The poker broke it: riddle beside the bricks, not through them."),
                _ => Say("Years of heating and cooling: the others are of the same age."),
            });
        }
        said.Add(Weight.Hint, Say("The lining holds ", Computed(Units.Of(Quantity.Energy, units).Format(StoredKwh * 3.6e6)), $" when it is hot: that is why the box stays warm after the fire."));
        return said.InOrder();
    }
}
