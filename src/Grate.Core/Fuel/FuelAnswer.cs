namespace Grate.Core.Fuel;

/// <summary>Species as far as the energy goes.</summary>
[JsonConverter(typeof(WordConverter<WoodSpecies>))]
public enum WoodSpecies
{
    /// <summary>Not known.</summary>
    Unknown,

    /// <summary>Hardwood.</summary>
    Hardwood,

    /// <summary>Softwood.</summary>
    Softwood,
}

/// <summary>Whether wood is fit to be burnt, as the calculation says it.</summary>
[JsonConverter(typeof(WordConverter<FuelVerdict>))]
public enum FuelVerdict
{
    /// <summary>Dry enough.</summary>
    DryEnough,

    /// <summary>Doubtful.</summary>
    Doubtful,

    /// <summary>Not to be burnt.</summary>
    Wet,

    /// <summary>Frozen: no reading.</summary>
    NoReading,
}

/// <summary>A reading of a moisture meter.</summary>
/// <param name="Piece">The split piece it was taken on, at most 40 characters.</param>
/// <param name="Percent">What the meter shows, %: 0..300 dry basis, 0..75 wet.</param>
public sealed record MoistureReading(string? Piece = null, double? Percent = null);

/// <summary>A stack of wood.</summary>
/// <param name="StackedM3">Stacked volume, m³, 0..10 000; wins.</param>
/// <param name="Cords">In cords of 128 ft³, 0..3 000.</param>
/// <param name="SolidShare">Share of solid wood, 0.3..1; default 0.675.</param>
/// <param name="DryKgM3">Dry density of solid wood, kg/m³, 100..1 300; default by species.</param>
public sealed record WoodVolume(double? StackedM3 = null, double? Cords = null, double? SolidShare = null, double? DryKgM3 = null);

/// <summary>Wood that is still to dry.</summary>
/// <param name="Class">softwood, hardwood or dense-hardwood; default by species.</param>
/// <param name="Rounds">Whether it lies unsplit; default false.</param>
/// <param name="Covered">Whether it is under cover; default true.</param>
/// <param name="StartWet">Moisture at the start, wet basis; default that of the readings, else 0.45.</param>
/// <param name="TargetWet">Moisture wanted, wet basis; default 0.20.</param>
/// <param name="From">Day of the start.</param>
public sealed record SeasoningEntry([property: Words(typeof(SeasoningClass))] string? Class = null, bool? Rounds = null, bool? Covered = null,
    double? StartWet = null, double? TargetWet = null, DateOnly? From = null);

/// <summary>The question of POST /api/calculations/wood.</summary>
/// <param name="Species">unknown, hardwood or softwood; default unknown.</param>
/// <param name="Readings">Readings, at most 200.</param>
/// <param name="Basis">dry or wet: what the meter shows; default dry.</param>
/// <param name="LimitBasis">dry or wet: what the limits are stated in; default as the meter.</param>
/// <param name="WoodC">Temperature of the wood, °C; default 20.</param>
/// <param name="Frozen">Whether it is frozen.</param>
/// <param name="SpeciesOffset">Points of dry basis by the meter's own table, −20..20; default 0.</param>
/// <param name="MoistureWet">Moisture where nothing was read, wet basis; default 0.18.</param>
/// <param name="QDryMjKg">Net energy of dry wood, MJ/kg, 10..25; default by species.</param>
/// <param name="Volume">A stack.</param>
/// <param name="Seasoning">Wood still to dry.</param>
public sealed record FuelEntry([property: Words(typeof(WoodSpecies))] string? Species = null, IReadOnlyList<MoistureReading>? Readings = null,
    [property: Words(typeof(MeterBasis))] string? Basis = null, [property: Words(typeof(MeterBasis))] string? LimitBasis = null, double? WoodC = null, bool? Frozen = null,
    double? SpeciesOffset = null, double? MoistureWet = null, double? QDryMjKg = null, WoodVolume? Volume = null, SeasoningEntry? Seasoning = null);

/// <summary>What the readings come to; the numbers are null where the wood is frozen.</summary>
/// <param name="MeanPct">Mean, on the limits' basis, %.</param>
/// <param name="WorstPct">Largest, on the limits' basis, %.</param>
/// <param name="MeanDryPct">Mean, dry basis, %.</param>
/// <param name="MoistureWet">u of the mean, a share.</param>
/// <param name="Verdict">Whether it is fit to be burnt.</param>
/// <param name="NotToBurn">Whether the mean lies above 25 %.</param>
/// <param name="JudgeStove">Whether a stove may be judged by its fire.</param>
/// <param name="Enough">Whether three pieces have three readings each.</param>
public sealed record FuelMoisture(double? MeanPct, double? WorstPct, double? MeanDryPct, double? MoistureWet, FuelVerdict Verdict, bool? NotToBurn, bool? JudgeStove, bool Enough);

/// <summary>Energy of the wood.</summary>
/// <param name="MoistureWet">u it is reckoned at.</param>
/// <param name="NetMjKg">Net, as fired, MJ/kg.</param>
/// <param name="NetKwhKg">The same, kWh/kg.</param>
public sealed record FuelEnergy(double MoistureWet, double NetMjKg, double NetKwhKg);

/// <summary>What a stack holds.</summary>
/// <param name="StackedM3">Stacked volume, m³.</param>
/// <param name="MassKg">Mass as fired, kg.</param>
/// <param name="DryKg">Mass bone-dry, kg.</param>
/// <param name="EnergyKwh">Net energy, kWh.</param>
public sealed record WoodPile(double StackedM3, double MassKg, double DryKg, double EnergyKwh);

/// <summary>When wood will be dry.</summary>
/// <param name="StartWet">Moisture at the start.</param>
/// <param name="TauMonths">Time constant, months.</param>
/// <param name="Months">Months until the target; null where it is never reached.</param>
/// <param name="MeasureAgainOn">Day to measure again; null without a start.</param>
public sealed record SeasoningAnswer(double StartWet, double TauMonths, double? Months, DateOnly? MeasureAgainOn);

/// <summary>The answer of POST /api/calculations/wood (handbook 07 section 1).</summary>
/// <param name="Moisture">What was read; null without readings.</param>
/// <param name="Energy">Its energy.</param>
/// <param name="Pile">A stack; null without one.</param>
/// <param name="Seasoning">Its drying; null where it was not asked.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record FuelAnswer(FuelMoisture? Moisture, FuelEnergy Energy, WoodPile? Pile, SeasoningAnswer? Seasoning, IReadOnlyList<Assumed> Assumed)
{
    private const int MostReadings = 200, FirstYear = 1900, LastYear = 2200;

    private static readonly Limit _noOffset = Limit.Assumed(0, "", "no species offset entered");

    private static readonly EntryRange
        _dryPercent = new("Moisture reading, dry basis, in %", Quantity.Ratio, 0, 300),
        _wetPercent = new("Moisture reading, wet basis, in %", Quantity.Ratio, 0, 75),
        _woodC = new("Temperature of the wood", Quantity.Temperature, -50, 60),
        _offset = new("Species offset in points", Quantity.Ratio, -20, 20),
        _energy = new("Energy of dry wood in MJ/kg", Quantity.Ratio, 10, 25),
        _stack = new("Stacked volume", Quantity.Volume, 0, 10_000),
        _cords = new("Cords", Quantity.Ratio, 0, 3_000),
        _solid = new("Share of solid wood", Quantity.Share, 0.3, 1),
        _density = new("Dry density in kg/m³", Quantity.Ratio, 100, 1_300),
        _start = new("Moisture at the start, wet basis", Quantity.Share, 0, 0.75);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static FuelAnswer? To(FuelEntry entry, EntryErrors errors)
    {
        var basis = entry.Basis is null ? MeterBasis.Dry : errors.Need<MeterBasis>("basis", entry.Basis, "The meter's basis") ?? MeterBasis.Dry;
        var readings = Check(entry, basis, errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var wood = WoodClass.Of(entry.Species, "species", assumed);
        var moisture = readings.Count > 0 ? Read(entry, basis, readings, assumed) : null;
        var wet = moisture?.MoistureWet ?? assumed.Or(entry.MoistureWet, "moistureWet", Fuel.Moisture.Usual);
        wood = wood with { DryMJKg = wood.DryMJKg with { Value = assumed.Or(entry.QDryMjKg, "qDryMjKg", wood.DryMJKg) } };
        var energy = wood.MJKg(wet);
        return new(moisture, new(wet, energy, energy / 3.6),
            entry.Volume is { } volume ? PileOf(volume, wood, wet, assumed) : null,
            entry.Seasoning is { } drying ? Season(drying, entry.Species, moisture?.MoistureWet, assumed) : null, assumed.Used);
    }

    private static FuelMoisture Read(FuelEntry entry, MeterBasis basis, IReadOnlyList<MoistureReading> readings, Assumptions assumed)
    {
        var enough = readings.Where(r => r.Piece is not null).GroupBy(r => r.Piece).Count(p => p.Count() >= Fuel.Moisture.WantedReadings) >= Fuel.Moisture.WantedPieces;
        if (entry.Frozen == true || entry.WoodC < 0)
            return new(null, null, null, null, FuelVerdict.NoReading, null, null, enough);
        if (entry.Basis is null)
            assumed.Note("basis", Word.Of(basis), Mark.Assumption, "most meters show the dry basis");
        if (entry.LimitBasis is null)
            assumed.Note("limitBasis", Word.Of(basis), Mark.Assumption, "the limits hold on the meter's basis");
        var woodC = assumed.Or(entry.WoodC, "woodC", Fuel.Moisture.MeterC);
        var offset = assumed.Or(entry.SpeciesOffset, "speciesOffset", _noOffset) / 100;
        List<double> dry = [.. readings.Select(r => r.Percent!.Value / 100).Select(r => Fuel.Moisture.Corrected(basis == MeterBasis.Wet ? Fuel.Moisture.DryOfWet(r) : r, woodC, offset))];
        double OnLimits(double share) => (Word.Find<MeterBasis>(entry.LimitBasis) ?? basis) == MeterBasis.Wet ? Fuel.Moisture.WetOfDry(share) : share;
        var (mean, worst) = (OnLimits(dry.Average()), OnLimits(dry.Max()));
        return new(100 * mean, 100 * worst, 100 * dry.Average(), Fuel.Moisture.WetOfDry(dry.Average()), Fuel.Moisture.Verdict(mean, worst) switch
        {
            WoodVerdict.Dry => FuelVerdict.DryEnough,
            WoodVerdict.Doubtful => FuelVerdict.Doubtful,
            _ => FuelVerdict.Wet,
        }, mean > Fuel.Moisture.DryWorst.Value + Limit.Met, mean <= Fuel.Moisture.NoJudgement.Value + Limit.Met, enough);
    }

    private static WoodPile PileOf(WoodVolume volume, WoodClass wood, double wet, Assumptions assumed)
    {
        var stacked = volume.StackedM3 ?? volume.Cords!.Value * WoodClass.CordM3.Value;
        var dry = stacked * assumed.Or(volume.SolidShare, "volume.solidShare", WoodClass.SolidShare) * assumed.Or(volume.DryKgM3, "volume.dryKgM3", wood.DryKgM3);
        var mass = dry / (1 - wet);
        return new(stacked, mass, dry, mass * wood.MJKg(wet) / 3.6);
    }

    /// <summary>How wood dries as it lies.</summary>
    internal static Seasoning Drying(SeasoningEntry entry, string? species, Assumptions assumed) => new(
        assumed.Or(entry.Class, "seasoning.class", Fuel.Seasoning.ClassOf(species), "by its species"),
        assumed.Or(entry.Rounds, "seasoning.rounds", false, "split"), assumed.Or(entry.Covered, "seasoning.covered", true, "under cover"));

    private static SeasoningAnswer Season(SeasoningEntry entry, string? species, double? read, Assumptions assumed)
    {
        var drying = Drying(entry, species, assumed);
        var start = entry.StartWet ?? read ?? assumed.Or(null, "seasoning.startWet", Fuel.Seasoning.FreshWet);
        var months = drying.MonthsUntil(start, assumed.Or(entry.TargetWet, "seasoning.targetWet", Fuel.Seasoning.TargetWet));
        return new(start, drying.TauMonths, months, months is { } wait ? entry.From?.AddMonths((int)Math.Ceiling(wait - Limit.Met)) : null);
    }

    private static List<MoistureReading> Check(FuelEntry entry, MeterBasis basis, EntryErrors errors)
    {
        errors.CheckWord<WoodSpecies>("species", entry.Species, "Species");
        errors.CheckWord<MeterBasis>("limitBasis", entry.LimitBasis, "Basis of the limits");
        var readings = errors.Each("readings", entry.Readings, MostReadings, "readings");
        foreach (var (reading, i) in readings)
        {
            errors.CheckText($"readings[{i}].piece", reading.Piece, "The piece", 40);
            errors.Need($"readings[{i}].percent", reading.Percent, basis == MeterBasis.Wet ? _wetPercent : _dryPercent);
        }
        errors.Check("woodC", entry.WoodC, _woodC);
        errors.Check("speciesOffset", entry.SpeciesOffset, _offset);
        errors.Check("moistureWet", entry.MoistureWet, Fuel.Moisture.Range);
        errors.Check("qDryMjKg", entry.QDryMjKg, _energy);
        if (entry.Volume is { } volume)
        {
            if (volume.StackedM3 is null)
                errors.Need("volume.cords", volume.Cords, _cords);
            errors.Check("volume.stackedM3", volume.StackedM3, _stack);
            errors.Check("volume.solidShare", volume.SolidShare, _solid);
            errors.Check("volume.dryKgM3", volume.DryKgM3, _density);
        }
        if (entry.Seasoning is { } drying)
        {
            errors.CheckWord<SeasoningClass>("seasoning.class", drying.Class, "Class of wood");
            errors.Check("seasoning.startWet", drying.StartWet, _start);
            errors.Check("seasoning.targetWet", drying.TargetWet, _start);
            if (drying.From is { Year: < FirstYear or > LastYear })
                errors.Add("seasoning.from", $"A day between {FirstYear} and {LastYear} is expected; {drying.From:yyyy-MM-dd} was entered.");
        }
        return [.. readings.Select(r => r.Item)];
    }
}
