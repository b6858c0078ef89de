using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Physics;
using static Grate.Core.Sentence;

namespace Grate.Core.Door;

/// <summary>A strip test as made at the door; every field may still be missing.</summary>
/// <param name="WidthM">Width of the door's seal, m, 0.05..2; default the last visit's, else 0.50.</param>
/// <param name="HeightM">Its height, m, 0.05..2; default the last visit's, else 0.36.</param>
/// <param name="Grades">Grades by the word of the point, 0 to 3: "latch-2".</param>
/// <param name="More">Points that were added between those.</param>
/// <param name="Rope">springy, flattened or hard; default what the look at the door said, springy once new rope is in.</param>
/// <param name="LatchAtEnd">Whether the latch cannot be drawn in further; default what the look at the door said, else false.</param>
public sealed record StripTest(
    double? WidthM = null, double? HeightM = null, IReadOnlyDictionary<string, double?>? Grades = null, IReadOnlyList<StripPointEntry>? More = null,
    [property: Words(typeof(RopeState))] string? Rope = null, bool? LatchAtEnd = null);

/// <summary>A place at the door where a strip is pulled.</summary>
/// <param name="Code">Its word: "latch-2".</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="Place">Side or corner.</param>
/// <param name="AtM">Way from the foot of the hinge side, up it, over the top, down the latch side and back, m.</param>
/// <param name="AcrossM">From the hinge side, m.</param>
/// <param name="UpM">From the bottom, m.</param>
/// <param name="Grade">Grade now; null where no strip was pulled yet.</param>
/// <param name="Other">Grade on the other map: of this visit's other test, else of the last visit.</param>
/// <param name="Owned">The way it owns, from half way to the strip pulled before it to half way to the next; none where no strip was pulled.</param>
public sealed record StripSpot(string Code, string Name, StripPlace Place, double AtM, double AcrossM, double UpM, int? Grade, int? Other, IReadOnlyList<DoorPoint> Owned);

/// <summary>A point at a door, seen from the front.</summary>
/// <param name="AcrossM">From the hinge side, m.</param>
/// <param name="UpM">From the bottom, m.</param>
public sealed record DoorPoint(double AcrossM, double UpM);

/// <summary>The map that this one is set against.</summary>
/// <param name="When">"Before the work", "After the work" or the day of the last visit that made one.</param>
/// <param name="LeakingShare">Its leaking share.</param>
public sealed record OtherMap(string When, double LeakingShare);

/// <summary>What follows from a strip test (handbook 03 sections 1 and 2).</summary>
/// <param name="WidthM">Width of the door, m.</param>
/// <param name="HeightM">Its height, m.</param>
/// <param name="PerimeterM">Way round it, m.</param>
/// <param name="Spots">Two a side, one beside the latch, every corner, and those that were added.</param>
/// <param name="Strip">The map reckoned; null before the first strip.</param>
/// <param name="Other">The map before or after; null where there is none.</param>
/// <param name="DraftPa">Draft that the leak is reckoned at, Pa.</param>
/// <param name="Rope">State of the rope that it was judged by.</param>
/// <param name="LatchAtEnd">Whether the latch was taken to be at its end.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record StripTestAnswer(double WidthM, double HeightM, double PerimeterM, IReadOnlyList<StripSpot> Spots, StripAnswer? Strip, OtherMap? Other, double DraftPa,
    RopeState Rope, bool LatchAtEnd, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    private const string Ordinary = "of ordinary size, until it is measured";

    /// <summary>Width and height of a door, ash door or lid nobody measured.</summary>
    /// <param name="place">Which.</param>
    public static (Limit Width, Limit Height) Usual(SealPlace place)
    {
        var (width, height) = place switch { SealPlace.AshDoor => (0.30, 0.12), SealPlace.Lid => (0.36, 0.24), _ => (0.50, 0.36) };
        return (Limit.Assumed(width, "m", Ordinary), Limit.Assumed(height, "m", Ordinary));
    }

    /// <summary>Most points that are added.</summary>
    public const int MostMore = 40;

    /// <summary>Answers a test.</summary>
    /// <param name="test">As made.</param>
    /// <param name="place">The door, the ash door or the loading lid.</param>
    /// <param name="at">What else is known.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="StripTest"/>.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static StripTestAnswer? To(StripTest test, SealPlace place, VisitContext at, EntryErrors errors)
    {
        errors.Check("widthM", test.WidthM, DoorRanges.Side);
        errors.Check("heightM", test.HeightM, DoorRanges.Side);
        var rope = test.Rope is { } word ? errors.Need<RopeState>("rope", word, "Rope")
            : at.Text(SealFacts.Fitted(place)) is null && Word.Find<RopeState>(at.Text(DoorFacts.Rope(place))) is { } seen ? seen : RopeState.Springy;
        var latchAtEnd = test.LatchAtEnd ?? at.Text(DoorFacts.LatchAtEnd(place)) == "yes";
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var (usualWidth, usualHeight) = Usual(place);
        var width = test.WidthM ?? at.NewestNumber(DoorFacts.WidthM(place)) ?? assumed.Or(null, "widthM", usualWidth);
        var height = test.HeightM ?? at.NewestNumber(DoorFacts.HeightM(place)) ?? assumed.Or(null, "heightM", usualHeight);
        var round = 2 * (width + height);
        var (other, gradeThen) = DoorFacts.OtherMap(at, place);
        var spots = ReadSpots(test, width, height, gradeThen, errors);
        if (errors.Any)
            return null;
        var draft = DoorFacts.Draft(at) ?? assumed.Or(null, "draftPa", FlueLimits.LeastDraft);
        var room = at.Number(FlueFacts.RoomC) ?? assumed.Or(null, "roomC", FlueLimits.Room);
        var density = DryAir.DensityKgM3(DryAir.StationPressurePa(at.House.AltitudeM), room);
        var points = spots.Where(s => s.Grade is not null).Select(s => new StripPoint(s.Place, s.AtM, s.Grade!.Value)).ToList();
        var strip = points.Count == 0 ? null
            : StripAnswer.Of(new StripMap(round, points), rope!.Value, latchAtEnd, draft, density, FireAir.KgH(StoveFires.Of(at.Stove, FuelFacts.Newest(at)), FiringLevel.Low, FuelFacts.Known(at).MoistureWet));
        var answer = new StripTestAnswer(width, height, round, spots, strip, other, draft, rope!.Value, latchAtEnd, [], assumed.Used);
        return answer with { Sentences = answer.Words(Word.Said(place).ToLowerInvariant(), at.Units) };
    }

    private static IReadOnlyList<StripSpot> ReadSpots(StripTest test, double width, double height, Func<string, int?> gradeThen, EntryErrors errors)
    {
        var grades = test.Grades ?? new Dictionary<string, double?>();
        var more = test.More ?? [];
        var wanted = Wanted(width, height).ToList();
        foreach (var code in grades.Keys.Where(k => wanted.All(w => w.Code != k)).Take(5))
            errors.Add($"grades.{code}", Word.OneOf("Point", code, wanted.Select(w => w.Code)));
        if (more.Count > MostMore)
            errors.Add("more", $"At most {MostMore} points are added; {more.Count} were sent.");
        int? Grade(string field, double? entered) => errors.Check(field, entered, DoorRanges.Grade) ? DoorRanges.WholeGrade(field, entered, errors) : null;
        StripSpot Spot(string code, string name, StripPlace place, double atM, int? grade)
        {
            var at = Where(atM, width, height);
            return new(code, name, place, atM, at.AcrossM, at.UpM, grade, gradeThen(code), []);
        }
        var spots = wanted.Select(w => Spot(w.Code, w.Name, w.Place, w.AtM, Grade($"grades.{w.Code}", grades.GetValueOrDefault(w.Code)))).ToList();
        var round = new EntryRange("Way along the door", Quantity.Length, 0, 2 * (width + height));
        foreach (var (entry, i) in more.Take(MostMore).Select((entry, i) => (entry, i)))
        {
            var place = errors.Need<StripPlace>($"more[{i}].place", entry?.Place, "Place");
            if (errors.Need($"more[{i}].atM", entry?.AtM, round) && place is { } known)
                spots.Add(Spot($"more-{i + 1}", $"{Word.Said(known).ToLowerInvariant()}, added", known, entry!.AtM!.Value, Grade($"more[{i}].grade", entry.Grade)));
        }
        spots = [.. spots.OrderBy(s => s.AtM)];
        var pulled = spots.Where(s => s.Grade is not null).ToList();
        return [.. spots.Select(s => pulled.IndexOf(s) is >= 0 and var i ? s with { Owned = Owned(pulled, i, width, height) } : s)];
    }

    // As the map reckons it: half of the way to each neighbour that was pulled, round the corners; a single one owns all.
    private static IReadOnlyList<DoorPoint> Owned(IReadOnlyList<StripSpot> pulled, int i, double width, double height)
    {
        var round = 2 * (width + height);
        double Onward(double m) => (m % round + round) % round;
        double Half(StripSpot from, StripSpot to) => pulled.Count == 1 ? round / 2 : Onward(to.AtM - from.AtM) / 2;
        var (first, last) = (pulled[i].AtM - Half(pulled[(i + pulled.Count - 1) % pulled.Count], pulled[i]), pulled[i].AtM + Half(pulled[i], pulled[(i + 1) % pulled.Count]));
        var corners = new[] { 0, height, height + width, 2 * height + width }.SelectMany(c => new[] { c - round, c, c + round }).Where(c => c > first && c < last).Order();
        return [.. corners.Prepend(first).Append(last).Select(m => Where(Onward(m), width, height))];
    }

    // From the foot of the hinge side up it, over the top, down the latch side, back along the bottom.
    private static IEnumerable<(string Code, string Name, StripPlace Place, double AtM)> Wanted(double width, double height)
    {
        yield return ("hinge-bottom", "bottom corner, hinge side", StripPlace.HingeBottom, 0);
        yield return ("hinge-1", "hinge side, lower hinge", StripPlace.Hinge, height * 0.2);
        yield return ("hinge-2", "hinge side, upper hinge", StripPlace.Hinge, height * 0.8);
        yield return ("hinge-top", "top corner, hinge side", StripPlace.HingeTop, height);
        yield return ("top-1", "top, towards the hinges", StripPlace.Top, height + width / 3);
        yield return ("top-2", "top, towards the latch", StripPlace.Top, height + width * 2 / 3);
        yield return ("latch-top", "top corner, latch side", StripPlace.LatchTop, height + width);
        yield return ("latch-1", "latch side, above the latch", StripPlace.Latch, height + width + height * 0.25);
        yield return ("latch-2", "latch side, beside the latch", StripPlace.Latch, height + width + height * 0.5);
        yield return ("latch-3", "latch side, below the latch", StripPlace.Latch, height + width + height * 0.75);
        yield return ("latch-bottom", "bottom corner, latch side", StripPlace.LatchBottom, height + width + height);
        yield return ("bottom-1", "bottom, towards the latch", StripPlace.Bottom, 2 * height + width * 4 / 3);
        yield return ("bottom-2", "bottom, towards the hinges", StripPlace.Bottom, 2 * height + width * 5 / 3);
    }

    private static DoorPoint Where(double atM, double width, double height) =>
        atM <= height ? new(0, atM)
        : atM <= height + width ? new(atM - height, height)
        : atM <= 2 * height + width ? new(width, 2 * height + width - atM)
        : new(2 * (width + height) - atM, 0);

    private IReadOnlyList<Sentence> Words(string door, UnitSystem system)
    {
        var said = new Said();
        var open = Spots.Where(s => s.Grade is null).ToList();
        if (Strip is not { } strip)
        {
            said.Add(Weight.Verdict, Say($"{Spots.Count} points round this {door}: close it on a strip of paper at each, and pull."));
            if (LatchAtEnd)
                said.Add(Weight.Hint, Say("The latch is at the end of its travel: where the strips are weak, only new rope cures it."));
            return said.InOrder();
        }
        var (share, draft, burn) = (Units.Of(Quantity.Share, system), Units.Of(Quantity.Draft, system), Units.Of(Quantity.BurnRate, system));
        var weak = Spots.Where(s => s.Grade <= 1).ToList();
        said.Add(Weight.Verdict, strip.Verdict switch
        {
            StripVerdict.Fail => Say("The strip falls out at ", Measured(Places(weak.Where(s => s.Grade == 0))), ": ", Computed(share.Format(strip.LeakingShare)), " of the round leaks."),
            StripVerdict.Doubtful => Say("The strip slides at ", Measured(Places(weak)), ": doubtful, ", Computed(share.Format(strip.LeakingShare)), " of the round."),
            _ => Say(open.Count == 0 ? $"Every strip drags or holds: the {door} is tight all round." : "Every strip so far drags or holds."),
        });
        if (strip.LeakAreaM2 > 0)
        {
            said.Add(Weight.Verdict, DraftPa <= 0 ? Say("With no draft nothing is drawn past the rope now; with one it will be.")
                : Say("Shut, at ", Measured(draft.Format(DraftPa)), $", this {door} still feeds ", Computed($"{burn.Format(strip.LeakKgH)}"), " of air. The fire at low burn lives on ",
                    Computed($"{burn.Format(strip.NeedKgH)}"), ": ", Computed(share.Format(strip.ShareOfNeed)), " of it never stops."));
        }
        foreach (var reading in strip.Readings)
            said.Add(Weight.Verdict, Meaning(reading, door, Rope, LatchAtEnd));
        if (weak.Count > 0 && strip.Readings.Count == 0)
            said.Add(Weight.Verdict, Say($"Weak at {Places(weak)} alone: look at the rope and its joint there."));
        if (Other is { } other)
        {
            said.Add(Weight.Hint, Say($"{other.When} ", Computed(share.Format(other.LeakingShare)), $" of the round leaked{(open.Count == 0 ? "" : ", as far as it was tested")}; here ",
                Computed(share.Format(strip.LeakingShare)), "."));
        }
        if (open.Count > 0)
            said.Add(Weight.Hint, Say($"No strip was pulled yet at {Places(open)}."));
        return said.InOrder();
    }

    private static Sentence Meaning(StripReading reading, string door, RopeState rope, bool latchAtEnd) => reading switch
    {
        StripReading.RenewRope when latchAtEnd => Say("The latch is at the end of its travel: new rope."),
        StripReading.RenewRope => Say($"The rope is {Word.Said(rope).ToLowerInvariant()} where it is weak: new rope, the latch alone will not cure it."),
        StripReading.DrawLatch => Say("Weak all round, and the rope still springy: draw the latch in half a turn, and test again. It costs two minutes."),
        StripReading.Hinge => Say("Weak along the hinge side: the hinge is worn, or wants a shim."),
        StripReading.LatchSide when latchAtEnd || rope != RopeState.Springy => Say("Weak along the latch side: look at latch and catch, too."),
        StripReading.LatchSide => Say("Weak along the latch side: draw the latch in half a turn, and test that side again."),
        _ => Say($"Weak at a corner, the top or the bottom: {door} or frame is warped, a straightedge tells; or it is the rope's joint."),
    };

    private static string Places(IEnumerable<StripSpot> spots)
    {
        var all = spots.Select(s => s.Name).ToList();
        return all.Count > 3 ? $"{all.Count} points" : string.Join("; ", all);
    }
}

/// <summary>Names of what is found out at the door, and by strips at ash door and lid, too.</summary>
public static class DoorFacts
{
    private static string Name(SealPlace place, string what) => $"{Word.Of(place)}.{what}";

    /// <summary>Width of its seal, m.</summary>
    public static string WidthM(SealPlace place = SealPlace.Door) => Name(place, "width-m");

    /// <summary>Height of its seal, m.</summary>
    public static string HeightM(SealPlace place = SealPlace.Door) => Name(place, "height-m");

    /// <summary>Leaking share of the strip test.</summary>
    public static string StripShare(SealPlace place = SealPlace.Door) => Name(place, "strip-share");

    /// <summary>Air past the rope, kg/h.</summary>
    public static string LeakKgH(SealPlace place = SealPlace.Door) => Name(place, "leak-kg-h");

    /// <summary>State of the rope.</summary>
    public static string Rope(SealPlace place = SealPlace.Door) => Name(place, "rope");

    /// <summary>Whether the latch is at its end.</summary>
    public static string LatchAtEnd(SealPlace place = SealPlace.Door) => Name(place, "latch-at-end");

    /// <summary>Play of the hinges.</summary>
    public const string HingePlay = "door.hinge-play";

    /// <summary>Whether the glass moves when it is pinched.</summary>
    public const string GlassMoves = "door.glass-moves";

    /// <summary>Whether one whole side of the glass is black.</summary>
    public const string GlassBlackSide = "door.glass-black-side";

    /// <summary>Verdict of the closed-air test.</summary>
    public const string ClosedAir = "door.closed-air";

    /// <summary>Seconds until the flames are gone with the air shut.</summary>
    public const string CollapseS = "door.collapse-s";

    /// <summary>Seconds until they are back.</summary>
    public const string ReviveS = "door.revive-s";

    private static readonly FiringLevel[] _levels = [FiringLevel.Low, FiringLevel.Normal, FiringLevel.High];

    /// <summary>Grade at a point.</summary>
    /// <param name="spot">Its word.</param>
    /// <param name="place">Where it was pulled.</param>
    public static string Grade(string spot, SealPlace place = SealPlace.Door) => Name(place, $"grade.{spot}");

    /// <summary>The draft as it was read in this visit, else at the last that read one: at the lowest fire there is a number of. Null where there is none.</summary>
    public static double? Draft(VisitContext at) =>
        _levels.Select(l => at.Number(FlueFacts.DraftPa(l))).Concat(_levels.Select(l => at.History.NewestNumber(FlueFacts.DraftPa(l)))).FirstOrDefault(d => d is not null);

    /// <summary>The map a test is set against: this visit's other one, else the newest earlier one; and the grades on it.</summary>
    public static (OtherMap? Map, Func<string, int?> Grade) OtherMap(VisitContext at, SealPlace place)
    {
        if (at.Facts.FirstOrDefault(f => f.Name == StripShare(place)) is { Value: { } share } now)
            return (new(now.Step == VisitSteps.BackTogether ? "After the work" : "Before the work", share), spot => (int?)at.Number(Grade(spot, place)));
        return at.History.Earlier.LastOrDefault(v => v.Number(StripShare(place)) is not null) is { } last
            ? (new($"On {last.Day:d MMMM yyyy}", last.Number(StripShare(place))!.Value), spot => (int?)last.Number(Grade(spot, place))) : (null, _ => null);
    }
}
