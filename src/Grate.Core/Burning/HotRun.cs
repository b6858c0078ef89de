using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Door;
using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Burning;

/// <summary>What is done in a hot test, in its order (handbook 07 section 3).</summary>
[JsonConverter(typeof(WordConverter<RunStepKind>))]
public enum RunStepKind
{
    /// <summary>Warm the flue.</summary>
    [Said("Warm the flue")]
    Preheat,

    /// <summary>Light.</summary>
    [Said("Lit")]
    Light,

    /// <summary>Read at five minutes.</summary>
    [Said("Read")]
    Read5,

    /// <summary>Read at ten.</summary>
    [Said("Read")]
    Read10,

    /// <summary>Read at fifteen.</summary>
    [Said("Read")]
    Read15,

    /// <summary>Close the bypass.</summary>
    [Said("Bypass shut")]
    CloseBypass,

    /// <summary>Judge the light-off.</summary>
    [Said("Light-off judged")]
    LightOff,

    /// <summary>Normal fire.</summary>
    [Said("Normal fire, read")]
    NormalFire,

    /// <summary>Low fire.</summary>
    [Said("Low fire, read")]
    LowFire,

    /// <summary>High fire.</summary>
    [Said("High fire, read")]
    HighFire,

    /// <summary>Shut the air.</summary>
    [Said("Air shut: watch the flames")]
    AirShut,

    /// <summary>Open the door slowly.</summary>
    [Said("Open slowly: spill?")]
    OpenSlowly,

    /// <summary>Smoke at the cap.</summary>
    [Said("Smoke at the cap")]
    CapSmoke,

    /// <summary>Carbon monoxide in the room.</summary>
    [Said("Carbon monoxide")]
    RoomCo,

    /// <summary>Flames seen.</summary>
    [Said("Flames")]
    Flames,

    /// <summary>Surfaces.</summary>
    [Said("Wall and mantel")]
    Surfaces,

    /// <summary>Ash pail.</summary>
    [Said("Ash pail")]
    AshPail,
}

/// <summary>What was seen.</summary>
[JsonConverter(typeof(WordConverter<RunSaw>))]
public enum RunSaw
{
    /// <summary>Nothing at the door.</summary>
    [Said("No smoke")]
    None,

    /// <summary>A puff.</summary>
    [Said("A puff")]
    Puff,

    /// <summary>More than a puff.</summary>
    [Said("More than a puff")]
    More,

    /// <summary>A clear shimmer at the cap.</summary>
    [Said("Clear shimmer")]
    Clear,

    /// <summary>Smoke at the cap.</summary>
    [Said("Smoke")]
    Smoke,

    /// <summary>Secondary flames, or a glowing combustor.</summary>
    [Said("Seen")]
    Seen,

    /// <summary>None of them.</summary>
    [Said("Not seen")]
    NotSeen,
}

/// <summary>A step of the run that was done.</summary>
/// <param name="Step">Which.</param>
/// <param name="Minute">Minutes since lighting, pauses left out, −60..600.</param>
/// <param name="GasC">Flue gas then, °C.</param>
/// <param name="DraftPa">Draft then, Pa.</param>
/// <param name="CoPpm">Carbon monoxide in the room, ppm.</param>
/// <param name="Saw">What was seen, where it is a look.</param>
/// <param name="Swings">Whether it was kept although the draft still swung.</param>
public sealed record RunMark([property: Words(typeof(RunStepKind))] string? Step = null, double? Minute = null, double? GasC = null, double? DraftPa = null, double? CoPpm = null,
    [property: Words(typeof(RunSaw))] string? Saw = null, bool? Swings = null);

/// <summary>A sample of the run by instruments.</summary>
/// <param name="Minute">Minutes since lighting.</param>
/// <param name="GasC">Flue gas, °C.</param>
/// <param name="DraftPa">Draft, Pa.</param>
public sealed record RunReading(double? Minute = null, double? GasC = null, double? DraftPa = null);

/// <summary>The hot test as one run. Its clock is a moment: it goes on behind a locked screen and over a reload.</summary>
/// <param name="StartedAt">When it was lit.</param>
/// <param name="PausedAt">Since when it is paused; null while it runs.</param>
/// <param name="PausedS">Seconds it was paused so far, 0..86 400.</param>
/// <param name="EndedAt">When it was ended; null while it goes on.</param>
/// <param name="School">How it was lit; default the way that is recommended.</param>
/// <param name="Marks">What was done, at most one of each step.</param>
/// <param name="Samples">Samples, at most 400.</param>
public sealed record HotRun(DateTimeOffset? StartedAt = null, DateTimeOffset? PausedAt = null, double? PausedS = null, DateTimeOffset? EndedAt = null,
    [property: Words(typeof(LightingSchool))] string? School = null, IReadOnlyList<RunMark>? Marks = null, IReadOnlyList<RunReading>? Samples = null);

/// <summary>A step of this stove's run.</summary>
/// <param name="Step">Which.</param>
/// <param name="Say">What is to do, said aloud.</param>
/// <param name="AtMinute">When it is due, minutes since lighting; null where it is done in between.</param>
/// <param name="Caution">What to beware of before it, or none.</param>
/// <param name="Reads">Whether draft and gas are read with it.</param>
/// <param name="Looks">Words to pick from, where it is a look.</param>
/// <param name="Station">The station it belongs to, or none.</param>
/// <param name="Mark">How it was done; null while it is open.</param>
public sealed record RunStep(RunStepKind Step, string Say, double? AtMinute, string? Caution, bool Reads, IReadOnlyList<RunSaw> Looks, string? Station, RunMark? Mark)
{
    /// <summary>Its name, for the drawing.</summary>
    public string Name => Word.Said(Step);
}

/// <summary>The draft that was to be expected at a moment of the run.</summary>
/// <param name="Minute">Minutes since lighting.</param>
/// <param name="LowPa">5 % end, Pa.</param>
/// <param name="HighPa">95 % end, Pa.</param>
public sealed record RunBand(double Minute, double LowPa, double HighPa);

/// <summary>One question that the run answers.</summary>
/// <param name="Question">The question.</param>
/// <param name="Answer">The answer, in words.</param>
/// <param name="Ok">Whether it is good; null while it is open.</param>
public sealed record RunQuestion(string Question, Sentence Answer, bool? Ok);

/// <summary>What follows for the run.</summary>
/// <param name="Lighting">How this stove is lit.</param>
/// <param name="Steps">Its steps in order.</param>
/// <param name="Next">The step that is next; null when all are done.</param>
/// <param name="TypicalMin">How long it takes, min; learned from earlier visits where there are enough.</param>
/// <param name="Learned">Visits that the typical time rests on; 0 where it is the plan's own.</param>
/// <param name="Band">Expected draft along the run.</param>
/// <param name="Questions">One verdict each.</param>
/// <param name="Parts">Words on parts.</param>
/// <param name="Sentences">In words.</param>
public sealed record HotRunAnswer(Lighting Lighting, IReadOnlyList<RunStep> Steps, RunStepKind? Next, double TypicalMin, int Learned, IReadOnlyList<RunBand> Band,
    IReadOnlyList<RunQuestion> Questions, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Gas below this inside the flue: too cool.</summary>
    public static readonly Limit TooCool = FlueLimits.TooCool;

    /// <summary>Gas above this: too hot.</summary>
    public static readonly Limit TooHot = Limit.Practice(480, "°C", "200–480 °C (400–900 °F) is good");

    /// <summary>Gas above this: a chimney fire is suspected.</summary>
    public static readonly Limit ChimneyFire = Limit.Practice(600, "°C", "no ordinary fire sends so hot a gas up");

    /// <summary>Gas below this inside the flue is too cool, °C; for the drawing.</summary>
    public double CoolC { get; } = TooCool.Value;

    /// <summary>Gas above this is too hot, °C.</summary>
    public double HotC { get; } = TooHot.Value;

    private const int MostSamples = 400, MostBand = 10, LeastLearned = 3;
    private const double ChargeMin = 60;

    private static readonly EntryRange
        _minute = new("Minutes since lighting", Quantity.Ratio, -60, 600),
        _paused = new("Seconds paused", Quantity.Ratio, 0, 86_400);

    /// <summary>Answers for a run.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="HotRun"/>.</returns>
    public static HotRunAnswer? To(HotRun run, VisitContext at, EntryErrors errors)
    {
        var marks = Check(run, errors);
        if (errors.Any)
            return null;
        var lighting = Lighting.Of(at);
        var steps = Plan(at, lighting, run, marks);
        var learned = at.History.LearnedOf(BurningFacts.RunMin, LeastLearned);
        var answer = new HotRunAnswer(lighting, steps, steps.FirstOrDefault(s => s.Mark is null && s.AtMinute is not null)?.Step,
            learned?.Median ?? steps.Max(s => s.AtMinute) ?? ChargeMin, learned?.Visits ?? 0, Bands(run, at), [], [], []);
        answer = answer with { Questions = Ask(marks, run, at) };
        return answer with { Parts = Decide(marks), Sentences = answer.Words(run, marks, at) };
    }

    /// <summary>The hottest gas of a run, °C; null where none was read.</summary>
    internal static double? HottestC(HotRun run) => (run.Samples ?? []).Select(s => s.GasC).Concat((run.Marks ?? []).Select(m => m.GasC)).Max();

    /// <summary>Most carbon monoxide in the room that was read in a run, ppm; null where none was.</summary>
    internal static double? MostCoPpm(HotRun run) => (run.Marks ?? []).Max(m => m.CoPpm);

    /// <summary>Minutes from lighting to the end, pauses left out; null while it goes on.</summary>
    internal static double? Minutes(HotRun run) => run is { StartedAt: { } from, EndedAt: { } to } ? (to - from).TotalMinutes - (run.PausedS ?? 0) / 60 : null;

    private static Dictionary<RunStepKind, RunMark> Check(HotRun run, EntryErrors errors)
    {
        var marks = new Dictionary<RunStepKind, RunMark>();
        errors.Check("pausedS", run.PausedS, _paused);
        errors.CheckWord<LightingSchool>("school", run.School, "Way of lighting");
        if (run.EndedAt < run.StartedAt)
            errors.Add("endedAt", "A run ends after it was lit.");
        else if (Minutes(run) < 0)
            errors.Add("pausedS", $"It was paused for longer than it ran: at most {(run.EndedAt!.Value - run.StartedAt!.Value).TotalSeconds:0} s.");
        foreach (var (mark, i) in errors.Each("marks", run.Marks, Enum.GetValues<RunStepKind>().Length, "steps"))
        {
            errors.Need($"marks[{i}].minute", mark.Minute, _minute);
            errors.Check($"marks[{i}].gasC", mark.GasC, FlueRanges.CollarGas);
            errors.Check($"marks[{i}].draftPa", mark.DraftPa, FlueRanges.Reading);
            errors.Check($"marks[{i}].coPpm", mark.CoPpm, HotTest.CoRange);
            errors.CheckWord<RunSaw>($"marks[{i}].saw", mark.Saw, "What was seen");
            if (errors.Need<RunStepKind>($"marks[{i}].step", mark.Step, "Step of the run") is { } step && !marks.TryAdd(step, mark))
                errors.Add($"marks[{i}].step", $"“{Word.Of(step)}” stands twice: one of each step.");
        }
        foreach (var (sample, i) in errors.Each("samples", run.Samples, MostSamples, "samples"))
        {
            errors.Need($"samples[{i}].minute", sample.Minute, _minute);
            errors.Check($"samples[{i}].gasC", sample.GasC, FlueRanges.CollarGas);
            errors.Check($"samples[{i}].draftPa", sample.DraftPa, FlueRanges.Reading);
        }
        return marks;
    }

    // What this stove needs, with the minute it is due; what has none is done in between.
    private static List<RunStep> Plan(VisitContext at, Lighting lighting, HotRun run, Dictionary<RunStepKind, RunMark> marks)
    {
        var temperature = Units.Of(Quantity.Temperature, at.Units);
        var features = at.Stove.Features;
        RunSaw[] door = [RunSaw.None, RunSaw.Puff, RunSaw.More], cap = [RunSaw.Clear, RunSaw.Smoke], flames = [RunSaw.Seen, RunSaw.NotSeen];
        var school = Word.Said(Word.Find<LightingSchool>(run.School) ?? lighting.School);
        var steps = new List<RunStep>();
        void Add(RunStepKind step, string say, double? minute, string? caution = null, bool reads = false, RunSaw[]? looks = null, string? station = null) =>
            steps.Add(new(step, say, minute, caution, reads, looks ?? [], station, marks.GetValueOrDefault(step)));

        if (lighting.Preheat is { } preheat)
            Add(RunStepKind.Preheat, preheat, -5, "No open flame into a flue that shows tar.");
        Add(RunStepKind.Light, $"Light it: {school.ToLowerInvariant()}. Air full open, the door a finger open.", 0, "Never flammable liquids. Door ajar: somebody stays in the room.");
        Add(RunStepKind.Read5, "Read draft and flue gas.", 5, null, true);
        Add(RunStepKind.Read10, "Read again. Shut the door when it rushes.", 10, null, true);
        Add(RunStepKind.Read15, "Read a third time.", 15, null, true);
        var lit = 20.0;
        if (features.Contains("bypass"))
        {
            Add(RunStepKind.CloseBypass, $"Close the bypass, once the probe shows {temperature.Format(CombustorLimits.Start.Value)} and there are coals.", 19, null, true, station: "light-off");
            Add(RunStepKind.LightOff, "Leave it shut: the combustor should climb. It is judged after ten minutes.", 30, station: "light-off");
            lit = 33;
        }
        Add(RunStepKind.NormalFire, "Normal fire: half the air. Read when it stands steady.", lit, null, true, station: "hot-draft");
        // A heater burns its load at one rate; nothing is turned down.
        if (at.Stove.Kind != StoveKind.MasonryHeater)
        {
            Add(RunStepKind.LowFire, "Low fire: as the household runs it at night. Read when it stands steady.", lit + 6, null, true, station: "hot-draft");
            Add(RunStepKind.HighFire, "High fire: air open, fresh wood. Read when it stands steady.", lit + 14, null, true, station: "hot-draft");
            Add(RunStepKind.AirShut, "Shut all air and watch the flames.", lit + 20, null, station: "closed-air");
        }
        Add(RunStepKind.OpenSlowly, "Open the door slowly: does smoke come out?", lit + 24, "Starved and smoking it can flash: crack the door first, wait, then slowly.", looks: door);
        Add(RunStepKind.Flames, features.Contains("combustor") ? "Does the combustor glow?" : "Flames at the air above?", null, looks: flames);
        Add(RunStepKind.CapSmoke, "Smoke at the cap, from outside.", null, looks: cap);
        Add(RunStepKind.RoomCo, "Carbon monoxide in the room.", null);
        Add(RunStepKind.Surfaces, "Mantel, floor and wall, by infrared.", lit + 26, station: "surfaces");
        Add(RunStepKind.AshPail, "Ash pail out, on stone, lid on.", null);
        return steps;
    }

    private static List<RunBand> Bands(HotRun run, VisitContext at)
    {
        var samples = (run.Samples ?? []).Where(s => s.GasC > FlueLimits.Room.Value + 20).ToList();
        var every = Math.Max(1, samples.Count / MostBand);
        var place = HotPlace.Of(at);
        var bands = new List<RunBand>();
        foreach (var sample in samples.Where((_, i) => i % every == 0 || i == samples.Count - 1).TakeLast(MostBand + 1))
        {
            if (place.Answer(new HotReading(Word.Of(FiringLevel.Normal), GasC: sample.GasC), at.Day.Month, new EntryErrors(), at.Units) is { } then)
                bands.Add(new(sample.Minute!.Value, then.LowPa, then.HighPa));
        }
        return bands;
    }

    private static List<PartDecided> Decide(Dictionary<RunStepKind, RunMark> marks) => Word.Find<RunSaw>(marks.GetValueOrDefault(RunStepKind.OpenSlowly)?.Saw) switch
    {
        RunSaw.More => [new("spill", "smoke at the door", Condition.Unsafe, HotDraftStation.Spillage, Say("More than a puff when opened slowly."))],
        RunSaw.None or RunSaw.Puff => [new("spill", "smoke at the door", Condition.Sound, null, Say("No more than a puff when opened slowly."))],
        _ => [],
    };

    private static List<RunQuestion> Ask(Dictionary<RunStepKind, RunMark> marks, HotRun run, VisitContext at)
    {
        var temperature = Units.Of(Quantity.Temperature, at.Units);
        RunSaw? Saw(RunStepKind step) => Word.Find<RunSaw>(marks.GetValueOrDefault(step)?.Saw);
        var questions = new List<RunQuestion>();
        void Add(string question, Sentence answer, bool? ok) => questions.Add(new(question, answer, ok));
        var open = Say("not yet known");

        var drafts = Enum.GetValues<FiringLevel>().Select(l => Word.Find<DraftVerdict>(at.Text(FlueFacts.Verdict(l)))).OfType<DraftVerdict>().ToList();
        Add("Does it pull?", drafts.Count == 0 ? open : Say(string.Join("; ", drafts.Distinct().Select(Word.Said)).ToLowerInvariant()), drafts.Count == 0 ? null : drafts.TrueForAll(d => d == DraftVerdict.AsExpected));
        if (at.Stove.Features.Contains("combustor"))
        {
            var lit = Word.Find<LightOffVerdict>(at.Text(CombustorFacts.LightOff));
            Add("Does the combustor light?", lit switch { null or LightOffVerdict.NotJudged => open, LightOffVerdict.Pass => Say("it lights off"), LightOffVerdict.Doubtful => Say("doubtful"), LightOffVerdict.ClosedTooEarly => Say("the bypass was closed too early: once more"), _ => Say("it does not") },
                lit is null or LightOffVerdict.NotJudged or LightOffVerdict.ClosedTooEarly ? null : lit == LightOffVerdict.Pass);
        }
        if (at.Stove.Kind != StoveKind.MasonryHeater)
        {
            var shut = Word.Find<ClosedAirVerdict>(at.Text(DoorFacts.ClosedAir));
            Add("Can it be turned down?", shut switch { null => open, ClosedAirVerdict.Pass => Say("the flames go when the air is shut"), ClosedAirVerdict.Doubtful => Say("late: doubtful"), ClosedAirVerdict.LookAtIntake => Say("look at the intake"), _ => Say("it burns on with the air shut") }, shut is null ? null : shut == ClosedAirVerdict.Pass);
        }
        Add("Does smoke come into the room?", Saw(RunStepKind.OpenSlowly) switch { RunSaw.None => Say("none"), RunSaw.Puff => Say("a puff, as an ordinary stove gives"), RunSaw.More => Say("more than a puff: no fire until it is found out why"), _ => open },
            Saw(RunStepKind.OpenSlowly) is { } spill ? spill != RunSaw.More : null);
        Add("Does it burn clean?", Saw(RunStepKind.CapSmoke) switch { RunSaw.Clear => Say("a clear shimmer at the cap"), RunSaw.Smoke => Say("smoke at the cap: more air, or drier and smaller wood"), _ => open }, Saw(RunStepKind.CapSmoke) is { } smoke ? smoke == RunSaw.Clear : null);
        var hottest = HottestC(run);
        Add("Is the flue warm enough?", hottest is not { } hot ? open
            : hot > ChimneyFire.Value ? Say("up to ", Measured(temperature.Format(hot)), ": a chimney fire is suspected")
            : hot > TooHot.Value ? Say("up to ", Measured(temperature.Format(hot)), $": above {temperature.Format(TooHot.Value)} it is too hot")
            : hot < TooCool.Value ? Say("at most ", Measured(temperature.Format(hot)), $": below {temperature.Format(TooCool.Value)} creosote forms")
            : Say("up to ", Measured(temperature.Format(hot)), ", as it should"), hottest is { } c ? c >= TooCool.Value && c <= TooHot.Value : null);
        var co = MostCoPpm(run);
        Add("Is the air of the room good?", co is { } ppm ? Say(Measured($"{ppm:0} ppm"), ppm >= RoomCo.Stop.Value ? ": stop and air" : ppm > RoomCo.FindOutWhy.Value ? ": find out why" : " of carbon monoxide") : open, co is { } level ? level <= RoomCo.FindOutWhy.Value : null);
        var surface = at.Number(ClearanceFacts.SurfaceShare);
        Add("Do walls and mantel stay cool enough?", surface is { } share ? Say(Computed(Units.Of(Quantity.Share, at.Units).Format(share)), " of what the warmest may rise") : open, surface is { } s ? s <= 1 + Limit.Met : null);
        return questions;
    }

    private IReadOnlyList<Sentence> Words(HotRun run, Dictionary<RunStepKind, RunMark> marks, VisitContext at)
    {
        var said = new Said();
        var temperature = Units.Of(Quantity.Temperature, at.Units);
        if (HottestC(run) > ChimneyFire.Value)
            said.Add(Weight.Stop, Say("Over ", Measured(temperature.Format(ChimneyFire.Value)), " in the flue: shut every air and the door. A chimney fire is suspected; everybody out, call the fire service, no water into the flue."));
        if (Word.Find<RunSaw>(marks.GetValueOrDefault(RunStepKind.OpenSlowly)?.Saw) == RunSaw.More)
            said.Add(Weight.Stop, Say("Smoke comes out when the door is opened slowly: no fire until it is found out why."));
        var swung = Steps.Where(s => s.Mark?.Swings == true).Select(s => s.Name.ToLowerInvariant().Replace(", read", "", StringComparison.Ordinal)).Distinct().ToList();
        if (swung.Count > 0)
            said.Add(Weight.Verdict, Say($"Read while the draft still swung, and worth less for it: {string.Join(", ", swung)}."));
        foreach (var mark in marks.Values.Where(m => m.CoPpm > RoomCo.FindOutWhy.Value))
            said.Take([RoomCo.Meaning(mark.CoPpm!.Value)]);
        if (run.StartedAt is null)
        {
            said.Add(Weight.Verdict, Say(Lighting.Why));
            if (Lighting.Preheat is { } preheat)
                said.Add(Weight.Verdict, Say(preheat));
        }
        else
        {
            foreach (var question in Questions.Where(q => q.Ok == false))
                said.Add(Weight.Verdict, Say([$"{question.Question} ", .. question.Answer.Spans, "."]));
            var open = Questions.Count(q => q.Ok is null);
            if (open == 0 && Questions.All(q => q.Ok == true))
                said.Add(Weight.Verdict, Say("Every question is answered, and well."));
            else if (open > 0)
                said.Add(Weight.Hint, Say($"{open} of {Questions.Count} questions are still open."));
        }
        said.Add(Weight.Hint, Learned > 0 ? Say("Such a run took ", Computed($"{TypicalMin:0} min"), $" on the middle of {Learned} visits.") : Say("Such a run takes about ", Computed($"{TypicalMin:0} min"), "."));
        return said.InOrder();
    }
}
