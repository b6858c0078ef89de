using System.Text.Json.Serialization;

namespace Grate.Core.Flue;

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
    string Level, double? DraftPa = null, double? GasC = null, string? GasBy = null, double? OutdoorC = null, double? RoomC = null,
    double? HousePa = null, bool? HouseMeasured = null, double? BurnKgH = null, double? O2DryPct = null, Steadiness? Run = null);

/// <summary>The window test: the draft with a window open, the fire as it was.</summary>
/// <param name="Level">The fire it was made at.</param>
/// <param name="DraftPa">Draft with the window open, Pa.</param>
public sealed record WindowTest(string Level, double? DraftPa = null);

/// <summary>Draft and flames at a position of the air control.</summary>
/// <param name="Position">open, half or closed.</param>
/// <param name="DraftPa">Draft, Pa.</param>
/// <param name="Flames">What the flames did.</param>
public sealed record ControlReading(string Position, double? DraftPa = null, string? Flames = null);

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

    /// <summary>Positions of an air control.</summary>
    public static readonly IReadOnlyList<string> Positions = ["open", "half", "closed"];

    private const int LongestFlames = 200;

    /// <summary>Whether any draft of the test was below 0: a stop.</summary>
    [JsonIgnore]
    public bool Reversed =>
        Readings.Select(r => r.DraftPa).Concat((Controls ?? []).Select(c => c.DraftPa)).Append(Window?.DraftPa)
            .Any(pa => pa < Service.SafetyStops.ReversedDraft.Value) || Fans?.Reversed == true;

    /// <summary>Refuses what cannot be, beyond the single readings.</summary>
    public void Check(EntryErrors errors)
    {
        if (Readings.Count > Word.All<FiringLevel>().Count() || Readings.DistinctBy(r => r.Level).Count() != Readings.Count)
            errors.Add("hotTest.readings", "One reading at each fire: low, normal, high.");
        errors.Check("coPpm", CoPpm, CoRange);
        errors.Check("window.draftPa", Window?.DraftPa, FlueRanges.Reading);
        if (Window is not null && Word.Find<FiringLevel>(Window.Level) is null)
            errors.Add("window.level", Word.OneOf("Level", Window.Level, Word.All<FiringLevel>()));
        Fans?.Check("fans.", errors);
        if (Controls?.DistinctBy(c => c.Position).Count() != Controls?.Count)
            errors.Add("controls", "One reading at each position: open, half, closed.");
        foreach (var control in Controls ?? [])
        {
            if (!Positions.Contains(control.Position))
                errors.Add("controls", Word.OneOf("Position", control.Position, Positions));
            errors.Check($"controls.{control.Position}", control.DraftPa, FlueRanges.Reading);
            if (control.Flames?.Length > LongestFlames)
                errors.Add($"controls.{control.Position}.flames", $"What the flames did: at most {LongestFlames} characters.");
        }
    }
}

/// <summary>Where a hot reading is taken: what the records know of the stove.</summary>
/// <param name="Flue">The chain that stands there.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="MonthlyC">The site's monthly means, January first, °C.</param>
/// <param name="LabelMinPa">Label minimum draft, Pa.</param>
/// <param name="LabelMaxPa">Label maximum draft, Pa.</param>
/// <param name="House">The house's air; null if nothing is known of it.</param>
/// <param name="Past">Readings of earlier sound visits at the same flue.</param>
public sealed record HotPlace(
    FlueEntry Flue, double AltitudeM, IReadOnlyList<double> MonthlyC, double? LabelMinPa, double? LabelMaxPa, HouseAir? House = null,
    IReadOnlyList<HistoryEntry>? Past = null)
{
    private static readonly Dictionary<string, string> _fields = new()
    {
        ["reading.draftPa"] = "draftPa",
        ["fire.collarGasC"] = "gasC",
        ["fire.pipeSurfaceC"] = "gasC",
        ["fire.burnKgH"] = "burnKgH",
        ["fire.o2DryPct"] = "o2DryPct",
        ["fire.level"] = "level",
        ["surroundings.outdoorC"] = "outdoorC",
        ["surroundings.outdoorColdC"] = "overnightLowC",
        ["surroundings.indoorC"] = "roomC",
        ["surroundings.housePressurePa"] = "housePa",
        ["outdoorC"] = "outdoorC",
        ["indoorC"] = "roomC",
        ["supplyLS"] = "supplyM3S",
    };

    /// <summary>Answers for a reading; refusals carry the fields of <see cref="HotReading"/>.</summary>
    /// <param name="reading">As typed.</param>
    /// <param name="month">Month of the visit, 1..12: its mean stands in for a missing outdoor temperature.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="system">Units of the refusals.</param>
    public DraftAnswer? Answer(HotReading reading, int month, EntryErrors errors, UnitSystem system)
    {
        var answer = Refusing(errors, system, refused => DraftAnswer.To(Question(reading, month), refused));
        if (answer is null || reading.OutdoorC is not null)
            return answer;
        var mean = new Assumed("surroundings.outdoorC", MonthlyC[month - 1], Mark.Assumption, "the month's mean at this place, until it is read outdoors");
        return answer with { Assumed = [.. answer.Assumed, mean] };
    }

    /// <summary>The question behind a reading, as the calculation endpoint takes it.</summary>
    public DraftEntry Question(HotReading reading, int month)
    {
        var surface = reading.GasBy == "surface";
        return new DraftEntry(
            new SurroundingsEntry(reading.OutdoorC ?? MonthlyC[month - 1], reading.RoomC, AltitudeM, null,
                reading.HousePa, reading.HouseMeasured, null),
            Flue,
            new FireEntry(surface ? null : reading.GasC, reading.Level, reading.BurnKgH, null, null, null, reading.O2DryPct, surface ? reading.GasC : null),
            new NeedEntry(LabelMinPa, LabelMaxPa),
            reading.DraftPa is null ? null : new ReadingEntry(reading.DraftPa), Past, true);
    }

    // Refusals of a calculation, told by the fields of the screen.
    internal static TAnswer? Refusing<TAnswer>(EntryErrors errors, UnitSystem system, Func<EntryErrors, TAnswer?> compute)
        where TAnswer : class
    {
        var refused = new EntryErrors(system);
        var answer = compute(refused);
        errors.TakeOver(refused, field => _fields.GetValueOrDefault(field, field));
        return answer;
    }
}
