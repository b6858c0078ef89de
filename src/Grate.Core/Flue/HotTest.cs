using System.Text.Json.Serialization;

namespace Grate.Core.Flue;

/// <summary>How the flue gas was read.</summary>
[JsonConverter(typeof(WordConverter<GasBy>))]
public enum GasBy
{
    /// <summary>A probe in the gas.</summary>
    [Said("probe")]
    Probe,

    /// <summary>The surface of bare pipe.</summary>
    [Said("pipe surface")]
    Surface,
}

/// <summary>Positions of an air control.</summary>
[JsonConverter(typeof(WordConverter<ControlPosition>))]
public enum ControlPosition
{
    /// <summary>Open.</summary>
    Open,

    /// <summary>Half closed.</summary>
    Half,

    /// <summary>Closed.</summary>
    Closed,
}

/// <summary>One hot draft reading as typed at the stove or held from the gauge; every field may still be missing.</summary>
/// <param name="Level">low, normal or high fire.</param>
/// <param name="DraftPa">Draft at the collar, Pa.</param>
/// <param name="GasC">Temperature as read, °C.</param>
/// <param name="GasBy">probe in the gas, or surface of bare pipe; default probe.</param>
/// <param name="OutdoorC">Outdoor temperature, °C.</param>
/// <param name="RoomC">Room temperature, °C.</param>
/// <param name="HousePa">Room against outdoors, Pa.</param>
/// <param name="HouseMeasured">Whether that was measured rather than estimated.</param>
/// <param name="BurnKgH">Wood weighed, kg/h as fired.</param>
/// <param name="O2DryPct">Dry O2, %.</param>
/// <param name="Run">The run of readings whose mean the draft is; null for a single one.</param>
public sealed record HotReading(
    [property: Words(typeof(FiringLevel))] string Level, double? DraftPa = null, double? GasC = null, [property: Words(typeof(GasBy))] string? GasBy = null, double? OutdoorC = null, double? RoomC = null,
    double? HousePa = null, bool? HouseMeasured = null, double? BurnKgH = null, double? O2DryPct = null, Steadiness? Run = null);

/// <summary>The window test: the draft with a window open, the fire as it was.</summary>
/// <param name="Level">The fire it was made at.</param>
/// <param name="DraftPa">Draft with the window open, Pa.</param>
public sealed record WindowTest([property: Words(typeof(FiringLevel))] string Level, double? DraftPa = null);

/// <summary>Draft and flames at a position of the air control.</summary>
/// <param name="Position">open, half or closed.</param>
/// <param name="DraftPa">Draft, Pa.</param>
/// <param name="Flames">What the flames did.</param>
public sealed record ControlReading([property: Words(typeof(ControlPosition))] string Position, double? DraftPa = null, string? Flames = null);

/// <summary>What is entered in the hot test.</summary>
/// <param name="Readings">At most one a level.</param>
/// <param name="CoPpm">Carbon monoxide in the room, ppm.</param>
/// <param name="Window">The window test.</param>
/// <param name="Fans">The worst-case test.</param>
/// <param name="Controls">At most one a position.</param>
public sealed record HotTest(
    IReadOnlyList<HotReading> Readings, double? CoPpm = null, WindowTest? Window = null, WorstCase? Fans = null, IReadOnlyList<ControlReading>? Controls = null)
{
    /// <summary>Carbon monoxide in the room.</summary>
    public static readonly EntryRange CoRange = new("CO in the room", Quantity.Concentration, 0, 2000);

    private const int LongestFlames = 200;

    /// <summary>What the window gave, at the same fire; null where one of the two was not read. 8 Pa shut, 11.5 Pa open: 3.5 Pa.</summary>
    [JsonIgnore]
    public double? WindowGainPa => Window?.DraftPa - Readings.FirstOrDefault(r => r.Level == Window?.Level)?.DraftPa;

    /// <summary>Every draft that was read, with where; one below 0 is a stop.</summary>
    internal IEnumerable<(string Where, double Pa)> Drafts() =>
        Readings.Select(r => ($"at {r.Level} fire", r.DraftPa))
            .Concat((Controls ?? []).Select(c => ($"with the air {c.Position}", c.DraftPa)))
            .Append(("with the window open", Window?.DraftPa)).Append(("before the fans", Fans?.DraftOffPa)).Append(("with the fans on", Fans?.DraftOnPa))
            .Where(d => d.Item2 is not null).Select(d => (d.Item1, d.Item2!.Value));

    /// <summary>Refuses what cannot be, beyond the single readings.</summary>
    public void Check(EntryErrors errors)
    {
        if (Readings.Any(r => r is null) || Controls?.Any(c => c is null) == true)
        {
            errors.Add("readings", "A reading is missing where the list has a place for it.");
            return;
        }
        if (Readings.Count > Word.All<FiringLevel>().Count() || Readings.DistinctBy(r => r.Level).Count() != Readings.Count)
            errors.Add("readings", "One reading at each fire: low, normal, high.");
        errors.Check("coPpm", CoPpm, CoRange);
        errors.Check("window.draftPa", Window?.DraftPa, FlueRanges.Reading);
        if (Window is not null && Word.Find<FiringLevel>(Window.Level) is null)
            errors.Need<FiringLevel>("window.level", Window.Level, "Level");
        Fans?.Check("fans.", errors);
        if (Controls?.DistinctBy(c => c.Position).Count() != Controls?.Count)
            errors.Add("controls", "One reading at each position: open, half, closed.");
        foreach (var control in Controls ?? [])
        {
            errors.Need<ControlPosition>("controls", control.Position, "Position");
            errors.Check($"controls.{control.Position}", control.DraftPa, FlueRanges.Reading);
            errors.CheckText($"controls.{control.Position}.flames", control.Flames, "What the flames did", LongestFlames);
        }
    }
}
