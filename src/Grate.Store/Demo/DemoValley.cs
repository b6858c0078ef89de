namespace Grate.Store.Demo;

/// <summary>Someone of the demo firm; only the three with an address of their own can sign in.</summary>
internal sealed record DemoPerson(string Name, string Role, string Email, bool SignsIn);

/// <summary>A household with its house.</summary>
internal sealed record DemoHouse(string Customer, string Phone, House House);

/// <summary>A stove with its flue, and what is hidden in it.</summary>
internal sealed record DemoStove(
    string Kind, bool Combustor, string Model, int Year, double Kw, double? MinPa, double? MaxPa,
    int Storey, double CollarM, double StoveXM, FlueEntry Flue, DemoFault Fault)
{
    public Stove Stove(DemoHouse at) => new(Guid.CreateVersion7(), Kind, Combustor, Model, Year, at.House.StoreyNames[Storey], Kw, MinPa, MinPa is null ? null : MaxPa, Storey, CollarM);
}

/// <summary>What is wrong with a demo stove from a year on, until it is found.</summary>
internal enum DemoFault
{
    None,
    CapClogged,
    LeakingJoint,
    TightHouse,
    Glaze,
    BaffleGone,
}

/// <summary>The invented valley: names, places, houses. Nothing here is real.</summary>
internal static class DemoValley
{
    public const string FirmName = "Tarnwick Stove Service";
    public const string Place = "Tarnwick";
    public const string TimeZone = "Europe/Vienna";

    // A small firm: most of its week goes into repairs and new stoves.
    public const double ServiceHoursWeek = 5;

    public const double StoreyM = 2.6;

    public static readonly Whereabouts Home = new(47.10, 10.20, 640);

    public static readonly Firm OurFirm = new(FirmName, Place, TimeZone, 12, ServiceHoursWeek, true,
        Contact: new("0555 0142", "service@tarnwick-stoves.example", "3 Forge Lane\n5550 Tarnwick", "112"));

    public const string Password = "draught-and-ember";

    public static readonly DemoPerson[] People =
    [
        new("Ida Varnholt", "technician", "technician@demo.example", true),
        new("Jorun Pellow", "technician", "jorun@demo.example", false),
        new("Marit Oakensen", "technician", "marit@demo.example", false),
        new("Sela Thornby", "office", "office@demo.example", true),
        new("Tobin Ashcombe", "owner", "owner@demo.example", true),
    ];

    private static readonly string[] _names =
    [
        "Anwick", "Birchall", "Cobham-Lee", "Dunmoor", "Eskby", "Farrowin", "Gellard", "Hask", "Ivelet", "Jessop-Rey",
        "Kettlin", "Lowmoor", "Mardle", "Nethering", "Orrin", "Pasker", "Quillan", "Rushby", "Selwyth", "Tarrant-Ings",
        "Ulverin", "Vesper", "Wendlow", "Yarrowin", "Zellick", "Brackenby", "Croftin", "Dellmore", "Eldwick", "Fennimor",
        "Garthwin", "Hollinby",
    ];

    private static readonly string[] _streets =
        ["Weir Bank", "Mill Steps", "Kiln Lane", "Upper Green", "Chapel Rise", "Tannery Row", "Sheepwash", "Long Meadow"];

    private static readonly (string Name, double Lat, double Lon, double Altitude)[] _places =
    [
        ("Tarnwick", 47.10, 10.20, 610), ("Sallowby", 47.13, 10.24, 655), ("Oxlow", 47.08, 10.15, 590),
        ("High Fernby", 47.16, 10.29, 940), ("Millhollow", 47.05, 10.11, 560),
    ];

    private static readonly string[][] _storeys =
        [["living room", "bedroom"], ["living room"], ["living room", "bedroom"], ["kitchen", "bedroom", "upper room"]];

    // Only one house has its stove in a cellar.
    private const int CellarHouse = 6;

    private static readonly string[] _cellar = ["cellar", "kitchen", "bedroom"];

    private static readonly Obstacle[][] _around =
        [[], [new("spruce", 8.6, 2.6, 6.6)], [], [], [new("neighbour's gable", -2.4, 3.2, 5.4)], [], [new("old lime", 8.9, 3.6, 8.8)]];

    private static readonly string[] _eras = ["before-1980", "to-2005", "later", "before-1980", "low-energy"];

    private static readonly double[] _valleyC = [-2, 0, 4, 8, 13, 16, 18, 17, 14, 9, 3, -1];

    public static DemoHouse House(int index, Random random)
    {
        var place = _places[index % _places.Length];
        var storeys = index == CellarHouse ? _cellar : _storeys[index % _storeys.Length];
        var (customer, phone, widthM) = ($"{_names[index]} household", $"0555 01{index:00} {random.Next(10, 99)}", 6 + index % 3);
        return new DemoHouse(customer, phone, new House(Guid.CreateVersion7(),
            $"{1 + random.Next(48)} {_streets[index % _streets.Length]}", place.Name,
            place.Lat + random.NextDouble() * 0.02, place.Lon + random.NextDouble() * 0.02,
            Math.Round(place.Altitude + random.NextDouble() * 60), widthM * widthM * storeys.Length * StoreyM, null, _eras[index % _eras.Length],
            [.. _valleyC.Select(c => Math.Round(c - (place.Altitude - 600) * 0.006, 1))], storeys, [.. storeys.Select(_ => StoreyM)],
            widthM, 40 + 5 * (index % 2), index == CellarHouse ? 2.2 : 0, _around[index % _around.Length]));
    }
}
