namespace Grate.Core.Flue;

/// <summary>Defaults, limits and accepted ranges of the draft chapter, each with its source.</summary>
public static class FlueLimits
{
    /// <summary>Gas below this inside the flue is too cool.</summary>
    public static readonly Limit TooCool = Limit.Practice(200, "°C", "below 200 °C (400 °F) inside the flue creosote forms");

    /// <summary>Room temperature where none is given.</summary>
    public static readonly Limit Room = Limit.Assumed(20, "°C", "an ordinary heated room");

    /// <summary>Altitude where neither it nor the station pressure is given.</summary>
    public static readonly Limit Altitude = Limit.Assumed(0, "m", "sea level, until altitude or barometer is entered");

    /// <summary>House pressure where none is given.</summary>
    public static readonly Limit HousePressure = Limit.Assumed(0, "Pa", "neither measured nor estimated: the band carries ±2 Pa for it");

    /// <summary>Wind pressure at the outlet.</summary>
    public static readonly Limit Wind = Limit.Memory(0, "Pa", "EN 13384-1: none unless the outlet stands badly (then −25 Pa inland, −40 Pa by the coast)");

    /// <summary>Moisture of the wood, wet basis.</summary>
    public static readonly Limit Moisture = Fuel.Moisture.Usual;

    /// <summary>Deposit where none is entered.</summary>
    public static readonly Limit Deposit = Limit.Assumed(0, "mm", "taken as clean");

    /// <summary>Least draft of a closed stove without a label.</summary>
    public static readonly Limit LeastDraft = Limit.Memory(12, "Pa", "EN 13240 nominal test draft of a closed stove");

    /// <summary>Greatest draft of a stove without a label.</summary>
    public static readonly Limit GreatestDraft = Limit.Practice(30, "Pa", "above it at high fire overdraft and overfiring are likely");

    /// <summary>Least inner film, W/(m² K).</summary>
    public static readonly Limit LeastInnerFilm = Limit.Assumed(7, "W/(m² K)", "free convection, gas radiation and entry turbulence at low Reynolds numbers; bare pipe's surface rise is 35–50 % of the gas's");

    private static readonly Limit
        _filmOutdoors = Limit.Memory(23, "W/(m² K)", "EN 13384-1: outer film outdoors"),
        _filmBarePipe = Limit.Assumed(12, "W/(m² K)", "single-wall pipe in rooms and attics, with radiation"),
        _filmIndoors = Limit.Memory(8, "W/(m² K)", "EN 13384-1: outer film in rooms and attics");

    /// <summary>Outer film α_o of a segment, W/(m² K).</summary>
    public static Limit OuterFilm(Segment segment) => segment.Place == SegmentPlace.Outdoor ? _filmOutdoors
        : segment.Construction.BareSteel ? _filmBarePipe : _filmIndoors;

    /// <summary>A draft below this at any moment is a stop.</summary>
    public static readonly Limit ReversedDraft = Limit.Practice(0, "Pa", "smoke comes into the room");

    /// <summary>Surface temperature above the room, times this, is the gas's.</summary>
    public static readonly Limit SurfaceToGas = Limit.Practice(2, "", "gas above room is twice the bare pipe's surface above room, within 0.5 m of the collar");

    /// <summary>Burn rate by level, kg/h as fired.</summary>
    public static Limit Burn(FiringLevel level) => Limit.Assumed(level switch
    {
        FiringLevel.Low => 1.0,
        FiringLevel.Normal => 2.0,
        _ => 3.5,
    }, "kg/h", $"{Word.Of(level)} fire, as fired");

    /// <summary>Excess air by level.</summary>
    public static Limit ExcessAir(FiringLevel level) => Limit.Assumed(level switch
    {
        FiringLevel.Low => 2.5,
        FiringLevel.Normal => 2.0,
        _ => 1.8,
    }, "", $"λ at {Word.Of(level)} fire");

    /// <summary>Gas at the collar by level, °C.</summary>
    public static Limit CollarGas(FiringLevel level) => Limit.Assumed(level switch
    {
        FiringLevel.Low => 150,
        FiringLevel.Normal => 240,
        _ => 330,
    }, "°C", $"gas at the collar at {Word.Of(level)} fire");

    /// <summary>Station pressure by the barometer, else by the altitude, whose default is then listed, Pa.</summary>
    internal static double PressurePa(double? stationPa, double? altitudeM, string field, Assumptions assumed) =>
        stationPa ?? Physics.DryAir.StationPressurePa(assumed.Or(altitudeM, field, Altitude));

    /// <summary>What a reading cannot show below, by level: share of the section blocked.</summary>
    public static Limit BlindBelow(FiringLevel level) => Limit.Assumed(level switch
    {
        FiringLevel.Low => 0.90,
        FiringLevel.Normal => 0.85,
        _ => 0.75,
    }, "", "velocity heads are small: less than this share blocked does not show in a reading");

    /// <summary>The gauge's own one-sigma uncertainty, Pa: 0.5 Pa + 1 % of the reading [A].</summary>
    public static double GaugeSigmaPa(double readingPa) => 0.5 + 0.01 * Math.Abs(readingPa);
}

/// <summary>Accepted ranges of the draft entries.</summary>
public static class FlueRanges
{
    /// <summary>Most segments in a chain.</summary>
    public const int MostSegments = 60;

    /// <summary>Most fittings in a segment.</summary>
    public const int MostFittings = 12;

    /// <summary>Most earlier readings.</summary>
    public const int MostHistory = 200;

    /// <summary>s_visit of an earlier reading.</summary>
    public static readonly EntryRange VisitSigma = new("Visit sigma", Quantity.Draft, 0, 50);

    /// <summary>Altitude.</summary>
    public static readonly EntryRange Altitude = new("Altitude", Quantity.Altitude, -430, 5000);

    /// <summary>Station pressure.</summary>
    public static readonly EntryRange StationPressure = new("Station pressure", Quantity.StationPressure, 50_000, 110_000);

    /// <summary>House pressure.</summary>
    public static readonly EntryRange HousePressure = new("Room against outdoors", Quantity.Draft, -60, 60);

    /// <summary>Wind pressure.</summary>
    public static readonly EntryRange Wind = new("Wind pressure", Quantity.Draft, -100, 100);

    /// <summary>Gas at the collar.</summary>
    public static readonly EntryRange CollarGas = new("Flue gas temperature", Quantity.Temperature, 0, 1000);

    /// <summary>Surface of a bare pipe.</summary>
    public static readonly EntryRange PipeSurface = new("Pipe surface temperature", Quantity.Temperature, 0, 500);

    /// <summary>Burn rate.</summary>
    public static readonly EntryRange Burn = new("Burn rate", Quantity.BurnRate, 0.05, 60);

    /// <summary>Moisture.</summary>
    public static readonly EntryRange Moisture = Fuel.Moisture.Range;

    /// <summary>λ.</summary>
    public static readonly EntryRange ExcessAir = new("Excess air λ", Quantity.Ratio, 1, 40);

    /// <summary>Dry CO2 as a share.</summary>
    public static readonly EntryRange Co2 = new("CO2, dry", Quantity.Share, 0.005, 0.2051);

    /// <summary>Dry O2 as a share.</summary>
    public static readonly EntryRange O2 = new("O2, dry", Quantity.Share, 0, 0.204);

    /// <summary>Diameter or side.</summary>
    public static readonly EntryRange Bore = new("Inside size", Quantity.Bore, 0.05, 1.5);

    /// <summary>Length of a segment.</summary>
    public static readonly EntryRange Length = new("Length", Quantity.Length, 0.02, 40);

    /// <summary>Rise of a segment.</summary>
    public static readonly EntryRange Rise = new("Rise", Quantity.Length, -5, 40);

    /// <summary>Wall resistance.</summary>
    public static readonly EntryRange Resistance = new("Wall resistance", Quantity.Resistance, 0, 5);

    /// <summary>Roughness.</summary>
    public static readonly EntryRange Roughness = new("Roughness", Quantity.Bore, 0, 0.02);

    /// <summary>Deposit.</summary>
    public static readonly EntryRange Deposit = new("Deposit", Quantity.Bore, 0, 0.5);

    /// <summary>ζ.</summary>
    public static readonly EntryRange Zeta = new("Loss coefficient ζ", Quantity.Ratio, 0, 10_000);

    /// <summary>A draft reading.</summary>
    public static readonly EntryRange Reading = new("Draft at the collar", Quantity.Draft, -60, 150);

    /// <summary>Least draft of a label.</summary>
    public static readonly EntryRange NeedMin = new("Least draft needed", Quantity.Draft, 0, 100);

    /// <summary>Greatest draft of a label.</summary>
    public static readonly EntryRange NeedMax = new("Greatest draft allowed", Quantity.Draft, 0, 150);
}
