using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Clearances;

/// <summary>What of the house a spot lies on.</summary>
[JsonConverter(typeof(WordConverter<SpotKind>))]
public enum SpotKind
{
    /// <summary>In sight: a mantel, a floor, a piece of furniture.</summary>
    Exposed,

    /// <summary>Behind something: wood within a wall.</summary>
    Hidden,
}

/// <summary>A spot read with an infrared gauge.</summary>
/// <param name="Label">What it is, 1 to 80 characters.</param>
/// <param name="ReadC">What the gauge shows, °C, −50..600.</param>
/// <param name="Emissivity">Of the surface, 0.05..1; default 0.95.</param>
/// <param name="Kind">exposed or hidden; default exposed.</param>
public sealed record SurfaceSpot(string? Label = null, double? ReadC = null, double? Emissivity = null, [property: Words(typeof(SpotKind))] string? Kind = null);

/// <summary>The question of POST /api/calculations/surface.</summary>
/// <param name="RoomC">Room, °C, −20..45.</param>
/// <param name="GaugeEmissivity">What the gauge is set to, 0.05..1; default 0.95.</param>
/// <param name="GasNowC">Gas at the collar now, °C, 0..1000 and warmer than the room; without it spots count as read.</param>
/// <param name="GasHighC">Gas at high fire, °C, 0..1000; default 330, used with the gas now only.</param>
/// <param name="Spots">The spots, at least one, at most 40.</param>
public sealed record SurfaceEntry(double? RoomC = null, double? GaugeEmissivity = null, double? GasNowC = null, double? GasHighC = null, IReadOnlyList<SurfaceSpot>? Spots = null);

/// <summary>What a spot comes to.</summary>
/// <param name="Label">What it is.</param>
/// <param name="TrueC">Its temperature, °C.</param>
/// <param name="RiseK">Above the room, K.</param>
/// <param name="RiseHighK">The same at high fire, K.</param>
/// <param name="LimitK">What it may rise, K.</param>
/// <param name="Passes">Whether it stays within.</param>
/// <param name="Share">Share of the limit.</param>
public sealed record SpotAnswer(string Label, double TrueC, double RiseK, double RiseHighK, double LimitK, bool Passes, double Share);

/// <summary>Whether every spot stays within.</summary>
[JsonConverter(typeof(WordConverter<SurfaceVerdict>))]
public enum SurfaceVerdict
{
    /// <summary>Every spot.</summary>
    Pass,

    /// <summary>Not every one.</summary>
    Fail,
}

/// <summary>The answer of POST /api/calculations/surface (handbook 08).</summary>
/// <param name="Factor">From the rise now to that at high fire, 1 or more.</param>
/// <param name="Spots">The spots.</param>
/// <param name="Closest">Label of the one that comes closest to its limit.</param>
/// <param name="Verdict">Whether all stay within.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record SurfaceAnswer(double Factor, IReadOnlyList<SpotAnswer> Spots, string Closest, SurfaceVerdict Verdict, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>What most surfaces of a house, and most gauges, have.</summary>
    public static readonly Limit Emissivity = Limit.Assumed(0.95, "", "paint, wood, brick, soot");

    /// <summary>Rise of what is in sight.</summary>
    public static readonly Limit ExposedK = Limit.Memory(65, "K", "UL 1482: exposed combustible, 117 °F");

    /// <summary>Rise of what is hidden.</summary>
    public static readonly Limit HiddenK = Limit.Memory(50, "K", "UL 1482: hidden combustible, 90 °F");

    private const int MostSpots = 40;

    /// <summary>What an infrared gauge shows.</summary>
    internal static readonly EntryRange ReadRange = new("Reading of the spot", Quantity.Temperature, -50, 600);

    /// <summary>Emissivity of a surface.</summary>
    internal static readonly EntryRange EmissivityRange = new("Emissivity", Quantity.Ratio, 0.05, 1);

    /// <summary>Answers a question. A mantel of 59.4 °C in a room of 23.9 °C, gas 200 now and 330 °C at high fire, rises 61.7 K then.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static SurfaceAnswer? To(SurfaceEntry entry, EntryErrors errors)
    {
        errors.Need("roomC", entry.RoomC, EntryRange.Room);
        errors.Check("gaugeEmissivity", entry.GaugeEmissivity, EmissivityRange);
        if (errors.Check("gasNowC", entry.GasNowC, FlueRanges.CollarGas) && entry.GasNowC <= entry.RoomC)
            errors.Add("gasNowC", "Flue gas now is no warmer than the room: measure while the stove burns, or leave it out.");
        errors.Check("gasHighC", entry.GasHighC, FlueRanges.CollarGas);
        var spots = errors.Each("spots", entry.Spots, MostSpots, "spots");
        if (entry.Spots is not { Count: > 0 })
            errors.Add("spots", "The spots are missing: at least one.");
        foreach (var (spot, i) in spots)
        {
            errors.CheckText($"spots[{i}].label", spot.Label, "What the spot is", 80, needed: true);
            errors.Need($"spots[{i}].readC", spot.ReadC, ReadRange);
            errors.Check($"spots[{i}].emissivity", spot.Emissivity, EmissivityRange);
            errors.CheckWord<SpotKind>($"spots[{i}].kind", spot.Kind, "Kind of the spot");
        }
        if (errors.Any)
            return null;

        var assumed = new Assumptions();
        var room = entry.RoomC!.Value;
        var gauge = assumed.Or(entry.GaugeEmissivity, "gaugeEmissivity", Emissivity);
        var factor = entry.GasNowC is { } now ? Math.Max(1, (assumed.Or(entry.GasHighC, "gasHighC", FlueLimits.CollarGas(FiringLevel.High)) - room) / (now - room)) : 1;
        SpotAnswer Of(SurfaceSpot spot, int i)
        {
            var own = assumed.Or(spot.Emissivity, $"spots[{i}].emissivity", Emissivity);
            var limit = (assumed.Or(spot.Kind, $"spots[{i}].kind", SpotKind.Exposed, "in sight") == SpotKind.Hidden ? HiddenK : ExposedK).Value;
            var spotC = TrueC(spot.ReadC!.Value, room, gauge, own);
            var (rise, high) = (spotC - room, (spotC - room) * factor);
            return new(spot.Label!, spotC, rise, high, limit, high <= limit + Limit.Met, high / limit);
        }
        List<SpotAnswer> answers = [.. spots.Select(s => Of(s.Item, s.At))];
        return new(factor, answers, answers.MaxBy(s => s.Share)!.Label, answers.All(s => s.Passes) ? SurfaceVerdict.Pass : SurfaceVerdict.Fail, assumed.Used);
    }

    /// <summary>
    /// What a surface is where a gauge that is set otherwise reads it, °C: T⁴ = T_room⁴ + (ε_g/ε)(T_read⁴ − T_room⁴), in kelvin. 60 °C at
    /// 0.95 in a room of 24 °C is 76.6 °C on a plate of 0.60.
    /// </summary>
    public static double TrueC(double readC, double roomC, double gauge, double own)
    {
        var room = Math.Pow(roomC + DryAir.ZeroCelsiusK, 4);
        // Far colder than its room a spot would come out below nothing: it is then as cold as can be.
        return Math.Pow(Math.Max(0, room + gauge / own * (Math.Pow(readC + DryAir.ZeroCelsiusK, 4) - room)), 0.25) - DryAir.ZeroCelsiusK;
    }
}
