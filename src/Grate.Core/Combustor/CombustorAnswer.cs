using Grate.Core.Flue;

namespace Grate.Core.Combustor;

/// <summary>A light-off test of an earlier visit.</summary>
/// <param name="Hours">Hours of use then, 0..100 000.</param>
/// <param name="Minutes">Minutes to +50 K, 0..120.</param>
public sealed record LightOffVisitEntry(double? Hours = null, double? Minutes = null);

/// <summary>A sample of the probe.</summary>
/// <param name="Minute">From the closing of the bypass, min, −240..240.</param>
/// <param name="ProbeC">Probe, °C, −40..1400.</param>
public sealed record ProbeSampleEntry(double? Minute = null, double? ProbeC = null);

/// <summary>A light-off test.</summary>
/// <param name="Series">Samples of the probe, in any order.</param>
/// <param name="StartC">Probe from which the bypass may be closed, °C; default 260.</param>
/// <param name="GoodFire">Whether a good fire burnt on coals; default true.</param>
/// <param name="TopClear">Whether the top of the chimney cleared; null where nobody looked.</param>
public sealed record LightOffEntry(IReadOnlyList<ProbeSampleEntry>? Series = null, double? StartC = null, bool? GoodFire = null, bool? TopClear = null);

/// <summary>The question of POST /api/calculations/combustor.</summary>
/// <param name="BurnKgH">Burn rate, kg/h; default 3.5.</param>
/// <param name="CellsDarkShare">Share of cells dark, 0..0.99; default 0.</param>
/// <param name="CoatingShare">Share of each open cell's area lost to a coating, 0..0.99; default 0.</param>
/// <param name="CleanPaAtHigh">What it costs clean at 3.5 kg/h, Pa, 0.1..50; default 3.</param>
/// <param name="Hours">Hours of use, 0..100 000.</param>
/// <param name="WoodKg">Wood burnt with it, kg, 0..500 000.</param>
/// <param name="AverageBurnKgH">Average burn rate, kg/h; default 1.5.</param>
/// <param name="WoodKgPerYear">Wood of a year, kg, 1..100 000.</param>
/// <param name="LifeH">Its life, h, 100..100 000; default 11 000.</param>
/// <param name="LimitMin">Minutes to +50 K at its end, 1..120; default 10.</param>
/// <param name="Visits">Light-off tests so far.</param>
/// <param name="LightOff">A light-off test.</param>
public sealed record CombustorEntry(double? BurnKgH = null, double? CellsDarkShare = null, double? CoatingShare = null, double? CleanPaAtHigh = null,
    double? Hours = null, double? WoodKg = null, double? AverageBurnKgH = null, double? WoodKgPerYear = null, double? LifeH = null, double? LimitMin = null,
    IReadOnlyList<LightOffVisitEntry>? Visits = null, LightOffEntry? LightOff = null);

/// <summary>What a combustor costs of the draft.</summary>
/// <param name="DropPa">As it is, Pa.</param>
/// <param name="CleanPa">Clean, Pa.</param>
/// <param name="ExtraNeedPa">What the draft needed rises by, Pa.</param>
public sealed record CombustorPressure(double DropPa, double CleanPa, double ExtraNeedPa)
{
    /// <summary>The pressure it costs: half of the cells dark cost 6 instead of 3 Pa at high fire (laminar: Δp ∝ flow).</summary>
    /// <param name="burnKgH">Burn rate, kg/h.</param>
    /// <param name="darkShare">Share of cells dark, 0 to below 1.</param>
    /// <param name="coatingShare">Share of each open cell's area lost to a coating, 0 to below 1.</param>
    /// <param name="cleanPaAtHigh">Clean at 3.5 kg/h, Pa.</param>
    public static CombustorPressure Of(double burnKgH, double darkShare, double coatingShare, double cleanPaAtHigh)
    {
        var clean = cleanPaAtHigh * burnKgH / CombustorLimits.HighBurn.Value;
        var drop = clean / ((1 - darkShare) * Math.Pow(1 - coatingShare, 2));
        return new(drop, clean, drop - clean);
    }
}

/// <summary>What ends a combustor's life.</summary>
[JsonConverter(typeof(WordConverter<LifeBound>))]
public enum LifeBound
{
    /// <summary>Its hours.</summary>
    Life,

    /// <summary>Its light-off, which takes longer from visit to visit.</summary>
    Trend,
}

/// <summary>What is left of a combustor.</summary>
/// <param name="Hours">Hours of use.</param>
/// <param name="LifeLeftH">Left by its life, h.</param>
/// <param name="TrendLeftH">Left by the trend of its light-off, h; null where there is none.</param>
/// <param name="MinutesPer1000H">The trend; null where it does not rise, or of fewer than three visits.</param>
/// <param name="LeftH">The smaller, h.</param>
/// <param name="Bound">Which it is.</param>
/// <param name="LeftYears">The same in years of this household's wood; null where that is not known.</param>
public sealed record CombustorLife(double Hours, double LifeLeftH, double? TrendLeftH, double? MinutesPer1000H, double LeftH, LifeBound Bound, double? LeftYears)
{
    /// <summary>
    /// What is left: 4, 5.5 and 7 min at 2 000, 4 000 and 6 000 h leave 4 000 h, by the trend.
    /// </summary>
    /// <param name="hours">Hours of use.</param>
    /// <param name="visits">Hours and minutes to +50 K of the tests so far.</param>
    /// <param name="lifeH">Its life, h.</param>
    /// <param name="limitMin">Minutes at its end, asked where there is a trend.</param>
    /// <param name="hoursPerYear">Hours of use a year; null where they are not known.</param>
    public static CombustorLife Of(double hours, IReadOnlyList<(double Hours, double Minutes)> visits, double lifeH, Func<double> limitMin, Func<double?> hoursPerYear)
    {
        var life = Math.Max(0, lifeH - hours);
        var (slope, start) = Line(visits);
        var trend = slope > 0 ? Math.Max(0, (limitMin() - start) / slope - hours) : (double?)null;
        var left = Math.Min(life, trend ?? life);
        return new(hours, life, trend, slope > 0 ? slope * 1000 : null, left, trend < life ? LifeBound.Trend : LifeBound.Life, left / hoursPerYear());
    }

    // Least squares; nothing of fewer than three tests, or where all are at the same hours.
    private static (double Slope, double Start) Line(IReadOnlyList<(double Hours, double Minutes)> visits)
    {
        if (visits.Count < CombustorLimits.TrendVisits.Value)
            return (0, 0);
        var (hours, minutes) = (visits.Average(v => v.Hours), visits.Average(v => v.Minutes));
        var spread = visits.Sum(v => (v.Hours - hours) * (v.Hours - hours));
        var slope = spread > 0 ? visits.Sum(v => (v.Hours - hours) * (v.Minutes - minutes)) / spread : 0;
        return (slope, minutes - slope * hours);
    }
}

/// <summary>The answer of POST /api/calculations/combustor (handbook 05 section 1).</summary>
/// <param name="Pressure">What it costs of the draft.</param>
/// <param name="Life">What is left of it; null where its hours are not known.</param>
/// <param name="LightOff">The light-off test; null where none was sent.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record CombustorAnswer(CombustorPressure Pressure, CombustorLife? Life, LightOff? LightOff, IReadOnlyList<Assumed> Assumed)
{
    private const int MostVisits = 200;
    private const int MostSamples = 2000;

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static CombustorAnswer? To(CombustorEntry entry, EntryErrors errors)
    {
        errors.Check("burnKgH", entry.BurnKgH, FlueRanges.Burn);
        errors.Check("cellsDarkShare", entry.CellsDarkShare, CombustorRanges.Dark);
        errors.Check("coatingShare", entry.CoatingShare, CombustorRanges.Coating);
        errors.Check("cleanPaAtHigh", entry.CleanPaAtHigh, CombustorRanges.Clean);
        errors.Check("hours", entry.Hours, CombustorRanges.Hours);
        errors.Check("woodKg", entry.WoodKg, CombustorRanges.Wood);
        errors.Check("averageBurnKgH", entry.AverageBurnKgH, FlueRanges.Burn);
        errors.Check("woodKgPerYear", entry.WoodKgPerYear, CombustorRanges.WoodYear);
        errors.Check("lifeH", entry.LifeH, CombustorRanges.Life);
        errors.Check("limitMin", entry.LimitMin, CombustorRanges.AtEnd);
        var visits = new List<(double, double)>();
        foreach (var (visit, i) in errors.Each("visits", entry.Visits, MostVisits, "visits"))
        {
            if (errors.Need($"visits[{i}].hours", visit.Hours, CombustorRanges.Hours) & errors.Need($"visits[{i}].minutes", visit.Minutes, CombustorRanges.Minutes))
                visits.Add((visit.Hours!.Value, visit.Minutes!.Value));
        }
        var assumed = new Assumptions();
        var samples = entry.LightOff is { } test ? Samples(test, errors) : null;
        if (errors.Any)
            return null;
        var pressure = CombustorPressure.Of(assumed.Or(entry.BurnKgH, "burnKgH", CombustorLimits.HighBurn), assumed.Or(entry.CellsDarkShare, "cellsDarkShare", CombustorLimits.None),
            assumed.Or(entry.CoatingShare, "coatingShare", CombustorLimits.None), assumed.Or(entry.CleanPaAtHigh, "cleanPaAtHigh", CombustorLimits.CleanPa));
        double? average = null;
        double Average() => average ??= assumed.Or(entry.AverageBurnKgH, "averageBurnKgH", CombustorLimits.AverageBurn);
        var hours = entry.Hours ?? (entry.WoodKg is { } wood ? wood / Average() : visits.Count > 0 ? visits.Max(v => v.Item1) : null);
        var life = hours is { } used ? CombustorLife.Of(used, visits, assumed.Or(entry.LifeH, "lifeH", CombustorLimits.Life), () => assumed.Or(entry.LimitMin, "limitMin", CombustorLimits.Window),
            () => entry.WoodKgPerYear is { } year ? year / Average() : null) : null;
        LightOff? lightOff = null;
        if (samples is not null)
        {
            var goodFire = assumed.Or(entry.LightOff!.GoodFire, "lightOff.goodFire", true, "nothing was said against it");
            lightOff = LightOff.Of(samples, assumed.Or(entry.LightOff.StartC, "lightOff.startC", CombustorLimits.Start), goodFire, entry.LightOff.TopClear);
        }
        return new(pressure, life, lightOff, assumed.Used);
    }

    private static List<(double, double)> Samples(LightOffEntry test, EntryErrors errors)
    {
        errors.Check("lightOff.startC", test.StartC, CombustorRanges.Probe);
        var samples = new List<(double, double)>();
        foreach (var (sample, i) in errors.Each("lightOff.series", test.Series, MostSamples, "samples"))
        {
            if (errors.Need($"lightOff.series[{i}].minute", sample.Minute, CombustorRanges.Minute) & errors.Need($"lightOff.series[{i}].probeC", sample.ProbeC, CombustorRanges.Probe))
                samples.Add((sample.Minute!.Value, sample.ProbeC!.Value));
        }
        if (test.Series is not { Count: > 0 })
            errors.Add("lightOff.series", "The samples of the probe are missing: at least one.");
        return samples;
    }
}

/// <summary>Numbers of handbook 05 section 1.</summary>
public static class CombustorLimits
{
    /// <summary>High fire.</summary>
    public static readonly Limit HighBurn = Limit.Assumed(3.5, "kg/h", "high fire, chapter 01");

    /// <summary>What a clean one costs at high fire.</summary>
    public static readonly Limit CleanPa = Limit.Assumed(3, "Pa", "2 to 7 by laminar flow in square cells of 4 to 6 mm");

    /// <summary>Nothing dark, nothing coated.</summary>
    public static readonly Limit None = Limit.Assumed(0, "", "until it is held to a lamp");

    /// <summary>Average burn rate.</summary>
    public static readonly Limit AverageBurn = Limit.Assumed(1.5, "kg/h", "a heater's average over the season");

    /// <summary>Life.</summary>
    public static readonly Limit Life = Limit.Practice(11_000, "h", "10 000 to 12 000 h");

    /// <summary>Tests from which a trend is drawn.</summary>
    public static readonly Limit TrendVisits = Limit.Assumed(3, "", "two points are no trend");

    /// <summary>Minutes in which it must climb.</summary>
    public static readonly Limit Window = Limit.Assumed(10, "min", "at least 50 K in ten minutes");

    /// <summary>What it must climb.</summary>
    public static readonly Limit Climb = Limit.Assumed(50, "K", "at least 50 K in ten minutes");

    /// <summary>Where it starts.</summary>
    public static readonly Limit Start = Limit.Practice(260, "°C", "500 °F at the probe");

    /// <summary>Where it works.</summary>
    public static readonly Limit Works = Limit.Practice(370, "°C", "700 °F");

    /// <summary>Where its working range ends.</summary>
    public static readonly Limit WorksTo = Limit.Practice(760, "°C", "1400 °F");

    /// <summary>From where it ages fast.</summary>
    public static readonly Limit AgesFrom = Limit.Practice(870, "°C", "1600 °F");

    /// <summary>What destroys it.</summary>
    public static readonly Limit Destroys = Limit.Practice(980, "°C", "1800 °F");
}

/// <summary>Accepted ranges of a combustor.</summary>
public static class CombustorRanges
{
    /// <summary>Share of cells dark: a face that is dark all over lets nothing through.</summary>
    public static readonly EntryRange Dark = new("Share of cells dark", Quantity.Share, 0, 0.99);

    /// <summary>Share of an open cell's area that is coated.</summary>
    public static readonly EntryRange Coating = new("Share of the cells' area that is coated", Quantity.Share, 0, 0.99);

    /// <summary>What a clean one costs.</summary>
    public static readonly EntryRange Clean = new("Pressure of a clean combustor", Quantity.Draft, 0.1, 50);

    /// <summary>Hours of use.</summary>
    public static readonly EntryRange Hours = new("Hours of use", Quantity.Count, 0, 100_000);

    /// <summary>Wood burnt with it.</summary>
    public static readonly EntryRange Wood = new("Wood burnt with it", Quantity.Wood, 0, 500_000);

    /// <summary>Wood of a year.</summary>
    public static readonly EntryRange WoodYear = new("Wood of a year", Quantity.Wood, 1, 100_000);

    /// <summary>Its life.</summary>
    public static readonly EntryRange Life = new("Life of the combustor, in hours,", Quantity.Count, 100, 100_000);

    /// <summary>Minutes at its end.</summary>
    public static readonly EntryRange AtEnd = new("Minutes at its end", Quantity.Count, 1, 120);

    /// <summary>Minutes to +50 K.</summary>
    public static readonly EntryRange Minutes = new("Minutes to light off", Quantity.Count, 0, 120);

    /// <summary>Minute of a sample.</summary>
    public static readonly EntryRange Minute = new("Minute from the closing of the bypass", Quantity.Count, -240, 240);

    /// <summary>The probe.</summary>
    public static readonly EntryRange Probe = new("Probe", Quantity.Temperature, -40, 1400);
}
