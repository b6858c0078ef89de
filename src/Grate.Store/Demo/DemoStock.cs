using Dapper;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>Stock of the demo firm: two vans with off-cuts, rolls in the store, what three dealers of the valley sell, and its prices.</summary>
internal static class DemoStock
{
    private static readonly (int? Van, StockKind Kind, double? SizeMm, double Amount)[] _pieces =
    [
        (0, StockKind.Rope, 12, 1.10), (0, StockKind.Rope, 12, 2.50), (0, StockKind.Rope, 10, 0.84), (0, StockKind.Rope, 8, 1.65), (0, StockKind.Tape, 10, 2.20), (0, StockKind.Cement, null, 1.5),
        (1, StockKind.Rope, 12, 1.92), (1, StockKind.Rope, 14, 0.65), (1, StockKind.Tape, 10, 1.30), (1, StockKind.Cement, null, 1),
        (null, StockKind.Rope, 10, 25), (null, StockKind.Rope, 12, 18.4), (null, StockKind.Rope, 14, 10), (null, StockKind.Tape, 10, 30), (null, StockKind.Cement, null, 6), (null, StockKind.Brick, null, 14), (null, StockKind.Castable, null, 2), (null, StockKind.Probe, null, 1),
    ];

    private const string Valley = "Valley Stove Trade", Clay = "Lower Lehn Brickworks", Bend = "Four Bridges Flues";

    private static readonly (string Name, StockKind Kind, double? SizeMm, double Amount, double Price, string Supplier, int LeadDays)[] _offers =
    [
        ("rope kit 10 mm, 2.1 m with cement", StockKind.Rope, 10, 2.1, 15, Valley, 3), ("rope kit 12 mm, 1.8 m with cement", StockKind.Rope, 12, 1.8, 14, Valley, 3), ("rope kit 12 mm, 2.5 m with cement", StockKind.Rope, 12, 2.5, 18, Valley, 3),
        ("rope kit 14 mm, 2.5 m with cement", StockKind.Rope, 14, 2.5, 21, Valley, 3), ("rope roll 12 mm, 25 m", StockKind.Rope, 12, 25, 92, Valley, 5), ("glass tape 10 mm, 2 m", StockKind.Tape, 10, 2, 9, Valley, 3),
        ("cement, box of 6 tubes", StockKind.Cement, null, 6, 39, Valley, 3), ("bricks 9 × 4½ × 1¼ in, box of 6", StockKind.Brick, null, 6, 19, Clay, 7), ("bricks 9 × 4½ × 1¼ in, pallet of 96", StockKind.Brick, null, 96, 230, Clay, 16),
        ("castable, bag of 25 kg", StockKind.Castable, null, 1, 34, Clay, 7), ("vermiculite baffle, cut to size", StockKind.Baffle, null, 1, 48, Clay, 9), ("air tube, stainless", StockKind.Tube, null, 1, 36, Bend, 12),
        ("combustor, ceramic", StockKind.Combustor, null, 1, 190, Bend, 21), ("flue probe", StockKind.Probe, null, 1, 24, Bend, 4), ("duct 100 mm, 3 m with hood and screen", StockKind.Duct, 100, 1, 44, Bend, 4),
        ("duct 125 mm, 3 m with hood and screen", StockKind.Duct, 125, 1, 52, Bend, 4), ("duct 150 mm, 3 m with hood and screen", StockKind.Duct, 150, 1, 61, Bend, 6), ("heat shield, 1 m², spacers 25 mm", StockKind.Shield, null, 1, 70, Bend, 6),
        ("hearth board 12.7 mm, 1 m²", StockKind.HearthBoard, null, 1, 14, Valley, 3),
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
        foreach (var (name, kind, size, amount, price, supplier, lead) in _offers)
        {
            // Cement dries out and castable takes up damp; of cement a box is kept.
            await StockStore.KeepOfferAsync(connection, new StockOffer(Guid.CreateVersion7(), name, kind, size, amount, price, supplier, $"orders@{supplier.ToLowerInvariant().Replace(' ', '-')}.example", lead,
                kind == StockKind.Cement ? amount : 0, kind switch { StockKind.Cement => 24, StockKind.Castable => 12, _ => null }));
        }
        // Combustors of one batch on every catalytic stove, and the door ropes of the oldest ones.
        await connection.ExecuteAsync("""
            insert into fitted_parts (id, appliance_id, kind, name, batch, fitted_on, warranty_until, at, by)
            select gen_random_uuid(), a.id, p.kind, p.name, p.batch, (@now - p.age * interval '1 day')::date, case when p.kind = 'combustor' then (@now - p.age * interval '1 day')::date + 1826 end, @now, @by
            from (select id, combustor, row_number() over (order by id) as n from appliances) a
            join (values ('combustor', 'combustor, ceramic', 'C-2207', true, 760), ('rope', 'door rope 12 mm', 'R-118', false, 1530)) as p(kind, name, batch, catalytic, age) on p.catalytic = a.combustor and (a.combustor or a.n % 6 = 0)
            """, new { now, by = technicians[0] });
        foreach (var (thing, price) in _prices)
            await PriceStore.SetAsync(connection, thing, price, technicians[0], now.AddDays(-12));
    }
}
