using System.Globalization;

namespace Grate.Core.Service;

/// <summary>What a column of a list of households holds.</summary>
[JsonConverter(typeof(WordConverter<ListField>))]
public enum ListField
{
    /// <summary>Name of the household.</summary>
    Name,

    /// <summary>Telephone.</summary>
    Phone,

    /// <summary>Mail address.</summary>
    [Said("Mail")]
    Email,

    /// <summary>What to know.</summary>
    Note,

    /// <summary>Street and number.</summary>
    Street,

    /// <summary>Place.</summary>
    Place,

    /// <summary>Latitude, °.</summary>
    Latitude,

    /// <summary>Longitude, °.</summary>
    Longitude,

    /// <summary>Altitude, m.</summary>
    [Said("Altitude, m")]
    AltitudeM,

    /// <summary>Storeys of the house.</summary>
    Storeys,

    /// <summary>Kind of stove.</summary>
    [Said("Kind of stove")]
    Kind,

    /// <summary>Whether it has a combustor.</summary>
    Combustor,

    /// <summary>Model.</summary>
    Model,

    /// <summary>Serial number.</summary>
    [Said("Serial number")]
    Serial,

    /// <summary>Year the stove was made.</summary>
    [Said("Year made")]
    Year,

    /// <summary>Nominal output, kW.</summary>
    [Said("Output, kW")]
    NominalKw,

    /// <summary>Room.</summary>
    Room,

    /// <summary>Day of the last sweep.</summary>
    [Said("Last sweep")]
    LastSweep,
}

/// <summary>A row of a list as it is read.</summary>
/// <param name="Line">Its line in the file, the header being 1.</param>
/// <param name="Household">What it tells.</param>
/// <param name="LastSweep">Day of the last sweep; null where it is not told.</param>
/// <param name="Refused">What is wrong with it, in sentences; null where nothing is.</param>
public sealed record ListRow(int Line, NewHousehold Household, DateOnly? LastSweep, string? Refused);

/// <summary>A list of households from another program: its columns in any order, one row a stove.</summary>
public static class HouseholdList
{
    /// <summary>Most rows of a list.</summary>
    public const int MostRows = 50_000;

    /// <summary>Most columns.</summary>
    public const int MostColumns = 60;

    // What such columns are called in lists; letters alone, small.
    private static readonly Dictionary<ListField, string[]> _names = new()
    {
        [ListField.Name] = ["name", "household", "customer", "customername", "family", "kunde", "haushalt", "familie", "nachname"],
        [ListField.Phone] = ["phone", "telephone", "tel", "mobile", "phonenumber", "telefon", "telefonnummer", "handy", "mobil"],
        [ListField.Email] = ["email", "mail", "mailaddress", "emailaddress", "emailadresse"],
        [ListField.Note] = ["note", "notes", "remark", "remarks", "bemerkung", "notiz", "anmerkung"],
        [ListField.Street] = ["street", "address", "streetandnumber", "strasse", "straße", "adresse", "anschrift"],
        [ListField.Place] = ["place", "town", "city", "village", "ort", "wohnort", "stadt"],
        [ListField.Latitude] = ["latitude", "lat", "breite", "breitengrad"],
        [ListField.Longitude] = ["longitude", "lon", "lng", "long", "länge", "längengrad"],
        [ListField.AltitudeM] = ["altitude", "altitudem", "elevation", "höhe", "seehöhe"],
        [ListField.Storeys] = ["storeys", "stories", "floors", "geschosse", "stockwerke"],
        [ListField.Kind] = ["kind", "kindofstove", "stove", "stovetype", "type", "appliance", "ofen", "ofenart", "gerät", "art"],
        [ListField.Combustor] = ["combustor", "catalytic", "catalyst", "katalysator"],
        [ListField.Model] = ["model", "maker", "stovemodel", "modell", "hersteller", "marke", "typ"],
        [ListField.Serial] = ["serial", "serialnumber", "serialno", "seriennummer", "fabriknummer"],
        [ListField.Year] = ["year", "yearmade", "built", "baujahr", "jahr"],
        [ListField.NominalKw] = ["kw", "outputkw", "output", "nominalkw", "leistung", "nennleistung"],
        [ListField.Room] = ["room", "raum", "zimmer", "aufstellraum"],
        [ListField.LastSweep] = ["lastsweep", "lastswept", "swept", "lastservice", "letztekehrung", "gekehrt", "gekehrtam"],
    };

    private static readonly string[] _days = ["yyyy-MM-dd", "d.M.yyyy", "dd.MM.yyyy"];
    private static readonly string[] _yes = ["yes", "y", "true", "1", "x", "ja", "j"], _no = ["", "no", "n", "false", "0", "nein"];

    /// <summary>What each column probably holds, by its name; of two for one thing the first. "Tel." is a telephone, "Adresse" a street.</summary>
    public static IReadOnlyList<ListField?> Propose(IReadOnlyList<string> header)
    {
        var taken = new HashSet<ListField>();
        return [.. header.Select(column =>
        {
            var name = string.Concat(column.Where(char.IsLetter)).ToLowerInvariant();
            ListField? field = _names.Where(n => n.Value.Contains(name)).Select(n => (ListField?)n.Key).FirstOrDefault();
            return field is { } found && taken.Add(found) ? field : null;
        })];
    }

    /// <summary>Reads a row.</summary>
    /// <param name="line">Its line in the file.</param>
    /// <param name="cells">Its cells.</param>
    /// <param name="fields">What each column holds; null for nothing that is wanted.</param>
    /// <param name="usualKind">Word of the kind of stove where the row tells none.</param>
    /// <param name="whereIs">Where a place lies, where that is known.</param>
    /// <param name="today">Today.</param>
    /// <param name="system">Units of the refusals.</param>
    public static ListRow Read(int line, IReadOnlyList<string> cells, IReadOnlyList<ListField?> fields, string usualKind, Func<string, Whereabouts?> whereIs, DateOnly today, UnitSystem system)
    {
        var errors = new EntryErrors(system);
        string? Told(ListField field)
        {
            for (var i = 0; i < fields.Count; i++)
            {
                if (fields[i] == field)
                    return cells.ElementAtOrDefault(i)?.Trim() is { Length: > 0 } cell ? cell : null;
            }
            return null;
        }
        double? Number(ListField field)
        {
            if (Told(field) is not { } cell)
                return null;
            if (double.TryParse(Plain(cell, field), NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number))
                return number;
            errors.Add(Word.Of(field), $"{Word.Said(field)}: “{Short(cell)}” is no number.");
            return null;
        }
        int? Whole(ListField field)
        {
            if (Number(field) is not { } number)
                return null;
            if (number == Math.Round(number) && Math.Abs(number) < 1_000_000)
                return (int)number;
            errors.Add(Word.Of(field), $"{Word.Said(field)}: “{Short(Told(field)!)}” is no whole number.");
            return null;
        }
        DateOnly? swept = null;
        if (Told(ListField.LastSweep) is { } day)
        {
            if (!DateOnly.TryParseExact(day, _days, CultureInfo.InvariantCulture, DateTimeStyles.None, out var read))
                errors.Add("last-sweep", $"Last sweep: “{Short(day)}” is no day such as 2026-03-14 or 14.03.2026.");
            else if (read > today || read < today.AddYears(-60))
                errors.Add("last-sweep", $"Last sweep lies between {today.AddYears(-60):yyyy-MM-dd} and today; {read:yyyy-MM-dd} stands there.");
            else
                swept = read;
        }
        var combustor = Told(ListField.Combustor)?.ToLowerInvariant() ?? "";
        if (!_yes.Contains(combustor) && !_no.Contains(combustor))
            errors.Add("combustor", $"Combustor is yes or no; “{Short(combustor)}” stands there.");
        var stove = new NewStove(KindOf(Told(ListField.Kind) ?? usualKind), _yes.Contains(combustor), Told(ListField.Model), Told(ListField.Serial), Whole(ListField.Year), Told(ListField.Room), NominalKw: Number(ListField.NominalKw));
        var household = new NewHousehold(Told(ListField.Name), Told(ListField.Phone), Told(ListField.Email), Told(ListField.Note), Told(ListField.Street), Told(ListField.Place),
            Number(ListField.Latitude), Number(ListField.Longitude), Number(ListField.AltitudeM), null, Whole(ListField.Storeys), stove);
        if (!errors.Any)
        {
            household.Customer(Guid.Empty, errors);
            // What the list tells is held against the same rules as what is typed.
            if (household.House(Guid.Empty, whereIs(household.Place ?? ""), errors) is var (house, _))
                stove.In(Guid.Empty, house, today, errors);
        }
        return new(line, household, swept, errors.Any ? string.Join(" ", errors.ByField.SelectMany(e => e.Value)) : null);
    }

    /// <summary>By what a household may be known already: its telephone number and its address.</summary>
    /// <param name="phone">Digits of the number that every spelling has in common.</param>
    /// <param name="street">Street.</param>
    /// <param name="place">Place.</param>
    public static IEnumerable<string> Keys(string phone, string street, string place)
    {
        if (phone.Length >= 6)
            yield return phone;
        if (street.Trim().Length > 0)
            yield return $"{street.Trim().ToLowerInvariant()}\n{place.Trim().ToLowerInvariant()}";
    }

    // "1.250,5" and "1,250.5" say themselves which mark is which. A single one before three digits parts thousands where nobody measures to a
    // thousandth, an altitude or a year, and is the decimal mark of a latitude.
    private static string Plain(string cell, ListField field)
    {
        var number = cell.EndsWith(" m", StringComparison.OrdinalIgnoreCase) && field == ListField.AltitudeM ? cell[..^2].Trim() : cell;
        var (dot, comma) = (number.LastIndexOf('.'), number.LastIndexOf(','));
        if (dot >= 0 && comma >= 0)
            return number.Replace(dot < comma ? "." : ",", "", StringComparison.Ordinal).Replace(',', '.');
        var mark = Math.Max(dot, comma);
        var thousands = field is ListField.AltitudeM or ListField.Year or ListField.Storeys && mark is > 0 and <= 4 && number.Length - mark == 4;
        return thousands ? number.Remove(mark, 1) : number.Replace(',', '.');
    }

    private static string KindOf(string told) =>
        StoveKind.All.FirstOrDefault(k => string.Equals(k.Code, told, StringComparison.OrdinalIgnoreCase) || string.Equals(k.Name, told, StringComparison.OrdinalIgnoreCase))?.Code ?? told;

    private static string Short(string cell) => cell[..Math.Min(cell.Length, 40)];
}
