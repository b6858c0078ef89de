namespace Grate.Core.Flue;

/// <summary>One hot draft reading as typed at the stove; every field may still be missing.</summary>
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
public sealed record HotReading(
    string Level, double? DraftPa = null, double? GasC = null, string? GasBy = null, double? OutdoorC = null, double? RoomC = null,
    double? HousePa = null, bool? HouseMeasured = null, double? BurnKgH = null, double? O2DryPct = null);

/// <summary>What is entered in the hot test.</summary>
/// <param name="Readings">At most one a level.</param>
/// <param name="CoPpm">Carbon monoxide in the room, ppm.</param>
public sealed record HotTest(IReadOnlyList<HotReading> Readings, double? CoPpm = null)
{
    /// <summary>Carbon monoxide in the room.</summary>
    public static readonly EntryRange CoRange = new("CO in the room", Quantity.Concentration, 0, 2000);
}

/// <summary>Where a hot reading is taken: what the records know of the stove.</summary>
/// <param name="Flue">The chain that stands there.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="MonthlyC">The site's monthly means, January first, °C.</param>
/// <param name="LabelMinPa">Label minimum draft, Pa.</param>
/// <param name="LabelMaxPa">Label maximum draft, Pa.</param>
public sealed record HotPlace(FlueEntry Flue, double AltitudeM, IReadOnlyList<double> MonthlyC, double? LabelMinPa, double? LabelMaxPa)
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
        ["surroundings.indoorC"] = "roomC",
        ["surroundings.housePressurePa"] = "housePa",
    };

    /// <summary>Answers for a reading; refusals carry the fields of <see cref="HotReading"/>.</summary>
    /// <param name="reading">As typed.</param>
    /// <param name="month">Month of the visit, 1..12: its mean stands in for a missing outdoor temperature.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="system">Units of the refusals.</param>
    public DraftAnswer? Answer(HotReading reading, int month, EntryErrors errors, UnitSystem system)
    {
        var refused = new EntryErrors(system);
        var answer = DraftAnswer.To(Question(reading, month), refused);
        foreach (var (field, sentences) in refused.ByField)
        {
            foreach (var sentence in sentences)
                errors.Add(_fields.GetValueOrDefault(field, field), sentence);
        }
        if (answer is null || reading.OutdoorC is not null)
            return answer;
        var mean = new Assumed("surroundings.outdoorC", MonthlyC[month - 1], Mark.Assumption, "the month's mean at this place, until it is read outdoors");
        return answer with { Assumed = [.. answer.Assumed, mean] };
    }

    private DraftEntry Question(HotReading reading, int month)
    {
        var surface = reading.GasBy == "surface";
        return new DraftEntry(
            new SurroundingsEntry(reading.OutdoorC ?? MonthlyC[month - 1], reading.RoomC, AltitudeM, null,
                reading.HousePa, reading.HouseMeasured, null),
            Flue,
            new FireEntry(surface ? null : reading.GasC, reading.Level, reading.BurnKgH, null, null, null, reading.O2DryPct, surface ? reading.GasC : null),
            new NeedEntry(LabelMinPa, LabelMaxPa),
            reading.DraftPa is null ? null : new ReadingEntry(reading.DraftPa), null, true);
    }
}
