using Grate.Core;
using Grate.Core.Burning;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Visits;

namespace Grate.Store.Demo;

/// <summary>A finding of a demo visit.</summary>
internal sealed record DemoFinding(string Step, string Part, Condition Condition, string Note, string? StopCode = null);

/// <summary>Readings and findings of the past: produced by the core, with noise and the stove's hidden fault.</summary>
internal sealed class DemoHistory(DemoStove stove, DemoHouse house, int number, Random random)
{
    // What is true of this one flue and of nobody's table.
    private readonly double _growthMm = 0.6 + 1.8 * random.NextDouble();
    private readonly double _woodKg = 100 * random.Next(18, 45);
    private double _sweptMm;
    private readonly double _heatScale = 1 + 0.15 * Normal(random);
    private readonly double _housePa = house.House.BuiltEra == "low-energy" ? -2.5 : -1 + 0.7 * Normal(random);

    /// <summary>Readings at a visit; in the faulty year the fault is in them.</summary>
    public IEnumerable<HotReading> Readings(HotPlace place, DateOnly day, bool faulty)
    {
        var outdoorC = Math.Round(place.MonthlyC[day.Month - 1] + 3 * Normal(random));
        string[] levels = random.Next(4) == 0 ? ["low", "normal", "high"] : ["normal"];
        foreach (var level in levels)
        {
            var gasC = Math.Round(FlueLimits.CollarGas(Word.Find<FiringLevel>(level)!.Value).Value * (1 + 0.08 * Normal(random)));
            var measured = random.Next(2) == 0;
            var reading = new HotReading(level, null, gasC, "probe", outdoorC, 20 + random.Next(4),
                measured ? Math.Round(_housePa, 1) : null, measured ? true : null);
            yield return reading with { DraftPa = Math.Round(TruePa(place, reading, day, faulty) + 0.5 * Normal(random), 1) };
        }
    }

    /// <summary>The sweep of a visit: worst where the flue is coldest, a little left behind.</summary>
    public SweepRecord Sweep()
    {
        var worst = Math.Round(_growthMm * (0.75 + 0.5 * random.NextDouble()), 1);
        var stage = worst > 1.6 ? 2 : 1;
        var last = stove.Flue.Segments![^1].Label!;
        var found = stove.Flue.Segments.ToDictionary(s => s.Label!, s => (DepositEntry?)new DepositEntry(stage, Math.Round(worst * (s.Label == last ? 0.7 : 0.3), 1), s.Label == last ? worst : null));
        _sweptMm = worst;
        return new SweepRecord(found, SweptL: Math.Round(1 + worst, 1), Fell: [stage == 2 ? "flakes" : "soot"], LeftMm: 0.2, GlazeLeft: false,
            SeenThrough: "daylight", Minutes: 5 * random.Next(11, 18));
    }

    /// <summary>The hot test of a visit: between 48 and 60 minutes, whatever the day brought.</summary>
    public static HotRun Run(DateTimeOffset start, DateOnly day) => new(start.AddMinutes(30), PausedS: 0, EndedAt: start.AddMinutes(78 + day.DayOfYear % 13), School: "top-down",
        Marks: [new("light", 0), new("cap-smoke", 25, Saw: "clear"), new("open-slowly", 45, Saw: "none"), new("room-co", 46, CoPpm: 2)]);

    /// <summary>The household's wood as found at a visit: three pieces of three readings, dry basis.</summary>
    public WoodRecord Wood()
    {
        double? Reading() => Math.Round(0.21 + 0.02 * Normal(random), 2);
        return new WoodRecord([[Reading(), Reading(), Reading()], [Reading(), Reading(), Reading()], [Reading(), Reading(), Reading()]],
            "dry", 15, Wood: stove.Kind == "masonry-heater" ? "softwood" : "hardwood", Amount: _woodKg, Habit: "mixed");
    }

    /// <summary>The lining as last year's visit found it, at every fourth stove with bricks: what waits for the next visit. Null elsewhere.</summary>
    public LiningCheck? Lining(StoveHistory known, int yearsAgo) => yearsAgo > 1 || number % 4 != 1 || !known.Stove.Features.Contains("bricks") ? null
        : new(Bricks: new Dictionary<string, BrickMark?> { ["back-1"] = new("open", CrackMm: 4, Cause: "years"), ["back-2"] = new("hairline"), ["left-1"] = new("worn", LostMm: 14, Cause: "logs-thrown") });

    /// <summary>The combustor as last year's visit found it; the older ones come to their end soon. Null where there is none.</summary>
    public CombustorCheck? Combustor(StoveHistory known, DateOnly day, int yearsAgo) => yearsAgo > 1 || !known.Stove.Combustor ? null
        : new("ceramic", Dark: [.. Enumerable.Range(0, 2 + number % 4)], Signs: [], FittedOn: day.AddYears(-1 - number % 5));

    /// <summary>Findings at a visit, some years before today.</summary>
    public IEnumerable<DemoFinding> Findings(int yearsAgo, bool faulty)
    {
        if (stove.Kind == "masonry-heater")
            yield return new("cold-checks", "latch", Condition.Sound, "");
        else
        {
            yield return yearsAgo switch
            {
                3 => new("cold-checks", "door-rope", Condition.Wearing, "flattened at the latch"),
                2 => new("cold-checks", "door-rope", Condition.Spent, "renewed, 12 mm"),
                _ => new("cold-checks", "door-rope", Condition.Sound, ""),
            };
        }
        yield return random.Next(4) == 0
            ? new DemoFinding("arrive", "connector", Condition.Wearing, "light rust at the lower joint")
            : new DemoFinding("arrive", "connector", Condition.Sound, "");
        if (yearsAgo == 1 && number % 9 == 4 && stove.Kind != "masonry-heater")
            yield return new("open-up", "probe", Condition.Spent, "tip burnt off, reads low");
        yield return new("sweep", "flue", _sweptMm > 1.6 ? Condition.Wearing : Condition.Sound, $"{_sweptMm:0.0} mm {(_sweptMm > 1.6 ? "flakes" : "soot")}, swept");
        yield return faulty ? Fault() : new("sweep", "cap", Condition.Sound, "");
    }

    private DemoFinding Fault() => stove.Fault switch
    {
        DemoFault.CapClogged => new("sweep", "cap", Condition.Spent, "screen nearly closed by flakes; cleaned, renew"),
        DemoFault.LeakingJoint => new("sweep", "clean-out", Condition.Spent, "clean-out lid warped, draws room air; lid ordered"),
        DemoFault.TightHouse => new("air", "intake", Condition.Wearing, "draft recovered with the window open: hood pulls the house down"),
        DemoFault.Glaze => new("sweep", "cap", Condition.Unsafe, "shiny glaze below the cap for about a metre", "chimney-fire"),
        _ => new("open-up", "baffle", Condition.Unsafe, "board burnt through at the back", "baffle"),
    };

    private double TruePa(HotPlace place, HotReading reading, DateOnly day, bool faulty)
    {
        var errors = new EntryErrors();
        var read = DraftCase.Read(Question(place, reading), errors, new Assumptions())
            ?? throw new InvalidOperationException($"Demo flue of {house.Customer} on {day}: {string.Join(" ", errors.ByField.SelectMany(e => e.Value))}");
        var (flue, fire, air) = (read.Flue, read.Fire, read.Air);
        var draft = DraftModel.Expect(flue, fire, air, _heatScale).March.DraftPa + _housePa;
        if (!faulty)
            return draft;
        return stove.Fault switch
        {
            DemoFault.CapClogged => draft * 0.45,
            DemoFault.LeakingJoint => FlueMarch.Run(flue, CollarGas.Of(fire).DrawingIn(0.012, fire, air.IndoorC), air, _heatScale).DraftPa + _housePa,
            DemoFault.TightHouse => draft - 9,
            _ => draft,
        };
    }

    private static DraftEntry Question(HotPlace place, HotReading reading) => new(
        new SurroundingsEntry(reading.OutdoorC, reading.RoomC, place.AltitudeM), place.Flue, new FireEntry(reading.GasC, reading.Level) { Fires = place.Fires });

    // Box and Muller.
    private static double Normal(Random random) =>
        Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    /// <summary>What households told of a fault, and what it was.</summary>
    public static (string[] Told, string Was)? Trouble(DemoFault fault) => fault switch
    {
        DemoFault.CapClogged => (["sluggish", "smoke-reload", "sudden"], "cap-clogged"),
        DemoFault.LeakingJoint => (["sluggish", "smoke-seams"], "flue-leak"),
        DemoFault.TightHouse => (["smoke-lighting", "tightened", "room-draughts"], "tight-house"),
        DemoFault.Glaze => (["glass-black", "asked-slow", "smoke-cap"], "slow-fires"),
        DemoFault.BaffleGone => (["low-heat", "too-hot", "short-burn"], "baffle"),
        _ => null,
    };
}
