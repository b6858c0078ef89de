namespace Grate.Core.Flue;

/// <summary>Something tall near the outlet.</summary>
/// <param name="DistanceM">Horizontal distance, m.</param>
/// <param name="TopAbovePenetrationM">Its top above the highest point where the flue passes the roof, m.</param>
public sealed record ObstacleEntry(double? DistanceM = null, double? TopAbovePenetrationM = null);

/// <summary>The question of POST /api/calculations/termination; what is not given is not judged.</summary>
/// <param name="RoofPitchDeg">Roof pitch, 0..70°.</param>
/// <param name="RidgeDistanceM">Horizontal distance to the ridge, m.</param>
/// <param name="RidgeHeightAbovePenetrationM">Ridge above the highest point where the flue passes the roof, m.</param>
/// <param name="HeightAbovePenetrationM">Top of the flue above that point, m; needed.</param>
/// <param name="Obstacles">What stands around.</param>
/// <param name="CollarDiameterM">Collar, m.</param>
/// <param name="FlueAreaM2">Flue area, m².</param>
/// <param name="ExteriorWall">Whether a wall of the chimney stands outdoors; default false.</param>
/// <param name="EffectiveHeightM">From the top of the stove to the top of the flue, m.</param>
public sealed record TerminationEntry(
    double? RoofPitchDeg = null, double? RidgeDistanceM = null, double? RidgeHeightAbovePenetrationM = null, double? HeightAbovePenetrationM = null,
    IReadOnlyList<ObstacleEntry>? Obstacles = null, double? CollarDiameterM = null, double? FlueAreaM2 = null, bool? ExteriorWall = null,
    double? EffectiveHeightM = null);

/// <summary>A rule held against what was found.</summary>
/// <param name="Rule">In words.</param>
/// <param name="Limit">Its limit, m or ratio.</param>
/// <param name="Found">What was found.</param>
/// <param name="Ok">Whether it is kept.</param>
/// <param name="Mark">Provenance.</param>
public sealed record TerminationRule(string Rule, double Limit, double Found, bool Ok, Mark Mark)
{
    internal bool OfAreas { get; init; }

    internal bool OfHeightAboveRoof { get; init; }

    /// <summary>The rule with its numbers: "Above the roof within 3 m: 0.90 m, 1.62 m are asked."</summary>
    public string Sentence(UnitSystem system)
    {
        var unit = Units.Of(OfAreas ? Quantity.Ratio : Quantity.Length, system);
        return $"{char.ToUpperInvariant(Rule[0])}{Rule[1..]}: {unit.Format(Found)}, {(Ok || Found < Limit ? "at least" : "at most")} {unit.Format(Limit)} {(OfAreas ? "of the collar's" : "asked")}.";
    }
}

/// <summary>The answer of POST /api/calculations/termination (handbook 01 section 9).</summary>
/// <param name="RequiredAbovePenetrationM">Height that all rules ask for, m.</param>
/// <param name="MissingM">What is missing of it, m, 0 if nothing.</param>
/// <param name="AreaRatio">Flue area over collar area; null if not given.</param>
/// <param name="AreaVerdict">ok, too-small or too-large; null if not given.</param>
/// <param name="HeightVerdict">ok or too-low; null if not given.</param>
/// <param name="Rules">Every rule that could be judged.</param>
public sealed record TerminationAnswer(
    double RequiredAbovePenetrationM, double MissingM, double? AreaRatio, string? AreaVerdict, string? HeightVerdict, IReadOnlyList<TerminationRule> Rules)
{
    /// <summary>Above the highest point where the flue passes the roof.</summary>
    public static readonly Limit AboveRoof = Limit.Memory(0.9, "m", "NFPA 211: 3 ft above the highest point where it passes the roof");

    /// <summary>Above anything near.</summary>
    public static readonly Limit AboveNear = Limit.Memory(0.6, "m", "NFPA 211: 2 ft above anything within 10 ft");

    /// <summary>How far near reaches, horizontally.</summary>
    public static readonly Limit Near = Limit.Memory(3, "m", "NFPA 211: 10 ft horizontally");

    /// <summary>Least effective height.</summary>
    public static readonly Limit LeastHeight = Limit.Practice(4.5, "m", "from the top of the stove; also UK Approved Document J (from memory)");

    /// <summary>North American practice for the effective height.</summary>
    public static readonly Limit LeastHeightAmerican = Limit.Practice(4.6, "m", "15 ft, North American practice");

    /// <summary>Greatest flue area over collar area.</summary>
    public static readonly Limit GreatestArea = Limit.Memory(3, "", "NFPA 211 / IRC: not more than three times the collar's area");

    /// <summary>The same where a wall of the chimney stands outdoors.</summary>
    public static readonly Limit GreatestAreaOutdoors = Limit.Memory(2, "", "NFPA 211 / IRC: twice where a wall stands outdoors");

    private static readonly EntryRange _height = new("Height", Quantity.Length, -20, 40);
    private static readonly EntryRange _distance = new("Distance", Quantity.Length, 0, 100);
    private static readonly EntryRange _pitch = new("Roof pitch in degrees", Quantity.Ratio, 0, 70);
    private static readonly EntryRange _area = new("Flue area", Quantity.Area, 0.001, 4);
    private const int MostObstacles = 50;

    /// <summary>The same top at another height above the roof, m.</summary>
    public TerminationAnswer At(double aboveRoofM) => this with
    {
        MissingM = Math.Max(0, RequiredAbovePenetrationM - aboveRoofM),
        Rules = [.. Rules.Select(r => r.OfHeightAboveRoof ? r with { Found = aboveRoofM, Ok = aboveRoofM >= r.Limit - 1e-9 } : r)],
    };

    /// <summary>Answers a termination question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static TerminationAnswer? To(TerminationEntry entry, EntryErrors errors)
    {
        Check(entry, errors);
        if (errors.Any)
            return null;
        var found = entry.HeightAbovePenetrationM!.Value;
        var rules = new List<TerminationRule>();
        void AtLeast(string rule, double limit, double measured, Mark mark, bool aboveRoof = true) =>
            rules.Add(new(rule, limit, measured, measured >= limit - 1e-9, mark) { OfHeightAboveRoof = aboveRoof });

        AtLeast("above the roof where the flue passes it", AboveRoof.Value, found, AboveRoof.Mark);
        if (RoofNear(entry) is { } roof)
            AtLeast("above the roof within 3 m", roof + AboveNear.Value, found, AboveNear.Mark);
        foreach (var obstacle in (entry.Obstacles ?? []).Where(o => o.DistanceM <= Near.Value))
            AtLeast($"above what stands at {obstacle.DistanceM:0.##} m", obstacle.TopAbovePenetrationM!.Value + AboveNear.Value, found, AboveNear.Mark);
        var required = rules.Max(r => r.Limit);

        string? heightVerdict = null;
        if (entry.EffectiveHeightM is { } height)
        {
            AtLeast("effective height from the top of the stove", LeastHeight.Value, height, LeastHeight.Mark, aboveRoof: false);
            AtLeast("effective height, North American practice", LeastHeightAmerican.Value, height, LeastHeightAmerican.Mark, aboveRoof: false);
            heightVerdict = height >= LeastHeight.Value ? "ok" : "too-low";
        }
        var (ratio, areaVerdict) = Area(entry, rules);
        return new TerminationAnswer(required, Math.Max(0, required - found), ratio, areaVerdict, heightVerdict, rules);
    }

    // The highest roof within 3 m: the ridge if it is that near, else the slope 3 m up.
    private static double? RoofNear(TerminationEntry entry)
    {
        var slope = entry.RoofPitchDeg is { } pitch ? Math.Tan(pitch * Math.PI / 180) : (double?)null;
        var ridge = entry.RidgeHeightAbovePenetrationM ?? slope * entry.RidgeDistanceM;
        if (entry.RidgeDistanceM <= Near.Value)
            return ridge;
        var uphill = slope * Near.Value;
        return ridge < uphill ? ridge : uphill;
    }

    private static (double? Ratio, string? Verdict) Area(TerminationEntry entry, List<TerminationRule> rules)
    {
        if (entry.FlueAreaM2 is not { } area || entry.CollarDiameterM is not { } collar)
            return (null, null);
        var ratio = area / new Round(collar).AreaM2;
        var greatest = entry.ExteriorWall == true ? GreatestAreaOutdoors : GreatestArea;
        // A flue of the collar's own size must not fail by a rounding of its area.
        var (small, large) = (ratio < 1 - 1e-3, ratio > greatest.Value + 1e-3);
        rules.Add(new TerminationRule("flue area not smaller than the collar's", 1, ratio, !small, greatest.Mark) { OfAreas = true });
        rules.Add(new TerminationRule(entry.ExteriorWall == true ? "flue area, a wall outdoors" : "flue area", greatest.Value, ratio, !large, greatest.Mark) { OfAreas = true });
        return (ratio, small ? "too-small" : large ? "too-large" : "ok");
    }

    private static void Check(TerminationEntry entry, EntryErrors errors)
    {
        errors.Need("heightAbovePenetrationM", entry.HeightAbovePenetrationM, _height);
        errors.Check("roofPitchDeg", entry.RoofPitchDeg, _pitch);
        errors.Check("ridgeDistanceM", entry.RidgeDistanceM, _distance);
        errors.Check("ridgeHeightAbovePenetrationM", entry.RidgeHeightAbovePenetrationM, _height);
        errors.Check("collarDiameterM", entry.CollarDiameterM, FlueRanges.Bore);
        errors.Check("flueAreaM2", entry.FlueAreaM2, _area);
        errors.Check("effectiveHeightM", entry.EffectiveHeightM, _height);
        foreach (var (obstacle, i) in errors.Each("obstacles", entry.Obstacles, MostObstacles, "obstacles"))
        {
            errors.Need($"obstacles[{i}].distanceM", obstacle.DistanceM, _distance);
            errors.Need($"obstacles[{i}].topAbovePenetrationM", obstacle.TopAbovePenetrationM, _height);
        }
    }
}
