using Grate.Core.Door;

namespace Grate.Core.Stock;

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

/// <summary>A piece of rope or tape, or a number of something else, in a van or in the store.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="VanId">Whose van; null for the store.</param>
/// <param name="Kind">What it is.</param>
/// <param name="SizeMm">Diameter of the rope, width of the tape, mm, 3..30, or size of the duct, mm, 30..400; null for what has no size.</param>
/// <param name="Amount">What is there: m of rope and tape, 0..100; pieces of anything else, 0..1000.</param>
/// <param name="Version">Rises with every change.</param>
/// <param name="Batch">Batch or serial number, up to 60 characters; empty where it bears none.</param>
/// <param name="BestBefore">Last day on which it is good; null where it keeps.</param>
public sealed record StockPiece(Guid Id, Guid? VanId, StockKind Kind, double? SizeMm, double Amount, int Version, string Batch = "", DateOnly? BestBefore = null)
{
    /// <summary>Most characters of a note.</summary>
    public const int LongestNote = 200;

    private static readonly EntryRange _tubes = new("Tubes of cement", Quantity.Ratio, 0, 100);
    private static readonly EntryRange _pieces = new("Pieces", Quantity.Ratio, 0, 1000);
    private static readonly EntryRange _length = new("Length of the piece", Quantity.Length, 0, 100);
    private static readonly EntryRange _duct = new("Size of the duct", Quantity.Bore, 30, 400, 0.001);

    /// <summary>Whether it is cut to length, and never joined.</summary>
    public static bool IsCut(StockKind kind) => kind is StockKind.Rope or StockKind.Tape;

    /// <summary>What sizes a kind comes in; null where it has none.</summary>
    public static EntryRange? Sizes(StockKind kind) => IsCut(kind) ? DoorRanges.RopeSize : kind == StockKind.Duct ? _duct : null;

    /// <summary>A new piece, or null with sentences in <paramref name="errors"/>.</summary>
    /// <param name="id">UUIDv7 of the client.</param>
    /// <param name="vanId">Whose van; null for the store.</param>
    /// <param name="kind">Word of its kind.</param>
    /// <param name="sizeMm">Size of rope or tape, mm.</param>
    /// <param name="amount">Length, m, or tubes: more than nothing.</param>
    /// <param name="batch">Batch or serial number.</param>
    /// <param name="bestBefore">Last day on which it is good.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static StockPiece? New(Guid id, Guid? vanId, string? kind, double? sizeMm, double? amount, string? batch, DateOnly? bestBefore, EntryErrors errors)
    {
        errors.CheckId("id", id, "A piece");
        errors.CheckText("batch", batch, "Batch or serial", FittedPart.LongestBatch);
        if (bestBefore is { Year: < 2000 or > 2200 })
            errors.Add("bestBefore", "The last good day lies between the years 2000 and 2200.");
        if (errors.Need<StockKind>("kind", kind, "Kind") is not { } known)
            return null;
        if (Sizes(known) is { } sizes)
            errors.Need("sizeMm", sizeMm, sizes);
        if (errors.Need("amount", amount, Range(known)) && amount <= 0)
            errors.Add("amount", $"{Range(known).Name}: more than nothing is added.");
        return errors.Any ? null : new(id, vanId, known, Sizes(known) is null ? null : sizeMm, amount!.Value, 1, batch?.Trim() ?? "", bestBefore);
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

    /// <summary>What a thing is called: "12 mm rope", among inches "1/2 in rope"; "cement", "flue probe".</summary>
    public static string Named(StockKind kind, double? sizeMm, UnitSystem system)
    {
        var name = Word.Said(kind).ToLowerInvariant();
        return sizeMm is not { } size ? name : $"{(IsCut(kind) ? Rope.Named(size, system) : Units.Of(Quantity.Bore, system).Format(size / 1000))} {name}";
    }

    /// <summary>How much of a kind a piece or a pack may hold.</summary>
    public static EntryRange Range(StockKind kind) => IsCut(kind) ? _length : kind == StockKind.Cement ? _tubes : _pieces;
}

/// <summary>A part of the catalogue: a whole pack that can be bought, in any number.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Its name: "kit 2.5 m with cement".</param>
/// <param name="Kind">What it is.</param>
/// <param name="SizeMm">Size, mm, where its kind has sizes.</param>
/// <param name="Amount">What a pack holds: m of rope and tape, pieces of anything else.</param>
/// <param name="Price">Price of a pack in the firm's money, 0..1 000 000.</param>
/// <param name="Supplier">Who sells it, up to 80 characters; empty where that is not written down.</param>
/// <param name="SupplierMail">Where orders go; empty where none are sent.</param>
/// <param name="LeadDays">Calendar days from order to arrival, 0..400.</param>
/// <param name="Minimum">So much of it is kept at least, in vans and store together: m or pieces, 0..1000; 0 where it is bought when wanted.</param>
/// <param name="ShelfMonths">Months that it keeps from the day it comes, 1..240; null where it does not age.</param>
public sealed record StockOffer(Guid Id, string Name, StockKind Kind, double? SizeMm, double Amount, double Price, string Supplier = "", string SupplierMail = "", int LeadDays = 0, double Minimum = 0, int? ShelfMonths = null)
{
    private static readonly EntryRange _minimum = new("Kept at least", Quantity.Ratio, 0, 1000);
    private static readonly EntryRange _shelf = new("Months that it keeps", Quantity.Count, 1, 240);

    private static readonly EntryRange _lead = new("Days from order to arrival", Quantity.Count, 0, 400);

    /// <summary>An offer as entered, or null with sentences in <paramref name="errors"/>; what its parameters mean stands at the record.</summary>
    public static StockOffer? New(Guid id, string? name, string? kind, double? sizeMm, double? amount, double? price, string? supplier, string? supplierMail, int? leadDays, double? minimum, int? shelfMonths, EntryErrors errors)
    {
        errors.CheckId("id", id, "An offer");
        errors.CheckText("name", name, "Name", 80, needed: true);
        if (errors.Need<StockKind>("kind", kind, "Kind") is { } known)
        {
            if (StockPiece.Sizes(known) is { } sizes)
                errors.Need("sizeMm", sizeMm, sizes);
            else
                sizeMm = null;
            if (errors.Need("amount", amount, StockPiece.Range(known)) && amount < 0.01)
                errors.Add("amount", "A pack holds more than nothing.");
        }
        errors.Need("price", price, EntryRange.Price);
        errors.CheckLine("supplier", supplier, "Supplier", 80);
        MailAddresses.Check("supplierMail", supplierMail?.Trim(), "Where orders go", errors, MailAddresses.Most);
        errors.Check("leadDays", leadDays, _lead);
        errors.Check("minimum", minimum, _minimum);
        errors.Check("shelfMonths", shelfMonths, _shelf);
        return errors.Any ? null : new(id, name!.Trim(), Word.Find<StockKind>(kind)!.Value, sizeMm, amount!.Value, price!.Value, supplier?.Trim() ?? "", supplierMail?.Trim() ?? "", leadDays ?? 0, minimum ?? 0, shelfMonths);
    }
}
