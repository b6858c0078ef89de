namespace Grate.Store.Demo;

/// <summary>Thirty-six stoves over all seven kinds, with and without combustor.</summary>
internal static class DemoStoves
{
    private sealed record Pattern(string Kind, bool Combustor, string Model, double Kw, double? MinPa, double? MaxPa, double CollarM, double DiameterM, int[] Flues);

    private static readonly Pattern[] _patterns =
    [
        new("steel", false, "Box stove, tubes and board", 7, 12, 28, 0.80, 0.15, [0, 1, 6, 5]),
        new("top-loader", true, "Top-loader, bypass and combustor", 9, 12, 35, 0.75, 0.15, [0, 1, 3]),
        new("insert", false, "Insert, tubes and stones", 8, 12, 30, 0.90, 0.15, [4, 8]),
        new("zero-clearance", false, "Built-in fireplace, numbered stones", 10, 12, 40, 1.10, 0.20, [0, 3, 5]),
        new("multi-fuel", false, "Grate stove for wood and coal", 6, 12, 35, 0.70, 0.15, [2, 0, 8]),
        new("masonry-heater", false, "Tile heater, five channels", 12, 10, 30, 1.00, 0.18, [2]),
        new("cookstove", false, "Kitchen range, oven left", 8, 12, null, 0.85, 0.15, [7]),
        new("insert", true, "Insert, rear combustor", 9, 13, 35, 0.90, 0.15, [4, 8]),
        new("steel", true, "Box stove with combustor", 8, null, null, 0.78, 0.15, [3, 5, 1]),
    ];

    // Which stove hides what, by number.
    private static readonly Dictionary<int, DemoFault> _faults = new()
    {
        [0] = DemoFault.CapClogged,
        [4] = DemoFault.LeakingJoint,
        [9] = DemoFault.TightHouse,
        [13] = DemoFault.Glaze,
        [18] = DemoFault.CapClogged,
        [22] = DemoFault.BaffleGone,
        [27] = DemoFault.LeakingJoint,
        [31] = DemoFault.TightHouse,
    };

    public const int Count = 36;

    // The second stove of a two-storey house.
    private const int UpstairsStove = 34;

    public static DemoStove Build(int number, DemoHouse house, Random random)
    {
        var pattern = _patterns[number % _patterns.Length];
        // Where a house has a storey above, one stove stands up there.
        var storey = number == UpstairsStove ? 1 : 0;
        var (x, flue) = DemoFlues.Build(pattern.Flues[number / _patterns.Length % pattern.Flues.Length], house.House.Outline(),
            storey * DemoValley.StoreyM + pattern.CollarM, pattern.DiameterM);
        return new DemoStove(pattern.Kind, pattern.Combustor, pattern.Model, 1996 + random.Next(28), pattern.Kw,
            pattern.MinPa, pattern.MaxPa, storey, pattern.CollarM, x, flue, _faults.GetValueOrDefault(number));
    }
}
