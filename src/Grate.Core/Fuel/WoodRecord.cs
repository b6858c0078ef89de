using static Grate.Core.Sentence;

namespace Grate.Core.Fuel;

/// <summary>In what a household counts its wood.</summary>
[JsonConverter(typeof(WordConverter<WoodMeasure>))]
public enum WoodMeasure
{
    /// <summary>Kilograms as fired.</summary>
    [Said("By weight")]
    Kg,

    /// <summary>Cords.</summary>
    [Said("Cords")]
    Cord,

    /// <summary>Stacked cubic metres.</summary>
    [Said("Stacked")]
    StackedM3,

    /// <summary>Bags.</summary>
    [Said("Bags")]
    Bag,
}

/// <summary>The basis a moisture meter shows.</summary>
[JsonConverter(typeof(WordConverter<MeterBasis>))]
public enum MeterBasis
{
    /// <summary>Water over dry wood.</summary>
    [Said("Dry basis")]
    Dry,

    /// <summary>Water over the whole weight.</summary>
    [Said("Wet basis")]
    Wet,
}

/// <summary>Whether the wood is fit to be burnt.</summary>
[JsonConverter(typeof(WordConverter<WoodVerdict>))]
public enum WoodVerdict
{
    /// <summary>Dry enough.</summary>
    Dry,

    /// <summary>Doubtful.</summary>
    Doubtful,

    /// <summary>Not to be burnt.</summary>
    Wet,
}

/// <summary>A household's wood as found at a visit; every field may still be missing.</summary>
/// <param name="Pieces">Split pieces, each with its readings on the fresh face as the meter shows them, shares; at least three of three.</param>
/// <param name="MeterBasis">dry or wet: the basis the meter shows; default dry.</param>
/// <param name="WoodC">Temperature of the wood, °C; default 20.</param>
/// <param name="SpeciesOffset">By the meter's own table, points of dry basis as a share; default 0.</param>
/// <param name="ToldMoistureWet">Moisture where nothing was measured, wet basis; default 18 %.</param>
/// <param name="Wood">softwood, hardwood or mixed; default mixed.</param>
/// <param name="Amount">Wood a year, in <paramref name="Measure"/>; default 3 000 kg.</param>
/// <param name="Measure">kg, cord, stacked-m3 or bag; default kg.</param>
/// <param name="BagKg">Weight of a bag, kg; default 15.</param>
/// <param name="Habit">hot, mixed or slow; default mixed.</param>
public sealed record WoodRecord(
    IReadOnlyList<IReadOnlyList<double?>>? Pieces = null, [property: Words(typeof(MeterBasis))] string? MeterBasis = null, double? WoodC = null, double? SpeciesOffset = null,
    double? ToldMoistureWet = null, [property: Words(typeof(WoodKind))] string? Wood = null, double? Amount = null,
    [property: Words(typeof(WoodMeasure))] string? Measure = null, double? BagKg = null, [property: Words(typeof(Habit))] string? Habit = null)
{
    /// <summary>Every reading taken.</summary>
    public IReadOnlyList<double> Readings() => [.. (Pieces ?? []).SelectMany(p => p ?? []).OfType<double>()];
}

/// <summary>What a household's wood comes to.</summary>
/// <param name="MoistureWet">u, wet basis, of the measured mean, corrected; as told where nothing was measured.</param>
/// <param name="MeanOnMeter">Corrected mean on the meter's basis; null where nothing was measured.</param>
/// <param name="WorstOnMeter">Corrected worst.</param>
/// <param name="Verdict">Whether it is fit to be burnt; null where nothing was measured.</param>
/// <param name="KgPerYear">Wood a year, kg as fired.</param>
/// <param name="MJKg">Net energy as fired, MJ/kg.</param>
/// <param name="Habit">How it is burnt.</param>
/// <param name="Assumed">Every default used.</param>
/// <param name="Sentences">In words.</param>
public sealed record WoodAnswer(double MoistureWet, double? MeanOnMeter, double? WorstOnMeter, WoodVerdict? Verdict,
    double KgPerYear, double MJKg, Habit Habit, IReadOnlyList<Assumed> Assumed, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    private const int MostPieces = 20, MostReadings = 6;

    private static readonly Limit _amount = Limit.Assumed(3000, "kg", "a main heater's winter");
    private static readonly Limit _bag = Limit.Assumed(15, "kg", "a usual bag");
    private static readonly Limit _noOffset = Limit.Assumed(0, "", "no species offset entered");

    private static readonly EntryRange _reading = new("Moisture reading", Quantity.Share, 0.01, 1.5);
    private static readonly EntryRange _woodC = new("Temperature of the wood", Quantity.Temperature, -50, 60);
    private static readonly EntryRange _offset = new("Species offset", Quantity.Share, -0.2, 0.2);
    private static readonly EntryRange _kg = new("Wood a year", Quantity.Wood, 0, 200_000);
    private static readonly EntryRange _count = new("Wood a year", Quantity.Ratio, 0, 10_000);
    private static readonly EntryRange _bagKg = new("Weight of a bag", Quantity.Mass, 1, 2000);

    /// <summary>Answers for a household's wood.</summary>
    /// <param name="record">As recorded.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="WoodRecord"/>.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static WoodAnswer? To(WoodRecord record, EntryErrors errors, UnitSystem system)
    {
        var refused = new EntryErrors(system);
        var assumed = new Assumptions();
        T Read<T>(string? word, string field, string name, T fallback, string reason) where T : struct, Enum
        {
            refused.CheckWord<T>(field, word, name);
            return assumed.Or(word, field, fallback, reason);
        }
        CheckReadings(record, refused);
        var measure = Read(record.Measure, "measure", "What the wood is counted in", WoodMeasure.Kg, "counted in kilograms");
        var habit = Read(record.Habit, "habit", "Habit", Fuel.Habit.Mixed, "now hot, now slow");
        var wood = WoodClass.Find(record.Wood ?? WoodClass.Mixed.Code);
        if (wood is null)
            refused.Add("wood", Word.OneOf("Wood", record.Wood, WoodClass.All.Select(c => c.Code)));
        else if (record.Wood is null)
            assumed.Note("wood", wood.Code, Mark.Assumption, "mixed or unknown");
        var basis = record.MeterBasis is null ? MeterBasis.Dry : refused.Need<MeterBasis>("meterBasis", record.MeterBasis, "The meter's basis");
        refused.Check("toldMoistureWet", record.ToldMoistureWet, Moisture.Range);
        refused.Check("amount", record.Amount, measure == WoodMeasure.Kg ? _kg : _count);
        refused.Check("bagKg", record.BagKg, _bagKg);
        errors.TakeOver(refused, field => field);
        if (refused.Any)
            return null;

        var readings = Corrected(record, assumed);
        var wetMeter = basis == MeterBasis.Wet;
        double OnMeter(double dry) => wetMeter ? Moisture.WetOfDry(dry) : dry;
        double? mean = readings.Count > 0 ? OnMeter(readings.Average()) : null, worst = readings.Count > 0 ? OnMeter(readings.Max()) : null;
        var moisture = readings.Count > 0 ? Moisture.WetOfDry(readings.Average()) : assumed.Or(record.ToldMoistureWet, "toldMoistureWet", Moisture.Usual);
        WoodVerdict? verdict = mean is { } onMeter ? Moisture.Verdict(onMeter, worst!.Value) : null;
        var kg = record.Amount is not { } amount ? assumed.Or(null, "amount", _amount) : measure switch
        {
            WoodMeasure.Cord => wood!.StackKg(amount * WoodClass.CordM3.Value, moisture),
            WoodMeasure.StackedM3 => wood!.StackKg(amount, moisture),
            WoodMeasure.Bag => amount * assumed.Or(record.BagKg, "bagKg", _bag),
            _ => amount,
        };
        errors.Check("amount", kg, _kg);
        if (errors.Any)
            return null;
        var answer = new WoodAnswer(moisture, mean, worst, verdict, kg, wood!.MJKg(moisture), habit, assumed.Used, []);
        return answer with { Sentences = [.. answer.Words(record, wood, wetMeter, system)] };
    }

    private static void CheckReadings(WoodRecord record, EntryErrors errors)
    {
        var pieces = record.Pieces ?? [];
        if (pieces.Count > MostPieces)
            errors.Add("pieces", $"At most {MostPieces} pieces; {pieces.Count} were sent.");
        for (var i = 0; i < Math.Min(pieces.Count, MostPieces); i++)
        {
            if (pieces[i]?.Count > MostReadings)
                errors.Add($"pieces[{i}]", $"At most {MostReadings} readings a piece.");
            for (var j = 0; j < Math.Min(pieces[i]?.Count ?? 0, MostReadings); j++)
                errors.Check($"pieces[{i}][{j}]", pieces[i][j], _reading);
        }
        errors.Check("speciesOffset", record.SpeciesOffset, _offset);
        if (errors.Check("woodC", record.WoodC, _woodC) && record.WoodC < 0 && record.Readings().Count > 0)
            errors.Add("woodC", "Frozen wood gives no reading: bring three pieces in and split them when they have thawed.");
    }

    // Dry basis, at the meter's temperature.
    private static List<double> Corrected(WoodRecord record, Assumptions assumed)
    {
        var readings = record.Readings();
        if (readings.Count == 0)
            return [];
        var woodC = assumed.Or(record.WoodC, "woodC", Moisture.MeterC);
        var offset = assumed.Or(record.SpeciesOffset, "speciesOffset", _noOffset);
        return [.. readings.Select(r => Moisture.Corrected(record.MeterBasis == "wet" ? Moisture.DryOfWet(Math.Min(r, Moisture.Range.Max)) : r, woodC, offset))];
    }

    private IEnumerable<Sentence> Words(WoodRecord record, WoodClass wood, bool wetMeter, UnitSystem system)
    {
        var share = Units.Of(Quantity.Share, system);
        if (MeanOnMeter is { } mean)
        {
            yield return Say($"On the {(wetMeter ? "wet" : "dry")} basis that the meter shows the mean is ", Computed(share.Format(mean)), ", the worst ", Computed(share.Format(WorstOnMeter!.Value)),
                wetMeter ? ": " : $" (the mean is {share.Format(MoistureWet)} of the whole weight): ", Verdict switch
                {
                    WoodVerdict.Dry => "dry enough.",
                    WoodVerdict.Doubtful => "doubtful. Another summer under cover, or mixed with drier wood.",
                    _ when mean > Moisture.NoJudgement.Value => "too wet to be burnt, and the stove is not judged by such a fire.",
                    _ => "too wet to be burnt.",
                });
            var full = (record.Pieces ?? []).Count(p => p?.OfType<double>().Count() >= Moisture.WantedReadings);
            if (full < Moisture.WantedPieces)
                yield return Say($"{full} of {Moisture.WantedPieces} pieces have {Moisture.WantedReadings} readings on a fresh face: take them from different parts of the stack.");
        }
        var mass = Units.Of(Quantity.Wood, system);
        yield return Say("A year burns ", Computed(mass.Format(KgPerYear)), " as fired, with ",
            Computed(Units.Of(Quantity.Energy, system).Format(KgPerYear * MJKg * 1e6)), $" in it ({wood.Name} at {share.Format(MoistureWet)}).");
    }
}
