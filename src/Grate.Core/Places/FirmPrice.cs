namespace Grate.Core.Places;

/// <summary>What a firm prices for its sums on site.</summary>
[JsonConverter(typeof(WordConverter<PricedThing>))]
public enum PricedThing
{
    /// <summary>A maker's cut set of bricks.</summary>
    [Said("Cut set of bricks")]
    CutSet,

    /// <summary>A standard brick.</summary>
    [Said("Standard brick")]
    StandardBrick,

    /// <summary>A bag of castable.</summary>
    [Said("Bag of castable")]
    CastableBag,

    /// <summary>An hour of work.</summary>
    [Said("Hour of work")]
    Hour,

    /// <summary>A square metre of cement board, 12.7 mm.</summary>
    [Said("Cement board 12.7 mm, a m²")]
    CementBoard,

    /// <summary>A square metre of mineral board, 20 mm.</summary>
    [Said("Mineral board 20 mm, a m²")]
    MineralBoard,

    /// <summary>A square metre of tile, 9 mm.</summary>
    [Said("Tile 9 mm, a m²")]
    CeramicTile,

    /// <summary>A square metre of stone, 30 mm.</summary>
    [Said("Stone 30 mm, a m²")]
    Stone,

    /// <summary>A square metre of spacers for a gap of air, 25 mm.</summary>
    [Said("Spacers for 25 mm of air, a m²")]
    StillAir,
}

/// <summary>A price of the firm.</summary>
/// <param name="Thing">What it is of.</param>
/// <param name="Name">Its name.</param>
/// <param name="Price">The price, 0..1 000 000 of the firm's money; null where it has none.</param>
public sealed record FirmPrice(PricedThing Thing, string Name, double? Price);
