using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Physics;

namespace Grate.Core.Air;

/// <summary>A duct as entered.</summary>
/// <param name="Kind">smooth or flex; default smooth.</param>
/// <param name="LengthM">True length, m, 0.1..50; needed.</param>
/// <param name="Bends90">Bends of 90°, 0..20; default 0.</param>
/// <param name="Bends45">Bends of 45°, 0..20; default 0.</param>
/// <param name="Hood">A hood at the intake, its flap removed; default true.</param>
/// <param name="Screen">none, clean or insect-dirty; default clean.</param>
/// <param name="Entry">Entry into the stove; default true.</param>
/// <param name="ExtraZeta">Σζ of what else is in it, 0..100.</param>
/// <param name="RiseM">How much higher the outer end is, m, −20..20; default 0.</param>
/// <param name="CollarMm">The appliance's collar for it, mm, 20..300.</param>
/// <param name="DiameterMm">The size that is there or wanted: 75, 100, 125 or 150 mm.</param>
public sealed record DuctEntry(
    [property: Words(typeof(DuctKind))] string? Kind = null, double? LengthM = null, int? Bends90 = null, int? Bends45 = null, bool? Hood = null,
    [property: Words(typeof(DuctScreen))] string? Screen = null, bool? Entry = null, double? ExtraZeta = null, double? RiseM = null,
    double? CollarMm = null, double? DiameterMm = null);

/// <summary>The fire and the weather whose replaced air is heated.</summary>
/// <param name="OutdoorC">Outdoors now, °C.</param>
/// <param name="BurnKgH">Burn rate as fired, kg/h; default normal fire.</param>
/// <param name="MoistureWet">Moisture, wet basis; default 18 %.</param>
/// <param name="ExcessAir">λ; default normal fire.</param>
/// <param name="WoodKgPerYear">Wood a year, kg as fired, 0..200 000.</param>
/// <param name="MonthlyMeanC">Monthly means, January first, °C; default an ordinary site.</param>
public sealed record ReplacedAirEntry(double? OutdoorC = null, double? BurnKgH = null, double? MoistureWet = null, double? ExcessAir = null,
    double? WoodKgPerYear = null, IReadOnlyList<double>? MonthlyMeanC = null);

/// <summary>A house and its fans, the worst case of which is wanted.</summary>
/// <param name="VolumeM3">Volume, m³; needed.</param>
/// <param name="Ach50">Blower-door result, 1/h.</param>
/// <param name="BuiltEra">Era, where no blower door was there.</param>
/// <param name="FansLS">Exhaust flows, L/s.</param>
/// <param name="SupplyLS">Supply, L/s; default 0.</param>
/// <param name="StoveAirLS">The stove's own air, L/s; default that of the high fire.</param>
public sealed record FansOfHouse(double? VolumeM3 = null, double? Ach50 = null, string? BuiltEra = null, IReadOnlyList<double>? FansLS = null, double? SupplyLS = null, double? StoveAirLS = null);

/// <summary>The question of POST /api/calculations/air-duct.</summary>
/// <param name="RoomC">Room, °C; default 21.</param>
/// <param name="Humidity">Relative humidity of the room, 0.01..0.99; default 0.5.</param>
/// <param name="OutdoorDesignC">Outdoors on a cold day, °C; default −10.</param>
/// <param name="AltitudeM">Altitude, m; default 0.</param>
/// <param name="StationPressurePa">Barometer, Pa; replaces the altitude.</param>
/// <param name="LimitPa">What the duct may cost at high fire, Pa, above 0; default 4.</param>
/// <param name="Fire">The high fire.</param>
/// <param name="Duct">The duct.</param>
/// <param name="InsulationKWMK">Conductivity of its insulation, W/(m K); default 0.04.</param>
/// <param name="FilmWM2K">Film at its surface, W/(m² K); default 8.</param>
/// <param name="Heat">What replaced air costs.</param>
/// <param name="House">House and fans.</param>
/// <param name="WorstCasePa">Room less outdoors by fans alone, Pa, as measured; wins over the house.</param>
/// <param name="HouseLimitPa">Depressurisation borne, Pa; default 4.</param>
/// <param name="CodeAsks">Whether code asks for outside air; default false.</param>
/// <param name="AirCollar">Whether the appliance has a collar for it; default true.</param>
public sealed record AirDuctEntry(
    double? RoomC = null, double? Humidity = null, double? OutdoorDesignC = null, double? AltitudeM = null, double? StationPressurePa = null, double? LimitPa = null,
    FireEntry? Fire = null, DuctEntry? Duct = null, double? InsulationKWMK = null, double? FilmWM2K = null, ReplacedAirEntry? Heat = null, FansOfHouse? House = null,
    double? WorstCasePa = null, double? HouseLimitPa = null, bool? CodeAsks = null, bool? AirCollar = null);

/// <summary>How a stove gets its outside air.</summary>
[JsonConverter(typeof(WordConverter<AirSchool>))]
public enum AirSchool
{
    /// <summary>From the room.</summary>
    [Said("From the room, no duct")]
    None,

    /// <summary>By a duct to the stove.</summary>
    [Said("A duct to the stove")]
    Direct,

    /// <summary>By a vent that ends near it.</summary>
    [Said("A vent near the stove")]
    Near,
}

/// <summary>A size of the duct.</summary>
/// <param name="DiameterMm">Inside diameter, mm.</param>
/// <param name="VelocityMS">Velocity, m/s.</param>
/// <param name="Reynolds">Reynolds number.</param>
/// <param name="LossPa">Pressure it costs, Pa.</param>
/// <param name="Fits">Whether it keeps the limit and is not smaller than the collar.</param>
public sealed record DuctSize(double DiameterMm, double VelocityMS, double Reynolds, double LossPa, bool Fits);

/// <summary>What the duct comes to.</summary>
/// <param name="Zeta">Σζ.</param>
/// <param name="Sizes">Every size.</param>
/// <param name="SmallestMm">The smallest that fits, mm; null if none does.</param>
/// <param name="Chosen">The one that is there, else the smallest that fits.</param>
/// <param name="EquivalentLengthM">Equivalent length, m.</param>
/// <param name="PracticeMm">What practice would take, mm.</param>
public sealed record DuctAnswer(double Zeta, IReadOnlyList<DuctSize> Sizes, double? SmallestMm, DuctSize? Chosen, double EquivalentLengthM, double PracticeMm);

/// <summary>Insulation against dew.</summary>
/// <param name="DewPointC">Dew point of the room, °C.</param>
/// <param name="ThicknessMm">Least thickness, mm.</param>
public sealed record DuctInsulation(double DewPointC, double ThicknessMm);

/// <summary>Heat that replaced air costs.</summary>
/// <param name="LossW">Now, W; null without the weather.</param>
/// <param name="SeasonKwh">Over a year, kWh; null without its wood.</param>
/// <param name="SeasonOutdoorC">Outdoors then, weighted by the wood, °C.</param>
public sealed record ReplacedAir(double? LossW, double? SeasonKwh, double? SeasonOutdoorC)
{
    /// <summary>Heat in a mass of air, J: m cp (room − outdoors), not below 0. 19.4 kg/h from 0 to 20 °C: 108 W.</summary>
    public static double HeatJ(double airKg, double roomC, double outdoorC) => Math.Max(0, airKg * DryAir.HeatCapacityJKgK * (roomC - outdoorC));
}

/// <summary>The room against outdoors, at worst.</summary>
/// <param name="FanPa">By the fans alone, Pa, negative below outdoors.</param>
/// <param name="LimitPa">What is borne, Pa.</param>
/// <param name="Within">Whether it stays within.</param>
public sealed record WorstHouse(double FanPa, double LimitPa, bool Within);

/// <summary>The answer of POST /api/calculations/air-duct (handbook 06 sections 1 to 3).</summary>
/// <param name="AirKgH">Air of the high fire, kg/h.</param>
/// <param name="AirM3H">The same at the room's density, m³/h.</param>
/// <param name="Duct">The duct; null without one.</param>
/// <param name="Insulation">Its insulation; null without a size.</param>
/// <param name="ReverseDraftPa">Its draft against the flow, Pa; null without a duct.</param>
/// <param name="Heat">What replaced air costs; null where it was not asked.</param>
/// <param name="WorstCase">The room at worst; null where nobody knows it.</param>
/// <param name="School">How this stove should get its air; null while neither the worst case nor the code says anything.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record AirDuctAnswer(double AirKgH, double AirM3H, DuctAnswer? Duct, DuctInsulation? Insulation, double? ReverseDraftPa, ReplacedAir? Heat,
    WorstHouse? WorstCase, AirSchool? School, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Room of this chapter.</summary>
    public static readonly Limit Room = Limit.Assumed(21, "°C", "a room in which people sit");

    /// <summary>Humidity of the room.</summary>
    public static readonly Limit Humidity = Limit.Assumed(0.5, "", "a lived-in room");

    /// <summary>Outdoors on a cold day.</summary>
    public static readonly Limit OutdoorDesign = Limit.Assumed(-10, "°C", "a cold day");

    private static readonly Limit
        _insulation = Limit.Assumed(0.04, "W/(m K)", "mineral wool, foam"),
        _film = Limit.Assumed(8, "W/(m² K)", "a surface in a room"),
        _level = Limit.Assumed(0, "m", "the intake level with the stove"),
        _none = Limit.Assumed(0, "", "none entered");

    private static readonly EntryRange
        _humidity = new("Relative humidity", Quantity.Share, 0.01, 0.99),
        _limit = new("Pressure the duct may cost", Quantity.Draft, 0.1, 50),
        _houseLimit = new("Depressurisation borne", Quantity.Draft, 0, 50),
        _length = new("Length of the duct", Quantity.Length, 0.1, 50),
        _bends = new("Bends", Quantity.Count, 0, 20),
        _zeta = new("Further loss coefficient ζ", Quantity.Ratio, 0, 100),
        _rise = new("Rise of the duct outside", Quantity.Length, -20, 20),
        _collar = new("Collar for the duct", Quantity.Bore, 20, 300, 0.001),
        _conductivity = new("Conductivity of the insulation in W/(m K)", Quantity.Ratio, 0.01, 1),
        _filmRange = new("Surface film in W/(m² K)", Quantity.Ratio, 1, 50);

    /// <summary>Wood of a year.</summary>
    internal static readonly EntryRange WoodYearKg = new("Wood a year", Quantity.Wood, 0, 200_000);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static AirDuctAnswer? To(AirDuctEntry entry, EntryErrors errors)
    {
        Check(entry, errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var pressure = FlueLimits.PressurePa(entry.StationPressurePa, entry.AltitudeM, "altitudeM", assumed);
        var room = assumed.Or(entry.RoomC, "roomC", Room);
        var air = FireAir.KgH("fire.", entry.Fire, FiringLevel.High, assumed);
        var airM3H = air / DryAir.DensityKgM3(pressure, room);
        DuctAnswer? duct = null;
        DuctInsulation? insulation = null;
        double? reverse = null;
        if (entry.Duct is { } laid)
        {
            var outdoor = assumed.Or(entry.OutdoorDesignC, "outdoorDesignC", OutdoorDesign);
            duct = Size(laid, air, outdoor, pressure, assumed.Or(entry.LimitPa, "limitPa", Air.Duct.LimitPa), assumed);
            reverse = Air.Duct.ReverseDraftPa(assumed.Or(laid.RiseM, "duct.riseM", _level), outdoor, room, pressure);
            if (duct.Chosen is { } chosen)
            {
                var dew = Physics.Humidity.DewPointC(room, assumed.Or(entry.Humidity, "humidity", Humidity));
                insulation = new(dew, Air.Duct.InsulationMm(chosen.DiameterMm, room, dew, outdoor,
                    assumed.Or(entry.InsulationKWMK, "insulationKWMK", _insulation), assumed.Or(entry.FilmWM2K, "filmWM2K", _film)));
            }
        }
        var heat = entry.Heat is { } asked ? HeatOf(asked, room, assumed) : null;
        var worst = Worst(entry, airM3H, assumed);
        return new(air, airM3H, duct, insulation, reverse, heat, worst, SchoolOf(entry, worst, assumed), assumed.Used);
    }

    /// <summary>A duct as it was entered and accepted.</summary>
    internal static Duct Laid(DuctEntry entry, Assumptions assumed) => new(
        assumed.Or(entry.Kind, "duct.kind", DuctKind.Smooth, "rigid metal"), entry.LengthM!.Value,
        (int)assumed.Or(entry.Bends90, "duct.bends90", _none), (int)assumed.Or(entry.Bends45, "duct.bends45", _none),
        assumed.Or(entry.Hood, "duct.hood", true, "an intake has a hood"), assumed.Or(entry.Screen, "duct.screen", DuctScreen.Clean, "a clean screen of 6 mm"),
        assumed.Or(entry.Entry, "duct.entry", true, "it ends in the stove"), entry.ExtraZeta ?? 0);

    private static DuctAnswer Size(DuctEntry entry, double airKgH, double outdoorC, double pressurePa, double limitPa, Assumptions assumed)
    {
        var duct = Laid(entry, assumed);
        List<DuctSize> sizes = [.. Air.Duct.SizesMm.Select(mm =>
        {
            var loss = duct.At(mm, airKgH, outdoorC, pressurePa);
            return new DuctSize(mm, loss.VelocityMS, loss.Reynolds, loss.LossPa, loss.LossPa <= limitPa + Limit.Met && mm >= (entry.CollarMm ?? 0) - Limit.Met);
        })];
        var smallest = sizes.Find(s => s.Fits);
        return new(duct.Zeta, sizes, smallest?.DiameterMm, entry.DiameterMm is { } there ? sizes.Find(s => s.DiameterMm == there) : smallest, duct.EquivalentLengthM, duct.PracticeMm);
    }

    private static ReplacedAir HeatOf(ReplacedAirEntry entry, double roomC, Assumptions assumed)
    {
        if (entry is { OutdoorC: null, WoodKgPerYear: null })
            return new(null, null, null);
        var dryAirPerKg = FireAir.KgH(1, assumed.Or(entry.MoistureWet, "heat.moistureWet", FlueLimits.Moisture), assumed.Or(entry.ExcessAir, "heat.excessAir", FlueLimits.ExcessAir(FiringLevel.Normal)));
        double? now = entry.OutdoorC is { } outdoor
            ? ReplacedAir.HeatJ(dryAirPerKg * assumed.Or(entry.BurnKgH, "heat.burnKgH", FlueLimits.Burn(FiringLevel.Normal)) / 3600, roomC, outdoor) : null;
        if (entry.WoodKgPerYear is not { } wood)
            return new(now, null, null);
        if (entry.MonthlyMeanC is null)
            assumed.Note("heat.monthlyMeanC", WoodYear.OrdinaryC.ToArray(), Mark.Assumption, "an ordinary site");
        var season = new WoodYear(entry.MonthlyMeanC ?? WoodYear.OrdinaryC).OutdoorC;
        return new(now, ReplacedAir.HeatJ(dryAirPerKg * wood, roomC, season) / 3.6e6, season);
    }

    private static WorstHouse? Worst(AirDuctEntry entry, double airM3H, Assumptions assumed)
    {
        double? fans = entry.WorstCasePa;
        if (fans is null && entry.House is { } house)
        {
            var leakage = HouseLeakage.Of(house.VolumeM3!.Value, HouseLeakage.Ach50(house.Ach50, house.BuiltEra, "house.ach50", assumed));
            var own = assumed.Or(house.StoveAirLS, "house.stoveAirLS", Limit.Assumed(airM3H / 3.6, "L/s", "the stove's own air at high fire"));
            fans = leakage.FansPa(((house.FansLS ?? []).Sum() - assumed.Or(house.SupplyLS, "house.supplyLS", _none) + own) / 1000);
        }
        if (fans is not { } room)
            return null;
        var limit = assumed.Or(entry.HouseLimitPa, "houseLimitPa", HouseLeakage.Bearable);
        return new(room, limit, -room <= limit + Limit.Met);
    }

    private static AirSchool? SchoolOf(AirDuctEntry entry, WorstHouse? worst, Assumptions assumed)
    {
        if (worst is null && entry.CodeAsks is null)
            return null;
        var codeAsks = assumed.Or(entry.CodeAsks, "codeAsks", false, "until local code is looked up");
        var airCollar = assumed.Or(entry.AirCollar, "airCollar", true, "most closed stoves have a collar for outside air");
        if (!codeAsks && worst?.Within != false)
            return worst is null ? null : AirSchool.None;
        return airCollar ? AirSchool.Direct : AirSchool.Near;
    }

    private static void Check(AirDuctEntry entry, EntryErrors errors)
    {
        errors.Check("roomC", entry.RoomC, EntryRange.Room);
        errors.Check("humidity", entry.Humidity, _humidity);
        errors.Check("outdoorDesignC", entry.OutdoorDesignC, EntryRange.Outdoors);
        errors.Check("altitudeM", entry.AltitudeM, FlueRanges.Altitude);
        errors.Check("stationPressurePa", entry.StationPressurePa, FlueRanges.StationPressure);
        errors.Check("limitPa", entry.LimitPa, _limit);
        errors.Check("insulationKWMK", entry.InsulationKWMK, _conductivity);
        errors.Check("filmWM2K", entry.FilmWM2K, _filmRange);
        errors.Check("worstCasePa", entry.WorstCasePa, FlueRanges.HousePressure);
        errors.Check("houseLimitPa", entry.HouseLimitPa, _houseLimit);
        FireAir.Check("fire.", entry.Fire?.BurnKgH, entry.Fire?.MoistureWet, entry.Fire?.ExcessAir, errors);
        if (entry.Duct is { } duct)
            Check(duct, errors);
        if (entry.Heat is { } heat)
        {
            errors.Check("heat.outdoorC", heat.OutdoorC, EntryRange.Outdoors);
            FireAir.Check("heat.", heat.BurnKgH, heat.MoistureWet, heat.ExcessAir, errors);
            errors.Check("heat.woodKgPerYear", heat.WoodKgPerYear, WoodYearKg);
            House.CheckMonths("heat.monthlyMeanC", heat.MonthlyMeanC, errors);
        }
        if (entry.House is { } house)
            HousePressureAnswer.CheckAir("house.", house.VolumeM3, house.Ach50, house.BuiltEra, house.FansLS, house.SupplyLS, house.StoveAirLS, errors);
    }

    private static void Check(DuctEntry duct, EntryErrors errors)
    {
        errors.Need("duct.lengthM", duct.LengthM, _length);
        errors.Check("duct.extraZeta", duct.ExtraZeta, _zeta);
        errors.Check("duct.riseM", duct.RiseM, _rise);
        errors.Check("duct.bends90", duct.Bends90, _bends);
        CheckMake("duct.", duct.Kind, duct.Bends45, duct.Screen, duct.CollarMm, duct.DiameterMm, errors);
    }

    /// <summary>Refuses what no duct is made of, whether or not it is laid yet.</summary>
    internal static void CheckMake(string path, string? kind, int? bends45, string? screen, double? collarMm, double? diameterMm, EntryErrors errors)
    {
        errors.Check($"{path}bends45", bends45, _bends);
        errors.Check($"{path}collarMm", collarMm, _collar);
        errors.CheckWord<DuctKind>($"{path}kind", kind, "Duct");
        errors.CheckWord<DuctScreen>($"{path}screen", screen, "Screen");
        if (diameterMm is { } there && !Air.Duct.SizesMm.Contains(there))
            errors.Add($"{path}diameterMm", $"Size of the duct must be one of {string.Join(", ", Air.Duct.SizesMm)} mm; {there:0.#} was entered.");
    }
}
