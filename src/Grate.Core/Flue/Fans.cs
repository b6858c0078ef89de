using System.Text.Json.Serialization;
using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>Something that takes air out of a house (handbook 01 section 8; flows [A]).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="FlowM3S">Typical flow, m³/s.</param>
public sealed record Fan(string Code, string Name, Limit FlowM3S)
{
    /// <summary>The usual ones.</summary>
    public static IReadOnlyList<Fan> All { get; } =
    [
        new("hood", "range hood", Limit.Assumed(0.135, "m³/s", "range hoods take 100 to 170 L/s")),
        new("bath", "bath fan", Limit.Assumed(0.025, "m³/s", "a usual bath fan")),
        new("dryer", "dryer", Limit.Assumed(0.050, "m³/s", "a vented clothes dryer")),
        new("vacuum", "central vacuum", Limit.Assumed(0.060, "m³/s", "a central vacuum blowing outdoors")),
        new("fireplace", "second open fireplace", Limit.Assumed(0.100, "m³/s", "an open fire draws this much")),
    ];

    /// <summary>The fan of a code, or null.</summary>
    public static Fan? Find(string? code) => All.FirstOrDefault(f => f.Code == code);
}

/// <summary>A fan by its word.</summary>
[JsonConverter(typeof(WordConverter<FanKind>))]
public enum FanKind
{
    /// <summary>Range hood.</summary>
    Hood,

    /// <summary>Bath fan.</summary>
    Bath,

    /// <summary>Dryer.</summary>
    Dryer,

    /// <summary>Central vacuum.</summary>
    Vacuum,

    /// <summary>A second open fireplace.</summary>
    Fireplace,
}

/// <summary>A fan of a house, as entered.</summary>
/// <param name="Kind">Word of the fan table.</param>
/// <param name="FlowM3S">Its flow, m³/s, 0..2; default by kind.</param>
public sealed record FanEntry([property: Words(typeof(FanKind))] string? Kind = null, double? FlowM3S = null);

/// <summary>What the room comes to as the fans go on one by one.</summary>
/// <param name="Name">The fan that goes on.</param>
/// <param name="FlowM3S">Its flow, m³/s.</param>
/// <param name="RoomPa">Room against outdoors with it and those before it, stack included, Pa.</param>
public sealed record FanStep(string Name, double FlowM3S, double RoomPa);

/// <summary>
/// Worst-case test: room against outdoors and draft, everything off and everything on with the doors set worst
/// (handbook 01 section 8). What was not measured is null.
/// </summary>
/// <param name="RoomOffPa">Room, all off, Pa.</param>
/// <param name="RoomOnPa">Room, all on, Pa.</param>
/// <param name="DraftOffPa">Draft, all off, Pa.</param>
/// <param name="DraftOnPa">Draft, all on, Pa.</param>
public sealed record WorstCase(double? RoomOffPa = null, double? RoomOnPa = null, double? DraftOffPa = null, double? DraftOnPa = null)
{
    /// <summary>By how much the room falls, Pa.</summary>
    [JsonIgnore]
    public double? RoomDropPa => RoomOffPa - RoomOnPa;

    /// <summary>By how much the draft falls, Pa.</summary>
    [JsonIgnore]
    public double? DraftDropPa => DraftOffPa - DraftOnPa;

    /// <summary>The greater of both drops, Pa.</summary>
    [JsonIgnore]
    public double? DropPa => (RoomDropPa, DraftDropPa) switch
    {
        ({ } room, { } draft) => Math.Max(room, draft),
        var (room, draft) => room ?? draft,
    };

    /// <summary>Whether the house is too much for an ordinary stove.</summary>
    [JsonIgnore]
    public bool Trouble => DropPa >= HouseLeakage.Bearable.Value;

    /// <summary>Whether the draft turned: a stop.</summary>
    [JsonIgnore]
    public bool Reversed => DraftOffPa < FlueLimits.ReversedDraft.Value || DraftOnPa < FlueLimits.ReversedDraft.Value;

    /// <summary>Refuses what cannot be.</summary>
    /// <param name="path">Stands before the fields of the refusals.</param>
    /// <param name="errors">Takes them.</param>
    public void Check(string path, EntryErrors errors)
    {
        errors.Check($"{path}roomOffPa", RoomOffPa, FlueRanges.HousePressure);
        errors.Check($"{path}roomOnPa", RoomOnPa, FlueRanges.HousePressure);
        errors.Check($"{path}draftOffPa", DraftOffPa, FlueRanges.Reading);
        errors.Check($"{path}draftOnPa", DraftOnPa, FlueRanges.Reading);
    }

    /// <summary>What it means, in sentences.</summary>
    /// <param name="system">Units.</param>
    /// <param name="houseCleared">Whether a window just showed that the house is not the trouble with the fans as they run now.</param>
    public IEnumerable<Sentence> Words(UnitSystem system, bool houseCleared = false)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var limit = draft.Format(HouseLeakage.Bearable.Value);
        if (Reversed)
        {
            yield return Say("With the fans on the draft turned: smoke and carbon monoxide come into the room. No fire until this is cured.") with { Weight = Weight.Stop };
        }
        if (RoomDropPa is { } room)
        {
            yield return Say("With everything on the room falls by ", Measured(draft.Format(room)), room < HouseLeakage.Bearable.Value
                ? $": an ordinary stove bears {limit}."
                : houseCleared && !Reversed ? $": more than the {limit} an ordinary stove bears. That is not today's trouble, but it can be any evening: makeup air, or the fan off."
                : $": more than the {limit} an ordinary stove bears. Makeup air, or the fan off.") with
            { Weight = room < HouseLeakage.Bearable.Value || houseCleared ? Weight.Hint : Weight.Verdict };
        }
        if (DraftDropPa is { } drop && !Reversed)
        {
            yield return Say("The draft goes with it, from ", Measured(draft.Format(DraftOffPa!.Value)), " to ", Measured(draft.Format(DraftOnPa!.Value)),
                drop >= HouseLeakage.Bearable.Value ? ": the fans take it." : ".") with
            { Weight = Weight.Hint };
        }
    }
}

/// <summary>What the records know of a house's air.</summary>
/// <param name="VolumeM3">House volume, m³; null if not known.</param>
/// <param name="Ach50">Blower-door result, 1/h.</param>
/// <param name="BuiltEra">Era where there is none.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="HeatedHeightM">Heated height, m.</param>
/// <param name="CollarM">The stove's collar above the lowest heated floor, m.</param>
public sealed record HouseAir(double? VolumeM3, double? Ach50, string? BuiltEra, double AltitudeM, double HeatedHeightM, double CollarM)
{
    /// <summary>The air of a house at a stove's collar.</summary>
    public static HouseAir Of(House house, Stove stove) =>
        new(house.VolumeM3, house.Ach50, house.BuiltEra, house.AltitudeM, house.EavesM, stove.StandsAt(house, 0).CollarM);

    /// <summary>The question of the house-pressure calculation.</summary>
    /// <param name="fansM3S">Flows of the fans that run, m³/s.</param>
    /// <param name="outdoorC">Outdoors, °C.</param>
    /// <param name="roomC">Room, °C.</param>
    /// <param name="supplyM3S">Supply, m³/s.</param>
    /// <param name="limitPa">Depressurisation borne, Pa.</param>
    public HousePressureEntry Question(IReadOnlyList<double> fansM3S, double? outdoorC, double? roomC, double? supplyM3S, double? limitPa) => new(
        VolumeM3, Ach50, BuiltEra, [.. fansM3S.Select(f => 1000 * f)], roomC, outdoorC, AltitudeM, CollarM, null, HeatedHeightM, 1000 * supplyM3S, null, limitPa);

    /// <summary>Depressurisation borne: 4 Pa, or the expected draft at low fire minus 4 Pa if that is less, not below 0 [A].</summary>
    /// <param name="lowFirePa">Expected draft at low fire, Pa.</param>
    public static double LimitPa(double lowFirePa) => Math.Max(0, Math.Min(HouseLeakage.Bearable.Value, lowFirePa - HouseLeakage.Bearable.Value));
}
