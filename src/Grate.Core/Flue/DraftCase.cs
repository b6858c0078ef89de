using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>A draft question, read and completed.</summary>
/// <param name="Flue">The chain.</param>
/// <param name="Fire">The fire.</param>
/// <param name="Air">Surroundings.</param>
/// <param name="Need">What the stove needs.</param>
/// <param name="History">Earlier sound readings.</param>
public sealed record DraftCase(FlueSystem Flue, Fire Fire, Surroundings Air, DraftNeed Need, IReadOnlyList<SoundReading> History)
{
    /// <summary>Reads an entry, completing it with the handbook's defaults.</summary>
    /// <returns>The case, or null with sentences in <paramref name="errors"/>.</returns>
    public static DraftCase? Read(DraftEntry entry, EntryErrors errors, Assumptions assumed)
    {
        var air = ReadAir(entry.Surroundings, errors, assumed);
        var flue = FlueReading.Read(entry.Flue, errors, assumed);
        var fire = ReadFire(entry.Fire ?? new FireEntry(), air, flue, errors, assumed);
        var need = ReadNeed(entry.Need, errors, assumed);
        if (entry.Reading is not null)
            errors.Need("reading.draftPa", entry.Reading.DraftPa, FlueRanges.Reading);
        var history = ReadHistory(entry.History ?? [], errors);
        return errors.Any ? null : new DraftCase(flue!, fire!, air!, need, history);
    }

    private static List<SoundReading> ReadHistory(IReadOnlyList<HistoryEntry> entries, EntryErrors errors)
    {
        var history = new List<SoundReading>();
        foreach (var (entry, i) in errors.Each("history", entries, FlueRanges.MostHistory, "earlier readings"))
        {
            if (errors.Need($"history[{i}].measuredPa", entry.MeasuredPa, FlueRanges.Reading)
                & errors.Need($"history[{i}].expectedPa", entry.ExpectedPa, FlueRanges.Reading)
                & errors.Need($"history[{i}].visitSigmaPa", entry.VisitSigmaPa, FlueRanges.VisitSigma))
            {
                history.Add(new SoundReading(entry.MeasuredPa!.Value, entry.ExpectedPa!.Value, entry.VisitSigmaPa!.Value));
            }
        }
        return history;
    }

    internal static Surroundings? ReadAir(SurroundingsEntry? entry, EntryErrors errors, Assumptions assumed)
    {
        if (!errors.Need("surroundings.outdoorC", entry?.OutdoorC, EntryRange.Outdoors))
            return null;
        errors.Check("surroundings.indoorC", entry!.IndoorC, EntryRange.Room);
        errors.Check("surroundings.altitudeM", entry.AltitudeM, FlueRanges.Altitude);
        errors.Check("surroundings.stationPressurePa", entry.StationPressurePa, FlueRanges.StationPressure);
        errors.Check("surroundings.housePressurePa", entry.HousePressurePa, FlueRanges.HousePressure);
        errors.Check("surroundings.windPa", entry.WindPa, FlueRanges.Wind);
        if (errors.Any)
            return null;
        var pressure = FlueLimits.PressurePa(entry.StationPressurePa, entry.AltitudeM, "surroundings.altitudeM", assumed);
        var houseOrigin = entry.HousePressurePa is null ? Origin.Default
            : entry.HousePressureMeasured == true ? Origin.Measured : Origin.Entered;
        return new Surroundings(entry.OutdoorC!.Value,
            assumed.Or(entry.IndoorC, "surroundings.indoorC", FlueLimits.Room), pressure,
            new Given(assumed.Or(entry.HousePressurePa, "surroundings.housePressurePa", FlueLimits.HousePressure), houseOrigin),
            assumed.Or(entry.WindPa, "surroundings.windPa", FlueLimits.Wind));
    }

    internal static Fire? ReadFire(FireEntry entry, Surroundings? air, FlueSystem? flue, EntryErrors errors, Assumptions assumed)
    {
        errors.Check("fire.collarGasC", entry.CollarGasC, FlueRanges.CollarGas);
        errors.Check("fire.burnKgH", entry.BurnKgH, FlueRanges.Burn);
        errors.Check("fire.moistureWet", entry.MoistureWet, FlueRanges.Moisture);
        errors.Check("fire.excessAir", entry.ExcessAir, FlueRanges.ExcessAir);
        errors.Check("fire.co2DryPct", entry.Co2DryPct / 100, FlueRanges.Co2);
        errors.Check("fire.o2DryPct", entry.O2DryPct / 100, FlueRanges.O2);
        errors.Check("fire.pipeSurfaceC", entry.PipeSurfaceC, FlueRanges.PipeSurface);
        if (ReadLevel(entry.Level, errors) is not { } level || air is null || errors.Any)
            return null;
        if (entry.Level is null && (entry.BurnKgH is null || (entry.CollarGasC ?? entry.PipeSurfaceC) is null || !ExcessAirGiven(entry)))
            assumed.Note("fire.level", Word.Of(level), Mark.Assumption, "a normal fire until a level is entered");

        if (entry.CollarGasC is null && entry.PipeSurfaceC is not null && flue is not null && !flue.Segments[0].Construction.BareSteel)
            errors.Add("fire.pipeSurfaceC", "A surface temperature tells the gas's only on bare single-wall pipe; the first segment is not. Use a probe.");
        var gas = CollarGas(entry, level, air, assumed);
        if (gas.Value <= air.IndoorC)
        {
            var field = gas.Origin == Origin.Converted ? "fire.pipeSurfaceC" : "fire.collarGasC";
            errors.Add(field, $"The flue gas ({gas.Value:0.#} °C) must be warmer than the room ({air.IndoorC:0.#} °C); without a fire use the cold start.");
        }
        return errors.Any ? null : new Fire(gas,
            new Given(assumed.Or(entry.BurnKgH, "fire.burnKgH", entry.Fires?.Burn(level) ?? FlueLimits.Burn(level)), entry.BurnKgH is null ? Origin.Default : Origin.Entered),
            assumed.Or(entry.MoistureWet, "fire.moistureWet", FlueLimits.Moisture),
            Excess(entry, level, assumed));
    }

    // None given means normal.
    private static FiringLevel? ReadLevel(string? word, EntryErrors errors)
    {
        if (word is null)
            return FiringLevel.Normal;
        if (Word.Find<FiringLevel>(word) is { } level)
            return level;
        errors.Add("fire.level", Word.OneOf("Level", word, Word.All<FiringLevel>()));
        return null;
    }

    private static bool ExcessAirGiven(FireEntry entry) => (entry.O2DryPct ?? entry.Co2DryPct ?? entry.ExcessAir) is not null;

    private static Given CollarGas(FireEntry entry, FiringLevel level, Surroundings air, Assumptions assumed)
    {
        if (entry.CollarGasC is { } probe)
            return new Given(probe, Origin.Measured);
        if (entry.PipeSurfaceC is { } surface)
            return new Given(air.IndoorC + FlueLimits.SurfaceToGas.Value * (surface - air.IndoorC), Origin.Converted);
        return new Given(assumed.Or(null, "fire.collarGasC", FlueLimits.CollarGas(level)), Origin.Default);
    }

    private static Given Excess(FireEntry entry, FiringLevel level, Assumptions assumed)
    {
        if (entry.O2DryPct is { } o2)
            return new Given(WoodGas.ExcessAirFromO2(o2 / 100), Origin.Measured);
        if (entry.Co2DryPct is { } co2)
            return new Given(WoodGas.ExcessAirFromCo2(co2 / 100), Origin.Measured);
        return entry.ExcessAir is { } lambda
            ? new Given(lambda, Origin.Entered)
            : new Given(assumed.Or(null, "fire.excessAir", FlueLimits.ExcessAir(level)), Origin.Default);
    }

    private static DraftNeed ReadNeed(NeedEntry? entry, EntryErrors errors, Assumptions assumed)
    {
        errors.Check("need.minPa", entry?.MinPa, FlueRanges.NeedMin);
        errors.Check("need.maxPa", entry?.MaxPa, FlueRanges.NeedMax);
        var need = new DraftNeed(
            assumed.Or(entry?.MinPa, "need.minPa", FlueLimits.LeastDraft),
            assumed.Or(entry?.MaxPa, "need.maxPa", FlueLimits.GreatestDraft));
        if (need.MinPa >= need.MaxPa)
            errors.Add("need.maxPa", $"The greatest draft allowed ({need.MaxPa:0.#} Pa) must be more than the least needed ({need.MinPa:0.#} Pa).");
        return need;
    }
}
