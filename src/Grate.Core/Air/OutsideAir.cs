using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Physics;
using static Grate.Core.Sentence;

namespace Grate.Core.Air;

/// <summary>Where a run of the duct goes, from the stove on.</summary>
[JsonConverter(typeof(WordConverter<DuctWay>))]
public enum DuctWay
{
    /// <summary>To the left.</summary>
    Left,

    /// <summary>To the right.</summary>
    Right,

    /// <summary>Backwards, away from who looks.</summary>
    [Said("To the back")]
    Back,

    /// <summary>Up.</summary>
    Up,

    /// <summary>Down.</summary>
    Down,
}

/// <summary>What a run of the duct passes.</summary>
[JsonConverter(typeof(WordConverter<DuctThrough>))]
public enum DuctThrough
{
    /// <summary>The room.</summary>
    [Said("In the room")]
    Room,

    /// <summary>A wall.</summary>
    [Said("Through a wall")]
    Wall,

    /// <summary>A floor.</summary>
    [Said("Through a floor")]
    Floor,

    /// <summary>A crawl space or cellar.</summary>
    [Said("Crawl space")]
    CrawlSpace,

    /// <summary>Outdoors.</summary>
    Outdoors,
}

/// <summary>What is seen on duct and intake.</summary>
[JsonConverter(typeof(WordConverter<IntakeSign>))]
public enum IntakeSign
{
    /// <summary>Covered, or its screen shut.</summary>
    [Said("Covered or shut")]
    Blocked,

    /// <summary>Leaves or dirt before it.</summary>
    [Said("Leaves, dirt")]
    Leaves,

    /// <summary>Less than 300 mm above the usual snow.</summary>
    [Said("Snow can reach it")]
    Snow,

    /// <summary>In the lee of the prevailing wind.</summary>
    [Said("In the wind's lee")]
    Lee,

    /// <summary>Near a vent, an exhaust, fuel or a garage.</summary>
    [Said("Near exhaust, vent or fuel")]
    Exhaust,

    /// <summary>It ends in the fire chamber.</summary>
    [Said("Ends in the fire chamber")]
    FireChamber,

    /// <summary>Light hose that tears.</summary>
    [Said("Light hose near the stove")]
    LightHose,

    /// <summary>Its valve cannot be set from the room.</summary>
    [Said("Valve out of reach")]
    ValveOutOfReach,
}

/// <summary>A run of the duct.</summary>
/// <param name="Toward">Where it goes, from the stove on.</param>
/// <param name="LengthM">Length, m, 0.05..20.</param>
/// <param name="Through">What it passes; default the room.</param>
public sealed record DuctRun([property: Words(typeof(DuctWay))] string? Toward = null, double? LengthM = null, [property: Words(typeof(DuctThrough))] string? Through = null);

/// <summary>Outside air as found, or as it would be laid; no runs: the stove takes the room's air.</summary>
/// <param name="Runs">The duct from the stove to the intake, at most 12.</param>
/// <param name="Kind">smooth or flex; default smooth.</param>
/// <param name="DiameterMm">Size: 75, 100, 125 or 150; null: the smallest that fits.</param>
/// <param name="CollarMm">The stove's collar for it, mm.</param>
/// <param name="AirCollar">Whether the stove has a collar for it; default true.</param>
/// <param name="Bends45">Offsets of 45° within the runs.</param>
/// <param name="Hood">A hood over the intake; default true.</param>
/// <param name="Screen">What screens it; default a clean screen.</param>
/// <param name="InsulationMm">Insulation found, mm, 0..300.</param>
/// <param name="Humidity">Relative humidity of the room; default 50 %.</param>
/// <param name="CodeAsks">Whether code asks for outside air; default false.</param>
/// <param name="Signs">What is seen; an empty list is nothing.</param>
/// <param name="DesignC">Outdoors on a cold day at this place, °C; default −10.</param>
public sealed record OutsideAir(
    IReadOnlyList<DuctRun>? Runs = null, [property: Words(typeof(DuctKind))] string? Kind = null, double? DiameterMm = null, double? CollarMm = null, bool? AirCollar = null,
    int? Bends45 = null, bool? Hood = null, [property: Words(typeof(DuctScreen))] string? Screen = null, double? InsulationMm = null, double? Humidity = null, bool? CodeAsks = null,
    [property: Words(typeof(IntakeSign))] IReadOnlyList<string>? Signs = null, double? DesignC = null);

/// <summary>What the duct costs at a fire.</summary>
/// <param name="Level">The fire.</param>
/// <param name="AirKgH">Its air, kg/h.</param>
/// <param name="LossPa">Pressure it costs, Pa; null without a size.</param>
public sealed record DuctFire(FiringLevel Level, double AirKgH, double? LossPa);

/// <summary>One way to bring the air, with what speaks for and against it.</summary>
/// <param name="School">The way.</param>
/// <param name="Recommended">Whether it is recommended here.</param>
/// <param name="For">What speaks for it.</param>
/// <param name="Against">What speaks against it.</param>
public sealed record SchoolCase(AirSchool School, bool Recommended, string For, string Against);

/// <summary>What follows for the stove's air (handbook 06 sections 1 to 3).</summary>
/// <param name="Reckoned">Duct, insulation, heat, worst case.</param>
/// <param name="Fires">What the duct costs at each fire; empty without one.</param>
/// <param name="Path">The duct on the elevation, from the stove to the intake.</param>
/// <param name="Schools">The three ways.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record OutsideAirAnswer(AirDuctAnswer Reckoned, IReadOnlyList<DuctFire> Fires, IReadOnlyList<LaidPoint> Path, IReadOnlyList<SchoolCase> Schools,
    IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>What the duct may cost at high fire, Pa.</summary>
    public double MayCostPa { get; } = Duct.LimitPa.Value;

    private const int MostRuns = 12;
    // A run to the back is drawn as in a cabinet drawing: slanted, half its length.
    private const double Slant = 0.354, EntryAboveFloorM = 0.25, AboveSnowM = 0.3;

    private static readonly EntryRange
        _length = new("Length of the run", Quantity.Length, 0.05, 20),
        _insulation = new("Insulation found", Quantity.Bore, 0, 300, 0.001);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="OutsideAir"/>.</returns>
    public static OutsideAirAnswer? To(OutsideAir look, VisitContext at, EntryErrors errors)
    {
        var runs = Read(look.Runs, errors);
        var signs = errors.Words<IntakeSign>("signs", look.Signs, "What is seen on duct and intake");
        errors.Check("insulationMm", look.InsulationMm, _insulation);
        AirDuctAnswer.CheckMake("", look.Kind, look.Bends45, look.Screen, look.CollarMm, look.DiameterMm, errors);
        if (errors.Any)
            return null;
        var wood = FuelFacts.Known(at);
        var fires = StoveFires.Of(at.Stove, FuelFacts.Newest(at));
        double AirOf(FiringLevel level) => FireAir.KgH(fires, level, wood.MoistureWet);
        var rise = runs.Sum(r => r.Way == DuctWay.Up ? r.LengthM : r.Way == DuctWay.Down ? -r.LengthM : 0);
        var bends = runs.Zip(runs.Skip(1)).Count(pair => pair.First.Way != pair.Second.Way);
        var outdoorC = at.NewestNumber(FlueFacts.OutdoorC);
        var laid = runs.Count == 0 ? null
            : new DuctEntry(look.Kind, runs.Sum(r => r.LengthM), bends, look.Bends45, look.Hood, look.Screen, true, null, rise, look.CollarMm, look.DiameterMm);
        var refused = new EntryErrors(at.Units);
        var reckoned = AirDuctAnswer.To(new(at.Number(FlueFacts.RoomC), look.Humidity, look.DesignC, AltitudeM: at.House.AltitudeM,
            Fire: new FireEntry(BurnKgH: fires.HighKgH, MoistureWet: wood.MoistureWet),
            Duct: laid,
            Heat: new(outdoorC, fires.NormalKgH, wood.MoistureWet, WoodKgPerYear: wood.KgPerYear, MonthlyMeanC: at.House.MonthlyC),
            WorstCasePa: WorstPa(at, AirOf(FiringLevel.High)), CodeAsks: look.CodeAsks, AirCollar: look.AirCollar), refused);
        errors.TakeOver(refused, field => field == "duct.lengthM" ? "runs" : field == "outdoorDesignC" ? "designC" : field.StartsWith("duct.", StringComparison.Ordinal) ? field[5..] : field);
        if (reckoned is null)
            return null;
        var duct = laid is null ? null : AirDuctAnswer.Laid(laid, new Assumptions());
        var losses = Enum.GetValues<FiringLevel>().Select(level => new DuctFire(level, AirOf(level), reckoned.Duct?.Chosen is { } size
            ? duct!.At(size.DiameterMm, AirOf(level), look.DesignC ?? AirDuctAnswer.OutdoorDesign.Value, DryAir.StationPressurePa(at.House.AltitudeM)).LossPa : null));
        var answer = new OutsideAirAnswer(reckoned, duct is null ? [] : [.. losses], PathOf(runs, at), Cases(reckoned.School), [], []);
        var said = answer.Words(look, signs, runs, rise, at);
        return answer with { Parts = Decide(look, signs, reckoned, at), Sentences = said };
    }

    /// <summary>
    /// The room less outdoors by the fans alone with the stove at high fire, Pa: as measured at the cold checks, else by the house's
    /// leakage and its fans; null where nobody knows. The stove's own air is added by the leakage, where the house's volume is known.
    /// </summary>
    internal static double? WorstPa(VisitContext at, double stoveAirKgH)
    {
        var stoveM3S = stoveAirKgH / 3600 / DryAir.DensityKgM3(DryAir.StationPressurePa(at.House.AltitudeM), AirDuctAnswer.Room.Value);
        var leakage = at.House.VolumeM3 is { } volume ? HouseLeakage.Of(volume, HouseLeakage.Ach50(at.House.Ach50, at.House.BuiltEra, "ach50", new Assumptions())) : null;
        // Both of one visit: the house was another, and the weather, at the one before.
        double? Together(string one, string other, Func<double, double, double> how)
        {
            double? Of(Func<string, double?> number) => number(one) is { } a && number(other) is { } b ? how(a, b) : null;
            return Of(at.Number) ?? at.History.Earlier.Reverse().Select(v => Of(v.Number)).FirstOrDefault(d => d is not null);
        }
        if (Together(FlueFacts.RoomOffPa, FlueFacts.RoomOnPa, (off, on) => off - on) is { } drop)
            return leakage is null ? -drop : leakage.FansPa(leakage.FlowM3S(drop) + stoveM3S);
        return leakage is not null && at.NewestNumber(FlueFacts.ExhaustM3S) is { } exhaust
            ? leakage.FansPa(exhaust - (at.NewestNumber(FlueFacts.SupplyM3S) ?? 0) + stoveM3S) : null;
    }

    private sealed record Run(DuctWay Way, double LengthM, DuctThrough Through);

    private static List<Run> Read(IReadOnlyList<DuctRun>? entered, EntryErrors errors)
    {
        var runs = new List<Run>();
        foreach (var (run, i) in errors.Each("runs", entered, MostRuns, "runs"))
        {
            var way = errors.Need<DuctWay>($"runs[{i}].toward", run.Toward, "Where the run goes");
            var through = run.Through is null ? DuctThrough.Room : errors.Need<DuctThrough>($"runs[{i}].through", run.Through, "What the run passes");
            if (errors.Need($"runs[{i}].lengthM", run.LengthM, _length) && way is { } to && through is { } passes)
                runs.Add(new(to, run.LengthM!.Value, passes));
        }
        for (var i = 1; i < runs.Count; i++)
        {
            if ((runs[i - 1].Way, runs[i].Way) is (DuctWay.Left, DuctWay.Right) or (DuctWay.Right, DuctWay.Left) or (DuctWay.Up, DuctWay.Down) or (DuctWay.Down, DuctWay.Up))
                errors.Add($"runs[{i}].toward", "A duct cannot run straight back into itself: put a run between.");
        }
        return runs;
    }

    private static LaidPoint[] PathOf(List<Run> runs, VisitContext at)
    {
        var stove = new LaidPoint(at.Flue.StoveXM, at.Stove.FloorM(at.House) + (at.Stove.Measures?.LegM ?? EntryAboveFloorM));
        var path = new List<LaidPoint> { stove };
        foreach (var run in runs)
        {
            var (x, y) = run.Way switch { DuctWay.Left => (-1, 0), DuctWay.Right => (1, 0), DuctWay.Up => (0, 1), DuctWay.Down => (0, -1), _ => (Slant, Slant) };
            path.Add(new(path[^1].AcrossM + x * run.LengthM, path[^1].HeightM + y * run.LengthM));
        }
        return runs.Count == 0 ? [] : [.. path];
    }

    private static SchoolCase[] Cases(AirSchool? school) =>
    [
        new(AirSchool.None, school == AirSchool.None, "Nothing to build, nothing that clogs or drips.", "The air comes through every crack: a cold draught towards the stove, and every fan pulls against the fire."),
        new(AirSchool.Direct, school == AirSchool.Direct, "The fire has its own air: fans and doors disturb it less, less smoke at the door.", "A hole in the wall, insulation, a screen to keep clear; one that rises outside can turn into a chimney."),
        new(AirSchool.Near, school == AirSchool.Near, "Air where the stove has no collar for it; the fans draw on it too.", "The fire still feels the room's pressure, and the place is cold when the stove is out."),
    ];

    private static PartDecided[] Decide(OutsideAir look, IReadOnlyList<IntakeSign> signs, AirDuctAnswer reckoned, VisitContext at)
    {
        if (look.Signs is null && reckoned.Duct is null)
            return [];
        var part = at.Stove.Features.Contains("duct") && reckoned.Duct is not null ? ("duct", "outside duct") : ("intake", "air intake");
        var bad = signs.Where(s => s is IntakeSign.Blocked or IntakeSign.Exhaust or IntakeSign.FireChamber or IntakeSign.LightHose).ToList();
        var (condition, why) = bad.Count > 0 ? (Condition.Spent, Say($"{Word.Said(bad[0])}: to be put right."))
            : reckoned.Duct?.Chosen is { Fits: false } ? (Condition.Wearing, Say("Too small for this stove's high fire."))
            : signs.Count > 0 ? (Condition.Wearing, Say($"{Word.Said(signs[0])}: to be watched, or moved."))
            : (Condition.Sound, Say("Free, and large enough."));
        return [new(part.Item1, part.Item2, condition, null, why)];
    }

    private IReadOnlyList<Sentence> Words(OutsideAir look, IReadOnlyList<IntakeSign> signs, List<Run> runs, double riseM, VisitContext at)
    {
        var said = new Said();
        var (draft, bore, length, burn, share) = (Units.Of(Quantity.Draft, at.Units), Units.Of(Quantity.Bore, at.Units), Units.Of(Quantity.Length, at.Units), Units.Of(Quantity.BurnRate, at.Units), Units.Of(Quantity.Share, at.Units));
        said.Add(Weight.Verdict, School(draft));
        if (Reckoned.Duct is { } duct)
        {
            AddDuct(said, duct, draft, bore, length);
            if (Reckoned.ReverseDraftPa is > 0 and var reverse)
                said.Add(Weight.Verdict, Say("It rises ", Measured(length.Format(riseM)), " on the way out: full of room air on a cold day it pulls ", Computed(draft.Format(reverse)), " the wrong way. Bring the intake down to the firebox or lower."));
            if (Reckoned.Insulation is { } insulation)
                AddInsulation(said, insulation, look.InsulationMm, bore, at);
            if (runs.Exists(r => r.Through is DuctThrough.Wall or DuctThrough.Floor))
                said.Add(Weight.Hint, Say("Before the hole: studs, joists, wires; the height of the sill."));
            if (runs[^1].Through is DuctThrough.CrawlSpace)
                said.Add(Weight.Verdict, Say("It ends in the crawl space: the air there is the house's. Lead it on to the outdoors."));
        }
        if (Path.Count > 0 && Path[^1].HeightM < at.House.Outline().GroundM)
            said.Add(Weight.Verdict, Say($"As drawn its intake lies under the ground: end it {bore.Format(AboveSnowM)} above the usual snow."));
        foreach (var sign in signs)
            said.Add(Weight.Verdict, Of(sign, bore));
        said.Add(Weight.Hint, Say(["At high fire this stove takes ", Computed(burn.Format(Reckoned.AirKgH)), " of air; ", .. Heat(at), " Cold air makes no fire hotter by itself: better control, less draught and less smoke at the door are what is gained."]));
        return said.InOrder();
    }

    private Sentence School(Unit draft)
    {
        Span[] fans = Reckoned.WorstCase is { } worst
            ? ["with the fans on and the stove at high fire the room stands at ", Computed(draft.Format(worst.FanPa)), worst.Within ? ", within the " : ", beyond the ", draft.Format(worst.LimitPa), " an ordinary stove bears"]
            : ["code asks for it"];
        return Reckoned.School switch
        {
            AirSchool.None => Say(["From the room: ", .. fans, ", and no code asks for a duct."]),
            AirSchool.Direct => Say(["A duct to the stove: ", .. fans, "."]),
            AirSchool.Near => Say(["A vent that ends near the stove, which has no collar for a duct: ", .. fans, "."]),
            _ => Say("Whether this stove needs its own air is not known yet: fans and room pressure belong to the cold checks."),
        };
    }

    private static void AddDuct(Said said, DuctAnswer duct, Unit draft, Unit bore, Unit length)
    {
        var limit = draft.Format(Duct.LimitPa.Value);
        said.Add(Weight.Verdict, duct.Chosen is not { } chosen ? Say("No size up to ", bore.Format(Duct.SizesMm[^1] / 1000), $" keeps the {limit} that a duct may cost: a shorter run, fewer bends.")
            : chosen.Fits ? Say("A duct of ", Measured(bore.Format(chosen.DiameterMm / 1000)), " costs ", Computed(draft.Format(chosen.LossPa)), $" at high fire, within the {limit} it may.")
            : Say(["The duct of ", Measured(bore.Format(chosen.DiameterMm / 1000)), " costs ", Computed(draft.Format(chosen.LossPa)), " at high fire",
                .. (Span[])(chosen.LossPa > Duct.LimitPa.Value ? [$", more than the {limit} it may"] : [", but is smaller than the stove's collar"]),
                .. (Span[])(duct.SmallestMm is { } wanted ? ["; ", Computed(bore.Format(wanted / 1000)), " is the smallest that will do."] : ["; no size up to ", bore.Format(Duct.SizesMm[^1] / 1000), " will do: a shorter run, fewer bends."])]));
        if (duct.SmallestMm is { } smallest && smallest != duct.PracticeMm)
            said.Add(Weight.Hint, Say("The rule of practice would take ", bore.Format(duct.PracticeMm / 1000), " for ", Computed(length.Format(duct.EquivalentLengthM)), " of equivalent length; the pressure says ", Computed(bore.Format(smallest / 1000)), "."));
    }

    private static void AddInsulation(Said said, DuctInsulation insulation, double? foundMm, Unit bore, VisitContext at)
    {
        var temperature = Units.Of(Quantity.Temperature, at.Units);
        if (insulation.ThicknessMm <= 0)
            said.Add(Weight.Hint, Say("No dew is to be expected on it: it stays above ", Computed(temperature.Format(insulation.DewPointC)), "."));
        else
        {
            var needed = bore.Format(Math.Ceiling(insulation.ThicknessMm) / 1000);
            said.Add(foundMm < insulation.ThicknessMm ? Weight.Verdict : Weight.Hint, Say(["Against dew it wants ", Computed(needed), " of insulation in the room (dew point ", Computed(temperature.Format(insulation.DewPointC)), ")",
                .. (Span[])(foundMm is { } found ? ["; ", Measured(bore.Format(found / 1000)), found < insulation.ThicknessMm ? " is found: it will drip." : " is found."] : ["."])]));
        }
    }

    private Span[] Heat(VisitContext at)
    {
        var energy = Units.Of(Quantity.Energy, at.Units);
        return ["heating what replaces it costs ", .. (Span[])(Reckoned.Heat?.LossW is { } watts ? [Computed($"{watts:0} W"), " at normal fire today, "] : []),
            Computed(energy.Format((Reckoned.Heat?.SeasonKwh ?? 0) * 3.6e6)), " a year, with a duct or without."];
    }

    private static Sentence Of(IntakeSign sign, Unit bore) => sign switch
    {
        IntakeSign.Blocked => Say("The intake is covered: free it before the stove is judged by its fire."),
        IntakeSign.Leaves => Say("Leaves and dirt lie before the intake: clear it, and again every autumn."),
        IntakeSign.Snow => Say($"Snow can reach the intake: it belongs {bore.Format(AboveSnowM)} above the usual snow."),
        IntakeSign.Lee => Say("The intake stands in the lee of the prevailing wind, which sucks on it: to the windward side."),
        IntakeSign.Exhaust => Say("The intake stands near a vent, an exhaust, fuel or a garage: move it; the stove breathes what comes out there."),
        IntakeSign.FireChamber => Say("The duct ends in the fire chamber: it belongs into the ash compartment or the maker's collar, unless the stove is so designed."),
        IntakeSign.LightHose => Say("Light hose near the stove tears: rigid metal there."),
        _ => Say("The valve in the duct cannot be set from the room: it must be, and it is closed when the stove is out."),
    };
}

/// <summary>Duct and intake.</summary>
public sealed class OutsideAirStation : Station<OutsideAir, OutsideAirAnswer>
{
    /// <inheritdoc/>
    public override string Code => "outside-air";

    /// <inheritdoc/>
    public override string Name => "Outside air";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Air];

    /// <inheritdoc/>
    public override JsonTypeInfo<OutsideAir> EntryJson => CoreJson.Default.OutsideAir;

    /// <inheritdoc/>
    public override JsonTypeInfo<OutsideAirAnswer> AnswerJson => CoreJson.Default.OutsideAirAnswer;

    /// <inheritdoc/>
    public override OutsideAirAnswer? Answer(OutsideAir entry, VisitContext at, EntryErrors errors) => OutsideAirAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(OutsideAir entry, OutsideAirAnswer answer) =>
    [
        .. Fact.Number(AirFacts.DuctLossPa, answer.Reckoned.Duct?.Chosen?.LossPa),
        .. Fact.Number(AirFacts.DuctMm, answer.Reckoned.Duct?.Chosen?.DiameterMm),
        .. Fact.Number(AirFacts.WantedMm, answer.Reckoned.Duct is { Chosen.Fits: false } duct ? duct.SmallestMm : null),
        .. Fact.Number(AirFacts.WorstPa, answer.Reckoned.WorstCase?.FanPa),
        .. Fact.Of(AirFacts.School, answer.Reckoned.School is { } school ? Word.Of(school) : null),
        .. Fact.Of(AirFacts.IntakeBlocked, entry.Signs is null ? null : entry.Signs.Contains(Word.Of(IntakeSign.Blocked)) ? "yes" : "no"),
    ];
}

/// <summary>Names of what the stove's air is known by.</summary>
public static class AirFacts
{
    /// <summary>Pressure the duct costs at high fire, Pa.</summary>
    public const string DuctLossPa = "air.duct-loss-pa";

    /// <summary>Size of the duct, mm.</summary>
    public const string DuctMm = "air.duct-mm";

    /// <summary>Size it should have, mm, where it is too small.</summary>
    public const string WantedMm = "air.wanted-mm";

    /// <summary>The room at worst, by the fans alone, Pa.</summary>
    public const string WorstPa = "air.worst-pa";

    /// <summary>How the stove should get its air.</summary>
    public const string School = "air.school";

    /// <summary>Whether the intake was found covered.</summary>
    public const string IntakeBlocked = "air.intake-blocked";

    /// <summary>Whether a plate sits in the pipe.</summary>
    public const string Plate = "air.plate";

    /// <summary>Whether every air control closes fully.</summary>
    public const string ClosesFully = "air.closes-fully";

    /// <summary>Where a control stands for wood, once it burns.</summary>
    public static string WoodSetting(AirControlKind kind) => $"air.wood.{Word.Of(kind)}";

    /// <summary>Where a control stands for coal, once it burns.</summary>
    public static string CoalSetting(AirControlKind kind) => $"air.coal.{Word.Of(kind)}";
}
