using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>Leakage of a house and what fans do to it (handbook 01 section 8).</summary>
/// <param name="CoefficientM3SPaN">C of Q = C Δp^0.65.</param>
public sealed record HouseLeakage(double CoefficientM3SPaN)
{
    /// <summary>Flow exponent n.</summary>
    public const double Exponent = 0.65;

    /// <summary>Fans stop here: beyond it they do not deliver their rating.</summary>
    public static readonly Limit Deepest = Limit.Assumed(50, "Pa", "over 50 Pa; the fan will not deliver its rating");

    /// <summary>Depressurisation that an ordinary stove bears.</summary>
    public static readonly Limit Bearable = Limit.Practice(4, "Pa", "a drop of more than 4–5 Pa is trouble with an ordinary stove");

    /// <summary>Tightness by year of building, ACH50.</summary>
    public static readonly IReadOnlyDictionary<string, Limit> ByEra = new Dictionary<string, Limit>
    {
        ["before-1980"] = Limit.Assumed(10, "1/h", "ACH50 of a house built before 1980"),
        ["to-2005"] = Limit.Assumed(6, "1/h", "ACH50 of a house built up to 2005"),
        ["later"] = Limit.Assumed(3, "1/h", "ACH50 of a later house"),
        ["low-energy"] = Limit.Assumed(1, "1/h", "ACH50 of a certified low-energy house"),
    };

    /// <summary>ACH50 as measured, else by the era, which is then noted, 1/h.</summary>
    internal static double Ach50(double? measured, string? builtEra, string field, Assumptions assumed)
    {
        if (measured is { } known)
            return known;
        var byEra = ByEra[builtEra!];
        assumed.Note(field, byEra.Value, byEra.Mark, byEra.Reason);
        return byEra.Value;
    }

    /// <summary>C = (ACH50 V/3600)/50^n (ASHRAE Fundamentals, power law, from memory).</summary>
    public static HouseLeakage Of(double volumeM3, double ach50) => new(ach50 * volumeM3 / 3600 / Math.Pow(50, Exponent));

    /// <summary>P_fans = −(Q/C)^(1/n), with the sign of a net supply turned, held within ±50 Pa.</summary>
    /// <param name="netExhaustM3S">Exhaust − supply + the stove's own room air, m³/s.</param>
    public double FansPa(double netExhaustM3S) =>
        -Math.Sign(netExhaustM3S) * Math.Min(Deepest.Value, Math.Pow(Math.Abs(netExhaustM3S) / CoefficientM3SPaN, 1 / Exponent));

    /// <summary>Q = C Δp^n, m³/s: what leaks in while the room is that much below outdoors, out while it is above.</summary>
    public double FlowM3S(double belowPa) => Math.Sign(belowPa) * CoefficientM3SPaN * Math.Pow(Math.Abs(belowPa), Exponent);

    /// <summary>Supply that keeps the fans within a limit, m³/s: max(0, Q − C Δp^n).</summary>
    public double MakeupM3S(double netExhaustM3S, double limitPa) =>
        Math.Max(0, netExhaustM3S - CoefficientM3SPaN * Math.Pow(limitPa, Exponent));

    /// <summary>P_stack = −(ρ_out − ρ_in) g (h_np − h_stove), Pa, both densities at station pressure: −3.89 Pa for 0 and 20 °C at sea level, 4.5 m below the neutral plane.</summary>
    /// <param name="pressurePa">Station pressure, Pa.</param>
    /// <param name="outdoorC">Outdoors, °C.</param>
    /// <param name="indoorC">Indoors, °C.</param>
    /// <param name="neutralPlaneM">Height of the neutral plane, m.</param>
    /// <param name="stoveHeightM">Height of the stove's opening, m.</param>
    public static double StackPa(double pressurePa, double outdoorC, double indoorC, double neutralPlaneM, double stoveHeightM) =>
        -(DryAir.DensityKgM3(pressurePa, outdoorC) - DryAir.DensityKgM3(pressurePa, indoorC)) * DryAir.Gravity * (neutralPlaneM - stoveHeightM);
}

/// <summary>The question of POST /api/calculations/house-pressure.</summary>
/// <param name="VolumeM3">House volume, m³, 20..20 000; needed.</param>
/// <param name="Ach50">Blower-door result, 1/h, 0.1..60.</param>
/// <param name="BuiltEra">before-1980, to-2005, later or low-energy; where no ACH50 is known.</param>
/// <param name="FansLS">Exhaust flows, L/s each.</param>
/// <param name="IndoorC">Room temperature, °C; default 20.</param>
/// <param name="OutdoorC">Outdoor temperature, °C; needed.</param>
/// <param name="AltitudeM">Altitude, m; default 0.</param>
/// <param name="StoveHeightM">Collar above the lowest heated floor, m; default 1.</param>
/// <param name="NeutralPlaneM">Neutral plane above the lowest heated floor, m; default half the heated height.</param>
/// <param name="HeatedHeightM">Heated height, m; default 5.</param>
/// <param name="SupplyLS">Supply, L/s; default 0.</param>
/// <param name="StoveAirLS">The stove's own room air, L/s; default 0.</param>
/// <param name="LimitPa">Depressurisation borne, Pa; default 4.</param>
public sealed record HousePressureEntry(
    double? VolumeM3 = null, double? Ach50 = null, string? BuiltEra = null, IReadOnlyList<double>? FansLS = null, double? IndoorC = null,
    double? OutdoorC = null, double? AltitudeM = null, double? StoveHeightM = null, double? NeutralPlaneM = null, double? HeatedHeightM = null,
    double? SupplyLS = null, double? StoveAirLS = null, double? LimitPa = null);

/// <summary>The answer of POST /api/calculations/house-pressure; pressures are negative when the room is below outdoors.</summary>
/// <param name="FanPa">By fans, Pa.</param>
/// <param name="StackPa">By the stack effect, Pa.</param>
/// <param name="TotalPa">Both, Pa.</param>
/// <param name="MakeupLS">Supply that brings the fans within the limit, L/s.</param>
/// <param name="Assumed">Every default used.</param>
public sealed record HousePressureAnswer(double FanPa, double StackPa, double TotalPa, double MakeupLS, IReadOnlyList<Assumed> Assumed)
{
    private static readonly EntryRange _volume = new("House volume", Quantity.Volume, 20, 20_000);
    private static readonly EntryRange _ach50 = new("ACH50 in 1/h", Quantity.Ratio, 0.1, 60);
    private static readonly EntryRange _flow = new("Flow", Quantity.AirFlow, 0, 2_000, 0.001);
    private static readonly EntryRange _height = new("Height", Quantity.Length, 0, 40);
    private static readonly EntryRange _limit = new("Depressurisation borne", Quantity.Draft, 0, 50);
    private static readonly Limit _collar = Limit.Assumed(1, "m", "collar of a stove on the lowest heated floor");
    private static readonly Limit _heated = Limit.Assumed(5, "m", "two heated storeys");
    private static readonly Limit _nothing = Limit.Assumed(0, "L/s", "none entered");
    private const int MostFans = 30;

    /// <summary>Answers a house-pressure question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static HousePressureAnswer? To(HousePressureEntry entry, EntryErrors errors)
    {
        Check(entry, errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var leakage = HouseLeakage.Of(entry.VolumeM3!.Value, HouseLeakage.Ach50(entry.Ach50, entry.BuiltEra, "ach50", assumed));
        var net = ((entry.FansLS ?? []).Sum() - assumed.Or(entry.SupplyLS, "supplyLS", _nothing) + assumed.Or(entry.StoveAirLS, "stoveAirLS", _nothing)) / 1000;
        var neutral = entry.NeutralPlaneM ?? assumed.Or(entry.HeatedHeightM, "heatedHeightM", _heated) / 2;
        if (entry.NeutralPlaneM is null)
            assumed.Note("neutralPlaneM", neutral, Mark.Assumption, "half the heated height");
        var fans = leakage.FansPa(net);
        var stack = HouseLeakage.StackPa(DryAir.StationPressurePa(assumed.Or(entry.AltitudeM, "altitudeM", FlueLimits.Altitude)), entry.OutdoorC!.Value,
            assumed.Or(entry.IndoorC, "indoorC", FlueLimits.Room), neutral, assumed.Or(entry.StoveHeightM, "stoveHeightM", _collar));
        var makeup = leakage.MakeupM3S(net, assumed.Or(entry.LimitPa, "limitPa", HouseLeakage.Bearable));
        return new HousePressureAnswer(fans, stack, fans + stack, 1000 * makeup, assumed.Used);
    }

    private static void Check(HousePressureEntry entry, EntryErrors errors)
    {
        CheckAir("", entry.VolumeM3, entry.Ach50, entry.BuiltEra, entry.FansLS, entry.SupplyLS, entry.StoveAirLS, errors);
        errors.Need("outdoorC", entry.OutdoorC, EntryRange.Outdoors);
        errors.Check("indoorC", entry.IndoorC, EntryRange.Room);
        errors.Check("altitudeM", entry.AltitudeM, FlueRanges.Altitude);
        errors.Check("stoveHeightM", entry.StoveHeightM, _height);
        errors.Check("neutralPlaneM", entry.NeutralPlaneM, _height);
        errors.Check("heatedHeightM", entry.HeatedHeightM, _height);
        errors.Check("limitPa", entry.LimitPa, _limit);
    }

    /// <summary>Refuses what no house and its fans have, by the fields of a question.</summary>
    internal static void CheckAir(string path, double? volumeM3, double? ach50, string? builtEra, IReadOnlyList<double>? fansLS, double? supplyLS, double? stoveAirLS, EntryErrors errors)
    {
        errors.Need($"{path}volumeM3", volumeM3, _volume);
        errors.Check($"{path}ach50", ach50, _ach50);
        if (ach50 is null && !HouseLeakage.ByEra.ContainsKey(builtEra ?? ""))
            errors.Add($"{path}builtEra", Word.OneOf("Era, where no ACH50 is known,", builtEra, HouseLeakage.ByEra.Keys));
        foreach (var (fan, i) in errors.Each($"{path}fansLS", fansLS, MostFans, "fans"))
            errors.Check($"{path}fansLS[{i}]", fan, _flow);
        errors.Check($"{path}supplyLS", supplyLS, _flow);
        errors.Check($"{path}stoveAirLS", stoveAirLS, _flow);
    }
}
