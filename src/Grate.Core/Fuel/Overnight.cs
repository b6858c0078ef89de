namespace Grate.Core.Fuel;

/// <summary>Live coals in the morning.</summary>
[JsonConverter(typeof(WordConverter<Coals>))]
public enum Coals
{
    /// <summary>None.</summary>
    None,

    /// <summary>Some.</summary>
    Some,

    /// <summary>Plenty.</summary>
    Plenty,
}

/// <summary>A night as told or logged.</summary>
/// <param name="LoadKg">Wood put on, kg as fired, 0.1..200; needed.</param>
/// <param name="MoistureWet">Moisture, wet basis; default 0.18.</param>
/// <param name="Species">unknown, hardwood or softwood; default unknown.</param>
/// <param name="Efficiency">Heat in the room over heat in the wood, 0.05..1; default 0.75.</param>
/// <param name="Hours">How long, h, 0.5..48; needed.</param>
/// <param name="Coals">none, some or plenty in the morning; default some.</param>
/// <param name="InStartC">Room in the evening, °C.</param>
/// <param name="InEndC">Room in the morning, °C.</param>
/// <param name="OutStartC">Outdoors in the evening, °C.</param>
/// <param name="OutEndC">Outdoors in the morning, °C.</param>
public sealed record NightEntry(double? LoadKg = null, double? MoistureWet = null, [property: Words(typeof(WoodSpecies))] string? Species = null, double? Efficiency = null,
    double? Hours = null, [property: Words(typeof(Coals))] string? Coals = null, double? InStartC = null, double? InEndC = null, double? OutStartC = null, double? OutEndC = null);

/// <summary>The night that is wanted.</summary>
/// <param name="Hours">How long, h, 0.5..48; needed.</param>
/// <param name="InC">Room, °C; needed.</param>
/// <param name="OutC">Outdoors, °C; needed.</param>
/// <param name="MoistureWet">Moisture, wet basis; default 0.18.</param>
/// <param name="Species">unknown, hardwood or softwood; default unknown.</param>
/// <param name="Efficiency">Heat in the room over heat in the wood; default 0.75.</param>
/// <param name="Coals">What is wanted in the morning; default some.</param>
/// <param name="UaWK">Heat-loss coefficient of the house, W/K, 1..5 000; default that of the nights.</param>
public sealed record WantedNight(double? Hours = null, double? InC = null, double? OutC = null, double? MoistureWet = null,
    [property: Words(typeof(WoodSpecies))] string? Species = null, double? Efficiency = null, [property: Words(typeof(Coals))] string? Coals = null, double? UaWK = null);

/// <summary>The question of POST /api/calculations/overnight.</summary>
/// <param name="Nights">Nights, at most 60.</param>
/// <param name="Wanted">The night that is wanted.</param>
public sealed record OvernightEntry(IReadOnlyList<NightEntry>? Nights = null, WantedNight? Wanted = null);

/// <summary>What a night comes to.</summary>
/// <param name="OutputKw">Mean output, kW.</param>
/// <param name="HoursToEmbers">Hours until only embers are left.</param>
/// <param name="DeltaK">Room above outdoors, mean, K; null without the four temperatures.</param>
/// <param name="DriftKPerH">Drift of the room, K/h.</param>
public sealed record NightAnswer(double OutputKw, double HoursToEmbers, double? DeltaK, double? DriftKPerH);

/// <summary>A house from two nights: P = UA · (T_in − T_out) + C dT/dt.</summary>
/// <param name="TooAlike">Whether the nights are too alike to tell.</param>
/// <param name="UaWK">Heat-loss coefficient, W/K.</param>
/// <param name="CapacityMjK">Heat capacity, MJ/K.</param>
public sealed record HouseFromNights(bool TooAlike, double? UaWK, double? CapacityMjK)
{
    private const double LeastShare = 0.1;

    /// <summary>The house of two nights; too alike where a figure comes out at 0 or less, or the determinant under a tenth of its terms' sizes.</summary>
    public static HouseFromNights Of(NightAnswer first, NightAnswer second)
    {
        // Drifts in K/s, outputs in W.
        var (d1, d2) = (first.DeltaK!.Value, second.DeltaK!.Value);
        var (r1, r2) = (first.DriftKPerH!.Value / 3600, second.DriftKPerH!.Value / 3600);
        var (p1, p2) = (1000 * first.OutputKw, 1000 * second.OutputKw);
        var determinant = d1 * r2 - d2 * r1;
        if (determinant == 0 || Math.Abs(determinant) < LeastShare * (Math.Abs(d1 * r2) + Math.Abs(d2 * r1)))
            return new(true, null, null);
        var (ua, capacity) = ((p1 * r2 - p2 * r1) / determinant, (d1 * p2 - d2 * p1) / determinant);
        return ua > 0 && capacity > 0 ? new(false, ua, capacity / 1e6) : new(true, null, null);
    }
}

/// <summary>The load for the night that is wanted.</summary>
/// <param name="OutputKw">Output it takes, kW; null where nothing is known of the house.</param>
/// <param name="LoadKg">Wood, kg as fired.</param>
public sealed record WantedLoad(double? OutputKw, double? LoadKg);

/// <summary>The answer of POST /api/calculations/overnight (handbook 07 section 4).</summary>
/// <param name="Nights">The nights.</param>
/// <param name="House">The house by the last two with all temperatures; null with fewer.</param>
/// <param name="Wanted">The load that is wanted; null where it was not asked.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record OvernightAnswer(IReadOnlyList<NightAnswer> Nights, HouseFromNights? House, WantedLoad? Wanted, IReadOnlyList<Assumed> Assumed)
{
    private const int MostNights = 60;

    private static readonly EntryRange
        _load = new("Wood put on", Quantity.Wood, 0.1, 200),
        _hours = new("Hours", Quantity.Ratio, 0.5, 48),
        _efficiency = new("Efficiency", Quantity.Share, 0.05, 1),
        _loss = new("Heat loss of the house in W/K", Quantity.Ratio, 1, 5_000);

    /// <summary>Share of the load that is burnt, by the coals left.</summary>
    public static Limit Burnt(Coals coals) => Limit.Assumed(coals switch { Coals.None => 1, Coals.Some => 0.95, _ => 0.85 }, "", "share burnt, by the coals left");

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static OvernightAnswer? To(OvernightEntry entry, EntryErrors errors)
    {
        var nights = errors.Each("nights", entry.Nights, MostNights, "nights");
        foreach (var (night, i) in nights)
            Check(night, $"nights[{i}].", errors);
        if (entry.Wanted is { } wanted)
            Check(wanted, errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        List<NightAnswer> answers = [.. nights.Select(n => Of(n.Item, $"nights[{n.At}].", assumed))];
        var told = answers.Where(n => n.DeltaK is not null).TakeLast(2).ToList();
        var house = told.Count == 2 ? HouseFromNights.Of(told[0], told[1]) : null;
        return new(answers, house, entry.Wanted is { } asked ? Load(asked, asked.UaWK ?? house?.UaWK, assumed) : null, assumed.Used);
    }

    private static NightAnswer Of(NightEntry night, string path, Assumptions assumed)
    {
        var (burnt, mjKg) = Fire(path, night.Coals, night.Species, night.MoistureWet, night.Efficiency, assumed);
        var hours = night.Hours!.Value;
        var (delta, drift) = night is { InStartC: { } inStart, InEndC: { } inEnd, OutStartC: { } outStart, OutEndC: { } outEnd }
            ? ((inStart + inEnd - outStart - outEnd) / 2, (inEnd - inStart) / hours) : ((double?)null, (double?)null);
        return new(night.LoadKg!.Value * burnt * mjKg / 3.6 / hours, hours / burnt, delta, drift);
    }

    private static WantedLoad Load(WantedNight wanted, double? uaWK, Assumptions assumed)
    {
        if (uaWK is not { } loss)
            return new(null, null);
        var (burnt, mjKg) = Fire("wanted.", wanted.Coals, wanted.Species, wanted.MoistureWet, wanted.Efficiency, assumed);
        var output = Math.Max(0, loss * (wanted.InC!.Value - wanted.OutC!.Value)) / 1000;
        return new(output, output * 3.6 * wanted.Hours!.Value / (burnt * mjKg));
    }

    // Share burnt, and heat in the room per kg that burns, MJ.
    private static (double Burnt, double MJKg) Fire(string path, string? coals, string? species, double? moistureWet, double? efficiency, Assumptions assumed)
    {
        var left = assumed.Or(coals, $"{path}coals", Fuel.Coals.Some, "some live coals in the morning");
        var mjKg = WoodClass.Of(species, $"{path}species", assumed).MJKg(assumed.Or(moistureWet, $"{path}moistureWet", Moisture.Usual));
        return (Burnt(left).Value, mjKg * assumed.Or(efficiency, $"{path}efficiency", WoodClass.Efficiency));
    }

    private static void Check(NightEntry night, string path, EntryErrors errors)
    {
        errors.Need($"{path}loadKg", night.LoadKg, _load);
        CheckFire(path, night.Hours, night.MoistureWet, night.Species, night.Efficiency, night.Coals, errors);
        errors.Check($"{path}inStartC", night.InStartC, EntryRange.Room);
        errors.Check($"{path}inEndC", night.InEndC, EntryRange.Room);
        errors.Check($"{path}outStartC", night.OutStartC, EntryRange.Outdoors);
        errors.Check($"{path}outEndC", night.OutEndC, EntryRange.Outdoors);
    }

    private static void Check(WantedNight wanted, EntryErrors errors)
    {
        CheckFire("wanted.", wanted.Hours, wanted.MoistureWet, wanted.Species, wanted.Efficiency, wanted.Coals, errors);
        errors.Need("wanted.inC", wanted.InC, EntryRange.Room);
        errors.Need("wanted.outC", wanted.OutC, EntryRange.Outdoors);
        errors.Check("wanted.uaWK", wanted.UaWK, _loss);
    }

    private static void CheckFire(string path, double? hours, double? moistureWet, string? species, double? efficiency, string? coals, EntryErrors errors)
    {
        errors.Need($"{path}hours", hours, _hours);
        errors.Check($"{path}moistureWet", moistureWet, Moisture.Range);
        errors.Check($"{path}efficiency", efficiency, _efficiency);
        errors.CheckWord<WoodSpecies>($"{path}species", species, "Species");
        errors.CheckWord<Coals>($"{path}coals", coals, "Coals in the morning");
    }
}
