using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>What warms a cold flue.</summary>
[JsonConverter(typeof(WordConverter<HeatSource>))]
public enum HeatSource
{
    /// <summary>Gas torch at the collar or below the baffle.</summary>
    Torch,

    /// <summary>Hair dryer.</summary>
    [Said("Hair dryer")]
    Dryer,

    /// <summary>Crumpled newspaper, two full sheets a charge.</summary>
    Newspaper,
}

/// <summary>How a cold flue stands before the fire.</summary>
[JsonConverter(typeof(WordConverter<ColdState>))]
public enum ColdState
{
    /// <summary>−0.5 Pa or less: air falls, smoke will come into the room.</summary>
    Plug,

    /// <summary>Between −0.5 and +0.5 Pa.</summary>
    Standing,

    /// <summary>+0.5 Pa or more.</summary>
    Pulls,
}

/// <summary>A cold flue, and what it takes to turn it (handbook 01 section 7).</summary>
/// <param name="DraftPa">Cold static draft, Pa.</param>
/// <param name="TargetGasC">Gas temperature of the whole flue that gives +2 Pa, °C; null if there is none.</param>
/// <param name="EnergyJ">Heat into the inner wall until then, J.</param>
/// <param name="PreheatS">Time with the source, s.</param>
public sealed record ColdStart(double DraftPa, double? TargetGasC, double EnergyJ, double PreheatS)
{
    /// <summary>Beyond this draft either way the air stands no more.</summary>
    public static readonly Limit Standing = Limit.Assumed(0.5, "Pa", "less than this neither falls nor pulls");

    /// <summary>The draft that is aimed at.</summary>
    public static readonly Limit Target = Limit.Assumed(2, "Pa", "enough to take the first smoke");

    /// <summary>Overnight low where none is entered: this much below outdoors.</summary>
    public static readonly Limit ColderBefore = Limit.Assumed(2, "K", "outdoor walls remember some hours ago");

    /// <summary>Beyond this no time is shown.</summary>
    public static readonly Limit LongestPreheat = Limit.Assumed(600, "s", "over 10 minutes the source will not do it alone");

    private const double SourceW = 1500, UsefulShare = 0.6, ChargeJ = 375_000, ChargeS = 60;

    /// <summary>State of the flue.</summary>
    public ColdState State => DraftPa <= -Standing.Value ? ColdState.Plug
        : DraftPa < Standing.Value ? ColdState.Standing : ColdState.Pulls;

    /// <summary>Computes the cold start.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="air">Surroundings; wind is left out.</param>
    /// <param name="outdoorColdC">Outdoor temperature of some hours ago, °C.</param>
    /// <param name="source">What warms the flue.</param>
    public static ColdStart Of(FlueSystem flue, Surroundings air, double outdoorColdC, HeatSource source)
    {
        double WallC(Segment s) => s.Place == SegmentPlace.Outdoor ? outdoorColdC : air.AroundC(s.Place);
        var pressure = air.StationPressurePa;
        var outdoorDensity = DryAir.DensityKgM3(pressure, air.OutdoorC);
        var house = air.HousePressurePa.Value;
        var draft = house + flue.Segments.Sum(s => (outdoorDensity - DryAir.DensityKgM3(pressure, WallC(s))) * DryAir.Gravity * s.RiseM);

        var density = outdoorDensity - (Target.Value - house) / (DryAir.Gravity * flue.RiseM);
        double? target = density > 0 ? pressure / (DryAir.GasConstant * density) - DryAir.ZeroCelsiusK : null;
        if (draft >= Target.Value || target is not { } targetC)
            return new ColdStart(draft, target, 0, draft >= Target.Value ? 0 : double.PositiveInfinity);

        double Energy(double seconds) => flue.Segments.Sum(s =>
            s.Free.PerimeterM * s.Construction.Wall.ReachedM(seconds) * s.Construction.Wall.HeatJM3K * s.LengthM * Math.Max(targetC - WallC(s), 0));
        var time = source == HeatSource.Newspaper ? Charges(Energy) * ChargeS : Flame(Energy);
        return new ColdStart(draft, target, Energy(time), time);
    }

    // t = E(t)/(0.6 P), iterated from 60 s: t = 0 is a false root for clay.
    private static double Flame(Func<double, double> energy)
    {
        var time = 60.0;
        for (var i = 0; i < 10_000; i++)
        {
            var next = energy(time) / (UsefulShare * SourceW);
            if (Math.Abs(next - time) < 0.01)
                return next;
            time = next;
        }
        return time;
    }

    // The smallest number N with 375 N ≥ E(60 N), one at least: none is a false answer for clay, as no time is.
    private static int Charges(Func<double, double> energy)
    {
        var charges = 1;
        while (ChargeJ * charges < energy(ChargeS * charges))
            charges++;
        return charges;
    }
}

/// <summary>The question of POST /api/calculations/cold-start.</summary>
/// <param name="Surroundings">Air outside and inside, and the overnight low.</param>
/// <param name="Flue">The chain.</param>
/// <param name="Source">torch, dryer or newspaper; default torch.</param>
public sealed record ColdStartEntry(ColdSurroundingsEntry? Surroundings = null, FlueEntry? Flue = null, string? Source = null);

/// <summary>Surroundings with the outdoor temperature of some hours ago.</summary>
/// <param name="OutdoorC">Outdoor temperature, °C; needed.</param>
/// <param name="IndoorC">Room temperature, °C; default 20.</param>
/// <param name="AltitudeM">Altitude, m; default 0.</param>
/// <param name="StationPressurePa">Barometer, Pa; replaces the altitude.</param>
/// <param name="HousePressurePa">Room against outdoors, Pa; default 0.</param>
/// <param name="HousePressureMeasured">Whether that was measured.</param>
/// <param name="WindPa">Left out here.</param>
/// <param name="OutdoorColdC">Overnight low, °C; default outdoor − 2.</param>
public sealed record ColdSurroundingsEntry(
    double? OutdoorC = null, double? IndoorC = null, double? AltitudeM = null, double? StationPressurePa = null,
    double? HousePressurePa = null, bool? HousePressureMeasured = null, double? WindPa = null, double? OutdoorColdC = null);

/// <summary>The answer of POST /api/calculations/cold-start.</summary>
/// <param name="ColdDraftPa">Cold static draft, Pa.</param>
/// <param name="Plug">Whether a cold plug stands in the flue.</param>
/// <param name="State">plug, standing or pulls.</param>
/// <param name="TargetGasC">Gas temperature that gives +2 Pa, °C; null if there is none.</param>
/// <param name="EnergyKj">Heat until then, kJ.</param>
/// <param name="PreheatS">Time, s; null over 600 s.</param>
/// <param name="Advice">What to do, in sentences.</param>
/// <param name="Assumed">Every default used.</param>
public sealed record ColdStartAnswer(
    double ColdDraftPa, bool Plug, ColdState State, double? TargetGasC, double EnergyKj, double? PreheatS, string Advice, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Answers a cold-start question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static ColdStartAnswer? To(ColdStartEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        var s = entry.Surroundings ?? new ColdSurroundingsEntry();
        var air = DraftCase.ReadAir(new SurroundingsEntry(s.OutdoorC, s.IndoorC, s.AltitudeM, s.StationPressurePa,
            s.HousePressurePa, s.HousePressureMeasured, s.WindPa ?? 0), errors, assumed);
        errors.Check("surroundings.outdoorColdC", s.OutdoorColdC, EntryRange.Outdoors);
        var flue = FlueReading.Read(entry.Flue, errors, assumed);
        var source = Word.Find<HeatSource>(entry.Source ?? Word.Of(HeatSource.Torch));
        if (source is null)
            errors.Add("source", Word.OneOf("Source", entry.Source, Word.All<HeatSource>()));
        if (errors.Any)
            return null;
        if (entry.Source is null)
            assumed.Note("source", Word.Of(HeatSource.Torch), Mark.Assumption, "the quickest source");
        var lowC = assumed.Or(s.OutdoorColdC, "surroundings.outdoorColdC",
            Limit.Assumed(air!.OutdoorC - ColdStart.ColderBefore.Value, "°C", ColdStart.ColderBefore.Reason));
        var cold = ColdStart.Of(flue!, air, lowC, source!.Value);
        var inTime = cold.PreheatS <= ColdStart.LongestPreheat.Value;
        return new ColdStartAnswer(cold.DraftPa, cold.State == ColdState.Plug, cold.State, cold.TargetGasC, cold.EnergyJ / 1000,
            inTime ? cold.PreheatS : null, Advise(cold, flue!, source.Value, inTime), assumed.Used);
    }

    private static string Advise(ColdStart cold, FlueSystem flue, HeatSource source, bool inTime)
    {
        if (cold.PreheatS == 0)
            return "It pulls by itself: light from the top.";
        var words = cold.State switch
        {
            ColdState.Plug => "Cold air falls: smoke will come into the room unless the flue is warmed first. ",
            ColdState.Standing => "The air stands: warm the flue before lighting. ",
            _ => "It pulls weakly: a short preheat helps. ",
        };
        var with = source switch
        {
            HeatSource.Newspaper => $"newspaper, {cold.PreheatS / 60:0} {(cold.PreheatS > 60 ? "charges" : "charge")} of two full sheets",
            HeatSource.Dryer => "the hair dryer",
            _ => "the gas torch",
        };
        words += inTime
            ? $"Preheat about {Math.Max(1, Math.Round(cold.PreheatS / 60)):0} min with {with}."
            : $"Over 10 minutes: {with} will not do it alone.";
        if (flue.Segments.Any(s => s.Construction.Wall.DiffusivityM2S > 0))
            words += " On clay and brick that is an upper bound: the gas need not wait for the wall.";
        if (source != HeatSource.Dryer)
            words += " No open flame into a flue that shows tar.";
        return words + " If five minutes do not turn it, look for a blockage or a storm; do not keep heating.";
    }
}
