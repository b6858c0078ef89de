using Grate.Core.Fuel;

namespace Grate.Core.Flue;

/// <summary>What was typed elsewhere in the visit, or is forecast, and stands in for what a reading leaves open.</summary>
/// <param name="OutdoorC">Outdoors, °C.</param>
/// <param name="RoomC">Room, °C.</param>
/// <param name="MoistureWet">Moisture of the wood, wet basis.</param>
public sealed record HotKnown(Known? OutdoorC = null, Known? RoomC = null, Known? MoistureWet = null);

/// <summary>Where a hot reading is taken: what the records know of the stove.</summary>
/// <param name="Flue">The chain that stands there.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="MonthlyC">The site's monthly means, January first, °C.</param>
/// <param name="LabelMinPa">Label minimum draft, Pa.</param>
/// <param name="LabelMaxPa">Label maximum draft, Pa.</param>
/// <param name="House">The house's air; null if nothing is known of it.</param>
/// <param name="Past">Readings of earlier sound visits at the same flue.</param>
/// <param name="Fires">Burn rates of the stove; null where it is not known.</param>
/// <param name="Known">What else of the visit stands in for missing entries.</param>
/// <param name="ExtraNeedPa">What a combustor costs more at high fire than a clean one, Pa: the draft needed rises with it.</param>
public sealed record HotPlace(
    FlueEntry Flue, double AltitudeM, IReadOnlyList<double> MonthlyC, double? LabelMinPa, double? LabelMaxPa, HouseAir? House = null,
    IReadOnlyList<HistoryEntry>? Past = null, StoveFires? Fires = null, HotKnown? Known = null, double ExtraNeedPa = 0)
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

    /// <summary>The place by the records alone.</summary>
    public static HotPlace Of(StoveHistory history) => new(history.Flue.Flue, history.House.AltitudeM, history.House.MonthlyC,
        history.Stove.LabelMinPa, history.Stove.LabelMaxPa, HouseAir.Of(history.House, history.Stove),
        Fires: StoveFires.Of(history.Stove, FuelFacts.Newest(history)));

    /// <summary>The place in a visit: what was typed at its other stations, and the weather, stand in for missing entries.</summary>
    public static HotPlace Of(VisitContext at) => Of(at.History) with
    {
        Fires = StoveFires.Of(at.Stove, FuelFacts.Newest(at)),
        Known = new HotKnown(at.Known(FlueFacts.OutdoorC, "from your cold checks") ?? at.Forecast(), at.Known(FlueFacts.RoomC, "from your cold checks"),
            at.Known(FuelFacts.MoistureWet, "from the wood you found")),
        ExtraNeedPa = at.NewestNumber(FlueFacts.ExtraNeedPa) ?? 0,
    };

    /// <summary>Answers for a reading; refusals carry the fields of <see cref="HotReading"/>.</summary>
    /// <param name="reading">As typed.</param>
    /// <param name="month">Month of the visit, 1..12: its mean stands in for an outdoor temperature that nobody knows.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="system">Units of the refusals.</param>
    public DraftAnswer? Answer(HotReading reading, int month, EntryErrors errors, UnitSystem system)
    {
        var answer = Refusing(errors, system, refused => DraftAnswer.To(Question(reading, month), refused));
        return answer is null ? null : answer with { Assumed = [.. answer.Assumed, .. StoodIn(reading, month)] };
    }

    /// <summary>The question behind a reading, as the calculation endpoint takes it.</summary>
    public DraftEntry Question(HotReading reading, int month)
    {
        var surface = reading.GasBy == Word.Of(GasBy.Surface);
        return new DraftEntry(
            new SurroundingsEntry(reading.OutdoorC ?? Known?.OutdoorC?.Value ?? MonthlyC[month - 1], reading.RoomC ?? Known?.RoomC?.Value, AltitudeM, null,
                reading.HousePa, reading.HouseMeasured, null),
            Flue,
            new FireEntry(surface ? null : reading.GasC, reading.Level, reading.BurnKgH, Known?.MoistureWet?.Value, null, null, reading.O2DryPct, surface ? reading.GasC : null) { Fires = Fires },
            new NeedEntry(ExtraNeedPa > 0 ? NeedPa(reading) : LabelMinPa, LabelMaxPa),
            reading.DraftPa is null ? null : new ReadingEntry(reading.DraftPa), Past, true);
    }

    // Laminar: what the combustor costs goes with the fire, by this stove's own fires. What no flue of the label's may give is asked of none:
    // a combustor that wants more is renewed, and the reading is judged by the most that may be.
    private double NeedPa(HotReading reading)
    {
        Limit Burn(FiringLevel level) => Fires?.Burn(level) ?? FlueLimits.Burn(level);
        var need = (LabelMinPa ?? FlueLimits.LeastDraft.Value)
            + ExtraNeedPa * (reading.BurnKgH ?? Burn(Word.Find<FiringLevel>(reading.Level) ?? FiringLevel.Normal).Value) / Burn(FiringLevel.High).Value;
        return Math.Min(need, (LabelMaxPa ?? FlueLimits.GreatestDraft.Value) - LeastSpanPa);
    }

    // What is needed lies below what may be, if by a tenth of a pascal.
    private const double LeastSpanPa = 0.1;

    private IEnumerable<Assumed> StoodIn(HotReading reading, int month)
    {
        if (ExtraNeedPa > 0)
            yield return new Assumed("need.minPa", NeedPa(reading), Mark.Assumption, "with what its combustor costs more than a clean one");
        if (reading.OutdoorC is null)
        {
            yield return Known?.OutdoorC is { } outdoor
                ? new Assumed("surroundings.outdoorC", outdoor.Value, Mark.Assumption, outdoor.Source)
                : new Assumed("surroundings.outdoorC", MonthlyC[month - 1], Mark.Assumption, "the month's mean at this place, until it is read outdoors");
        }
        if (reading.RoomC is null && Known?.RoomC is { } room)
            yield return new Assumed("surroundings.indoorC", room.Value, Mark.Assumption, room.Source);
        if (Known?.MoistureWet is { } moisture)
            yield return new Assumed("fire.moistureWet", moisture.Value, Mark.Assumption, moisture.Source);
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
