using Grate.Core.Stock;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>Rope, tape and cement of the demo firm: two vans with off-cuts, rolls in the store, what the valley's dealer sells, and its prices.</summary>
internal static class DemoStock
{
    private static readonly (int? Van, StockKind Kind, double? SizeMm, double Amount)[] _pieces =
    [
        (0, StockKind.Rope, 12, 1.10), (0, StockKind.Rope, 12, 2.50), (0, StockKind.Rope, 10, 0.84), (0, StockKind.Rope, 8, 1.65), (0, StockKind.Tape, 10, 2.20), (0, StockKind.Cement, null, 1.5),
        (1, StockKind.Rope, 12, 1.92), (1, StockKind.Rope, 14, 0.65), (1, StockKind.Tape, 10, 1.30), (1, StockKind.Cement, null, 1),
        (null, StockKind.Rope, 10, 25), (null, StockKind.Rope, 12, 18.4), (null, StockKind.Rope, 14, 10), (null, StockKind.Tape, 10, 30), (null, StockKind.Cement, null, 6),
    ];

    private static readonly (string Name, StockKind Kind, double SizeMm, double LengthM, double Price)[] _offers =
    [
        ("rope kit 10 mm, 2.1 m with cement", StockKind.Rope, 10, 2.1, 15), ("rope kit 12 mm, 1.8 m with cement", StockKind.Rope, 12, 1.8, 14), ("rope kit 12 mm, 2.5 m with cement", StockKind.Rope, 12, 2.5, 18),
        ("rope kit 14 mm, 2.5 m with cement", StockKind.Rope, 14, 2.5, 21), ("rope roll 12 mm, 25 m", StockKind.Rope, 12, 25, 92), ("glass tape 10 mm, 2 m", StockKind.Tape, 10, 2, 9),
    ];

    private static readonly (PricedThing Thing, double Price)[] _prices =
    [
        (PricedThing.CutSet, 96), (PricedThing.StandardBrick, 3.2), (PricedThing.CastableBag, 34), (PricedThing.Hour, 52), (PricedThing.CementBoard, 14),
        (PricedThing.MineralBoard, 31), (PricedThing.CeramicTile, 22), (PricedThing.Stone, 60), (PricedThing.StillAir, 7),
    ];

    public static async Task LoadAsync(NpgsqlConnection connection, IReadOnlyList<Guid> technicians, DateTimeOffset now)
    {
        foreach (var (van, kind, size, amount) in _pieces)
            await StockStore.AddAsync(connection, new StockPiece(Guid.CreateVersion7(), van is { } of ? technicians[of] : null, kind, size, amount, 1), "counted at the start", technicians[0], now.AddDays(-12));
        foreach (var (name, kind, size, length, price) in _offers)
            await StockStore.KeepOfferAsync(connection, new StockOffer(Guid.CreateVersion7(), name, kind, size, length, price));
        foreach (var (thing, price) in _prices)
            await PriceStore.SetAsync(connection, thing, price, technicians[0], now.AddDays(-12));
    }
}
