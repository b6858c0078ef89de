namespace Grate.Core.Visits;

/// <summary>What lies in a van or in the store.</summary>
[JsonConverter(typeof(WordConverter<StockKind>))]
public enum StockKind
{
    /// <summary>A piece of rope, m.</summary>
    Rope,

    /// <summary>A piece of flat tape, m.</summary>
    Tape,

    /// <summary>Tubes of cement, by count; halves count.</summary>
    Cement,

    /// <summary>Bricks of the lining.</summary>
    [Said("Bricks")]
    Brick,

    /// <summary>Bags of castable.</summary>
    Castable,

    /// <summary>Baffles and their boards.</summary>
    Baffle,

    /// <summary>Air tubes.</summary>
    [Said("Air tube")]
    Tube,

    /// <summary>Combustors.</summary>
    Combustor,

    /// <summary>Flue probes.</summary>
    [Said("Flue probe")]
    Probe,

    /// <summary>Pieces of outside duct, by their size.</summary>
    [Said("Outside duct")]
    Duct,

    /// <summary>Heat shields with their spacers.</summary>
    [Said("Heat shield")]
    Shield,

    /// <summary>Boards for the floor under a stove.</summary>
    [Said("Hearth board")]
    HearthBoard,

    /// <summary>Anything else: what it is stands in words.</summary>
    [Said("Another part")]
    Other,
}
