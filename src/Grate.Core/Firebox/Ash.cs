namespace Grate.Core.Firebox;

/// <summary>What makes the ash.</summary>
[JsonConverter(typeof(WordConverter<AshFuel>))]
public enum AshFuel
{
    /// <summary>Softwood.</summary>
    Softwood,

    /// <summary>Hardwood.</summary>
    Hardwood,

    /// <summary>Wood with much bark.</summary>
    [Said("Much bark")]
    Bark,

    /// <summary>Coal.</summary>
    Coal,
}

/// <summary>The question of POST /api/calculations/ash.</summary>
/// <param name="PanL">What the pan holds, L, 0.1..100.</param>
/// <param name="BurnKgDay">Fuel a day, kg, 0..300.</param>
/// <param name="Fuel">softwood, hardwood, bark or coal; default hardwood.</param>
/// <param name="AshShare">Ash of dry fuel, 0.0001..0.5; default by the fuel.</param>
/// <param name="MoistureWet">Moisture of the whole weight; default 0.18, of coal 0.</param>
/// <param name="BulkKgL">Bulk density of ash with its charcoal, kg/L, 0.05..3; default 0.4, of coal 0.7.</param>
/// <param name="UsableShare">Usable share of the pan, 0.05..1; default 0.8.</param>
/// <param name="BurnKgYear">Fuel a year, kg, 0..100 000; default the days' of the season.</param>
/// <param name="HeatingDays">Days of the season, 0..366; default 200.</param>
public sealed record AshEntry(double? PanL = null, double? BurnKgDay = null, [property: Words(typeof(AshFuel))] string? Fuel = null, double? AshShare = null, double? MoistureWet = null,
    double? BulkKgL = null, double? UsableShare = null, double? BurnKgYear = null, double? HeatingDays = null);

/// <summary>The answer of POST /api/calculations/ash (handbook 04 section 5).</summary>
/// <param name="AshKgDay">Ash a day, kg.</param>
/// <param name="DaysToFill">Days to a full pan; null where nothing is burnt.</param>
/// <param name="EmptyEveryDays">The same in whole days, at least one.</param>
/// <param name="AshKgYear">Ash a year, kg.</param>
/// <param name="EmptyingsPerYear">Pans a year.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record AshAnswer(double AshKgDay, double? DaysToFill, int? EmptyEveryDays, double AshKgYear, double EmptyingsPerYear, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Usable share of a pan.</summary>
    public static readonly Limit Usable = Limit.Assumed(0.8, "", "never to the underside of the grate");

    /// <summary>Days of a season.</summary>
    public static readonly Limit Season = Limit.Assumed(200, "days", "a heating season");

    private static readonly EntryRange _pan = new("What the pan holds", Quantity.SmallVolume, 0.1, 100, 0.001);
    private static readonly EntryRange _day = new("Fuel a day", Quantity.Wood, 0, 300);
    private static readonly EntryRange _year = new("Fuel a year", Quantity.Wood, 0, 100_000);
    private static readonly EntryRange _share = new("Ash of dry fuel", Quantity.Share, 0.0001, 0.5);
    private static readonly EntryRange _moisture = new("Moisture", Quantity.Share, 0, 0.8);
    private static readonly EntryRange _bulk = new("Bulk density of the ash, in kg/L,", Quantity.Ratio, 0.05, 3);
    private static readonly EntryRange _usable = new("Usable share of the pan", Quantity.Share, 0.05, 1);
    private static readonly EntryRange _days = new("Heating days", Quantity.Count, 0, 366);

    /// <summary>Ash of dry fuel: softwood 0.5 %, hardwood 0.7, much bark 1.0, coal 7.</summary>
    public static Limit ShareOf(AshFuel fuel) => fuel switch
    {
        AshFuel.Softwood => Limit.Memory(0.005, "", "wood-fuel handbooks: softwood 0.5 %"),
        AshFuel.Bark => Limit.Memory(0.010, "", "wood-fuel handbooks: much bark 1.0 %"),
        AshFuel.Coal => Limit.Memory(0.07, "", "coal briquettes 5 to 10 %, as bought"),
        _ => Limit.Memory(0.007, "", "wood-fuel handbooks: hardwood 0.7 %"),
    };

    /// <summary>Bulk density of ash with its charcoal, kg/L.</summary>
    public static Limit BulkOf(AshFuel fuel) => fuel == AshFuel.Coal ? Limit.Assumed(0.7, "kg/L", "coal ash") : Limit.Assumed(0.4, "kg/L", "wood ash with its charcoal");

    /// <summary>Answers a question. A pan of 6 L at 15 kg of hardwood a day of 18 % is full after 22.3 days.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static AshAnswer? To(AshEntry entry, EntryErrors errors)
    {
        errors.Need("panL", entry.PanL, _pan);
        errors.Need("burnKgDay", entry.BurnKgDay, _day);
        var fuel = entry.Fuel is { } word ? errors.Need<AshFuel>("fuel", word, "Fuel") : AshFuel.Hardwood;
        errors.Check("ashShare", entry.AshShare, _share);
        errors.Check("moistureWet", entry.MoistureWet, _moisture);
        errors.Check("bulkKgL", entry.BulkKgL, _bulk);
        errors.Check("usableShare", entry.UsableShare, _usable);
        errors.Check("burnKgYear", entry.BurnKgYear, _year);
        errors.Check("heatingDays", entry.HeatingDays, _days);
        if (errors.Any || fuel is not { } of)
            return null;
        var assumed = new Assumptions();
        if (entry.Fuel is null)
            assumed.Note("fuel", Word.Of(of), Mark.Assumption, "the common fuel");
        var ash = assumed.Or(entry.AshShare, "ashShare", ShareOf(of))
            * (1 - assumed.Or(entry.MoistureWet, "moistureWet", of == AshFuel.Coal ? Limit.Assumed(0, "", "its ash is stated as bought") : Flue.FlueLimits.Moisture));
        var pan = entry.PanL!.Value * assumed.Or(entry.UsableShare, "usableShare", Usable) * assumed.Or(entry.BulkKgL, "bulkKgL", BulkOf(of));
        var (day, year) = (entry.BurnKgDay!.Value * ash, (entry.BurnKgYear ?? entry.BurnKgDay!.Value * assumed.Or(entry.HeatingDays, "heatingDays", Season)) * ash);
        var days = day > 0 ? pan / day : (double?)null;
        return new(day, days, days is { } full ? (int)Math.Clamp(Math.Floor(full + Limit.Met), 1, int.MaxValue) : null, year, year / pan, assumed.Used);
    }
}
