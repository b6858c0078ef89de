using Grate.Core.Door;

namespace Grate.Core.Stock;

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
}

/// <summary>What happened to a piece.</summary>
[JsonConverter(typeof(WordConverter<StockMove>))]
public enum StockMove
{
    /// <summary>It came in.</summary>
    Added,

    /// <summary>Something of it was used.</summary>
    Used,

    /// <summary>It was counted or measured.</summary>
    Counted,

    /// <summary>What the book said was wrong.</summary>
    Corrected,

    /// <summary>It went to another van, or to or from the store.</summary>
    Moved,

    /// <summary>What was cut from it is of no use: its seal is to be cut again.</summary>
    Spoilt,
}

/// <summary>What is to happen to a piece.</summary>
/// <param name="SaveId">UUIDv7 of the client: sent twice it happens once.</param>
/// <param name="BaseVersion">Version that the client saw.</param>
/// <param name="Move">used, counted, corrected or moved.</param>
/// <param name="Amount">What was used, or what is there: m, of cement tubes.</param>
/// <param name="Note">What for, or what was wrong: needed for a correction; up to 200 characters.</param>
/// <param name="VanId">Whose van it goes to; null for the store.</param>
public sealed record StockChange(Guid SaveId, int BaseVersion, [property: Words(typeof(StockMove))] string? Move = null, double? Amount = null, string? Note = null, Guid? VanId = null);

/// <summary>A piece of rope or tape, or cement, in a van or in the store.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="VanId">Whose van; null for the store.</param>
/// <param name="Kind">What it is.</param>
/// <param name="SizeMm">Diameter of the rope or width of the tape, mm, 3..30; null for cement.</param>
/// <param name="Amount">What is there: m, of cement tubes; 0..100.</param>
/// <param name="Version">Rises with every change.</param>
public sealed record StockPiece(Guid Id, Guid? VanId, StockKind Kind, double? SizeMm, double Amount, int Version)
{
    /// <summary>Most characters of a note.</summary>
    public const int LongestNote = 200;

    private static readonly EntryRange _tubes = new("Tubes of cement", Quantity.Ratio, 0, 100);
    private static readonly EntryRange _length = new("Length of the piece", Quantity.Length, 0, 100);

    /// <summary>A new piece, or null with sentences in <paramref name="errors"/>.</summary>
    /// <param name="id">UUIDv7 of the client.</param>
    /// <param name="vanId">Whose van; null for the store.</param>
    /// <param name="kind">Word of its kind.</param>
    /// <param name="sizeMm">Size of rope or tape, mm.</param>
    /// <param name="amount">Length, m, or tubes: more than nothing.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static StockPiece? New(Guid id, Guid? vanId, string? kind, double? sizeMm, double? amount, EntryErrors errors)
    {
        errors.CheckId("id", id, "A piece");
        if (errors.Need<StockKind>("kind", kind, "Kind") is not { } known)
            return null;
        if (known != StockKind.Cement)
            errors.Need("sizeMm", sizeMm, DoorRanges.RopeSize);
        if (errors.Need("amount", amount, Range(known)) && amount <= 0)
            errors.Add("amount", $"{Range(known).Name}: more than nothing is added.");
        return errors.Any ? null : new(id, vanId, known, known == StockKind.Cement ? null : sizeMm, amount!.Value, 1);
    }

    /// <summary>The piece after a change, or null with sentences in <paramref name="errors"/>. 0.74 m used of 1.10 m leave 0.36 m.</summary>
    public StockPiece? After(StockChange change, EntryErrors errors)
    {
        errors.CheckId("saveId", change.SaveId, "A save");
        var move = errors.Need<StockMove>("move", change.Move, "What happened");
        errors.CheckText("note", change.Note, "Note", LongestNote, needed: move == StockMove.Corrected);
        if (move is StockMove.Added or StockMove.Spoilt)
            errors.Add("move", "A piece is used, counted, corrected or moved.");
        if (move == StockMove.Moved && change.VanId == VanId)
            errors.Add("vanId", "It lies there already.");
        if (move is StockMove.Used or StockMove.Counted or StockMove.Corrected)
            errors.Need("amount", change.Amount, Range(Kind));
        if (errors.Any)
            return null;
        return move switch
        {
            StockMove.Moved => this with { VanId = change.VanId, Version = Version + 1 },
            StockMove.Used => Less(change.Amount!.Value, "amount", errors),
            _ => this with { Amount = change.Amount!.Value, Version = Version + 1 },
        };
    }

    /// <summary>The piece with something taken from it; null where it does not hold so much.</summary>
    public StockPiece? Less(double amount, string field, EntryErrors errors)
    {
        if (amount <= Amount + Limit.Met)
            return this with { Amount = Math.Max(0, Math.Round(Amount - amount, 4)), Version = Version + 1 };
        errors.Add(field, $"Only {Units.Of(Range(Kind).Quantity, UnitSystem.Metric).Format(Amount)} are left of it.");
        return null;
    }

    /// <summary>Its name.</summary>
    public string Named(UnitSystem system) => Named(Kind, SizeMm, system);

    /// <summary>What a thing is called: "12 mm rope", among inches "1/2 in rope"; "cement".</summary>
    public static string Named(StockKind kind, double? sizeMm, UnitSystem system) => sizeMm is { } size ? $"{Rope.Named(size, system)} {Word.Of(kind)}" : Word.Of(kind);

    private static EntryRange Range(StockKind kind) => kind == StockKind.Cement ? _tubes : _length;
}

/// <summary>A whole piece that can be bought, in any number.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Its name: "kit 2.5 m with cement".</param>
/// <param name="Kind">Rope or tape.</param>
/// <param name="SizeMm">Size, mm, 3..30.</param>
/// <param name="LengthM">Length, m, 0.01..100.</param>
/// <param name="Price">Price in the firm's money, 0..1 000 000.</param>
public sealed record StockOffer(Guid Id, string Name, StockKind Kind, double SizeMm, double LengthM, double Price);
