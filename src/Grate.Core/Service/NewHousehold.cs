using Grate.Core.Flue;

namespace Grate.Core.Service;

/// <summary>A stove as it is told of before anybody saw it; what is left out is taken as usual for its kind.</summary>
/// <param name="Kind">Word of the kind.</param>
/// <param name="Combustor">Whether it has a catalytic combustor.</param>
/// <param name="Model">Maker and model as its plate says, up to 200 characters.</param>
/// <param name="Serial">Serial number, up to 100 characters.</param>
/// <param name="Year">Year it was made, 1800..2200.</param>
/// <param name="Room">Room, up to 100 characters.</param>
/// <param name="Storey">Storey it stands on, 0 for the lowest.</param>
/// <param name="NominalKw">Nominal output, kW.</param>
/// <param name="LabelMinPa">Label minimum draft, Pa.</param>
/// <param name="LabelMaxPa">Label maximum draft, Pa.</param>
/// <param name="CollarHeightM">Collar above the floor, m.</param>
/// <param name="CollarM">Inside diameter of the collar, m, 0.08..0.4.</param>
/// <param name="Flue">Word of a usual system.</param>
public sealed record NewStove(string? Kind = null, bool? Combustor = null, string? Model = null, string? Serial = null, int? Year = null, string? Room = null, int? Storey = null, double? NominalKw = null,
    double? LabelMinPa = null, double? LabelMaxPa = null, double? CollarHeightM = null, double? CollarM = null, string? Flue = null)
{
    private sealed record Usual(double Kw, double CollarHeightM, double CollarM, string Flue);

    // What stands in most houses [A]; each is confirmed on site.
    private static Usual UsualOf(string kind) => kind switch
    {
        "insert" => new(8, 0.90, 0.15, "liner-insulated"),
        "zero-clearance" => new(10, 1.10, 0.20, "inside-50"),
        "multi-fuel" => new(6, 0.70, 0.15, "clay"),
        StoveKind.MasonryHeater => new(12, 1.00, 0.18, "clay"),
        "cookstove" => new(8, 0.85, 0.15, "brick"),
        "top-loader" => new(9, 0.75, 0.15, "inside-50"),
        _ => new(7, 0.80, 0.15, "inside-50"),
    };

    /// <summary>The stove alone, on a flue that is there.</summary>
    /// <param name="id">Its id, made by the client.</param>
    /// <param name="house">Where it stands.</param>
    /// <param name="today">Today at the firm's place.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <returns>The stove and the fields that nobody told, or null.</returns>
    public (Stove Stove, IReadOnlyList<string> Assumed)? On(Guid id, House house, DateOnly today, EntryErrors errors)
    {
        if (StoveKind.Find(Kind) is not { } kind)
        {
            errors.Add("kind", Word.OneOf("Kind", Kind, StoveKind.All.Select(k => k.Code)));
            return null;
        }
        errors.CheckText("serial", Serial, "Serial number", 100);
        errors.Check("collarM", CollarM, StoveLabel.CollarRange);
        var usual = UsualOf(kind.Code);
        var assumed = new List<string>();
        T Or<T>(T? told, string field, T instead) where T : struct
        {
            if (told is null)
                assumed.Add(field);
            return told ?? instead;
        }
        var storey = Storey ?? 0;
        var stove = new Stove(id, kind.Code, Combustor == true, string.IsNullOrWhiteSpace(Model) ? kind.Name : Model.Trim(), Or(Year, "year", today.Year - 15),
            string.IsNullOrWhiteSpace(Room) ? house.StoreyNames.ElementAtOrDefault(storey) ?? "" : Room.Trim(), Or(NominalKw, "nominalKw", usual.Kw), LabelMinPa, LabelMaxPa, storey,
            Or(CollarHeightM, "collarHeightM", usual.CollarHeightM));
        if (string.IsNullOrWhiteSpace(Model))
            assumed.Add("model");
        stove.Check(house, errors);
        return errors.Any ? null : (stove with { Label = new(CollarM: CollarM) }, assumed);
    }

    /// <summary>The stove with a usual flue.</summary>
    /// <param name="id">Its id, made by the client.</param>
    /// <param name="house">Where it stands.</param>
    /// <param name="today">Today at the firm's place.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <returns>The stove, its flue and the fields that nobody told, or null.</returns>
    public (Stove Stove, FlueVersion Flue, IReadOnlyList<string> Assumed)? In(Guid id, House house, DateOnly today, EntryErrors errors)
    {
        if (On(id, house, today, errors) is not var (stove, told))
            return null;
        var (usual, assumed) = (UsualOf(stove.Kind), told.ToList());
        if (CollarM is null)
            assumed.Add("collarM");
        var flues = TypicalFlue.For(house.Outline(), stove.StandsAt(house, 0).CollarM, CollarM ?? usual.CollarM);
        if (Flue is not null && !flues.Any(f => f.Code == Flue))
        {
            errors.Add("flue", Word.OneOf("Flue", Flue, flues.Select(f => f.Code)));
            return null;
        }
        // A usual flue is a starting point even where its kind was told: nobody measured it.
        assumed.Add("flue");
        var flue = flues.Single(f => f.Code == (Flue ?? usual.Flue));
        if (flue.Flue.Segments!.Any(s => s.RiseM < 0 || s.LengthM < 0.02))
        {
            errors.Add("storey", "A usual flue does not fit there: the collar stands above the eaves. Choose a lower storey, or enter the storeys that are there.");
            return null;
        }
        return (stove, new FlueVersion(Guid.CreateVersion7(), 1, today, flue.StoveXM, flue.Flue), assumed);
    }
}

/// <summary>A household as it is told of on the telephone; what is left out is taken as usual, and confirmed on site.</summary>
/// <param name="Name">Name, 1 to 200 characters.</param>
/// <param name="Phone">Phone.</param>
/// <param name="Email">Mail address.</param>
/// <param name="Note">What to know: dog, key, parking, ladder.</param>
/// <param name="Street">Street and number.</param>
/// <param name="Place">Place.</param>
/// <param name="Latitude">°; that of the place where it is known.</param>
/// <param name="Longitude">°.</param>
/// <param name="AltitudeM">m.</param>
/// <param name="BuiltEra">Word of the era; before 1980 where nothing is told.</param>
/// <param name="Storeys">Storeys, 1 to 4.</param>
/// <param name="Stove">Its stove.</param>
/// <param name="Contacts">Who else is called.</param>
/// <param name="Language">Code of their language.</param>
/// <param name="Wish">When they want a visit.</param>
public sealed record NewHousehold(string? Name = null, string? Phone = null, string? Email = null, string? Note = null, string? Street = null, string? Place = null, double? Latitude = null, double? Longitude = null,
    double? AltitudeM = null, string? BuiltEra = null, int? Storeys = null, NewStove? Stove = null, IReadOnlyList<Contact>? Contacts = null, string? Language = null, VisitWish? Wish = null)
{
    /// <summary>Height of a storey [A].</summary>
    public const double StoreyM = 2.6;

    private const double WidthM = 9, RoofPitchDeg = 40;
    private const int MostStoreys = 4;
    private static readonly string[] _storeys = ["living room", "bedroom", "upper room", "top room"];

    /// <summary>Whose it is.</summary>
    /// <param name="id">Its id, made by the client.</param>
    /// <param name="errors">Takes the refusals.</param>
    public Customer Customer(Guid id, EntryErrors errors)
    {
        var customer = new Customer(id, Name ?? "", Phone ?? "", Email ?? "", Note ?? "", Contacts, Language ?? "", Wish);
        customer.Check(errors);
        return errors.Any ? customer : customer.Tidy();
    }

    /// <summary>The house, usual where nothing was told.</summary>
    /// <param name="id">Its id.</param>
    /// <param name="known">Where its place lies; null where the firm knows neither that nor where itself is.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <returns>The house and the fields that nobody told, or null.</returns>
    public (House House, IReadOnlyList<string> Assumed)? House(Guid id, Whereabouts? known, EntryErrors errors)
    {
        var assumed = new List<string>();
        if ((Latitude ?? known?.Latitude, Longitude ?? known?.Longitude) is not ({ } latitude, { } longitude))
        {
            errors.Add("latitude", "Where it lies is not known: enter latitude (−90 to 90°) and longitude (−180 to 180°), or the firm's own under Firm.");
            return null;
        }
        if (Storeys is < 1 or > MostStoreys)
        {
            errors.Add("storeys", $"Storeys: 1 to {MostStoreys}; {Storeys} were entered.");
            return null;
        }
        if (Latitude is null || Longitude is null)
            assumed.Add("latitude");
        if (AltitudeM is null)
            assumed.Add("altitudeM");
        if (BuiltEra is null)
            assumed.Add("builtEra");
        if (Storeys is null)
            assumed.Add("storeyNames");
        var altitude = AltitudeM ?? known?.AltitudeM ?? Climate.Nearest(latitude, longitude).AltitudeM;
        var storeys = Storeys ?? 2;
        // Of these nobody is asked on the telephone.
        assumed.AddRange(["volumeM3", "widthM", "roofPitchDeg", "monthlyC"]);
        var house = new House(id, Street?.Trim() ?? "", Place?.Trim() ?? "", latitude, longitude, altitude, WidthM * WidthM * StoreyM * storeys, null, BuiltEra ?? Places.House.Eras[0].Code,
            Climate.MonthlyC(Math.Clamp(latitude, -90, 90), longitude, Math.Clamp(altitude, -430, 5000)), [.. _storeys.Take(storeys)], [.. Enumerable.Repeat(StoreyM, storeys)], WidthM, RoofPitchDeg, 0, []);
        house.Check(errors);
        return errors.Any ? null : (house, assumed);
    }
}

/// <summary>What was taken as usual and waits for somebody's eyes.</summary>
public static class Unconfirmed
{
    private static readonly Dictionary<string, string> _names = new()
    {
        ["latitude"] = "where the house stands: its place's middle",
        ["altitudeM"] = "altitude: that of its place",
        ["builtEra"] = "era of the house: before 1980",
        ["storeyNames"] = "storeys: two of 2.6 m",
        ["volumeM3"] = "volume of the house: from an ordinary ground plan",
        ["widthM"] = "width of the house: an ordinary one",
        ["roofPitchDeg"] = "pitch of the roof: 40°",
        ["monthlyC"] = "climate: of the nearest known place",
        ["year"] = "year of the stove: fifteen years ago",
        ["nominalKw"] = "output: usual for its kind",
        ["collarHeightM"] = "height of the collar: usual for its kind",
        ["collarM"] = "diameter of the collar: usual for its kind",
        ["model"] = "model: its kind alone is known",
        ["flue"] = "the flue: a usual system, not measured",
    };

    /// <summary>Every field that can be unconfirmed.</summary>
    public static IReadOnlyCollection<string> Fields => _names.Keys;

    /// <summary>What is said of a field.</summary>
    public static string Say(string field) => _names[field];
}
