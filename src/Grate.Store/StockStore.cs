using Dapper;
using Grate.Core;
using Grate.Core.Service;
using Grate.Core.Stock;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>A line of the stock's log.</summary>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
/// <param name="Move">What happened.</param>
/// <param name="Kind">Rope, tape or cement.</param>
/// <param name="SizeMm">Size, mm; null for cement.</param>
/// <param name="Before">What was there.</param>
/// <param name="After">What was there afterwards.</param>
/// <param name="VanId">Where the piece lay then; null for the store.</param>
/// <param name="Note">What for.</param>
public sealed record StockLine(DateTimeOffset At, string By, StockMove Move, StockKind Kind, double? SizeMm, double Before, double After, Guid? VanId, string Note);

/// <summary>A seal that something is cut for.</summary>
/// <param name="VisitId">Its visit.</param>
/// <param name="Seal">Word of its place.</param>
/// <param name="LengthM">What is cut, m.</param>
/// <param name="Note">What the log says.</param>
public sealed record SealCut(Guid VisitId, string Seal, double LengthM, string Note);

/// <summary>What a stove wants, as kept with what is due.</summary>
/// <param name="ApplianceId">The stove.</param>
/// <param name="VisitId">Its next open visit; null where none is planned.</param>
/// <param name="PlannedStart">Start of that visit.</param>
/// <param name="ByDay">Day its next visit is wanted by, where one is due.</param>
/// <param name="Household">Whose stove.</param>
/// <param name="Place">Where.</param>
/// <param name="Wants">What, JSON.</param>
public sealed record WantRow(Guid ApplianceId, Guid? VisitId, DateTimeOffset? PlannedStart, DateOnly? ByDay, string Household, string Place, string Wants);

/// <summary>What lies in the vans and in the store. Every change writes its line of the log in the same transaction, once per save.</summary>
public sealed class StockStore(NpgsqlDataSource database)
{
    private const string Pieces = "select id, van_id, kind, size_mm, amount, version, batch, best_before from stock_pieces";

    // Dapper reads an enum by the name of its member; the words of the database are those of the contract.
    private sealed record PieceRow(Guid Id, Guid? VanId, string Kind, double? SizeMm, double Amount, int Version, string Batch, DateOnly? BestBefore)
    {
        public StockPiece Piece() => new(Id, VanId, Word.Find<StockKind>(Kind)!.Value, SizeMm, Amount, Version, Batch, BestBefore);
    }

    private const string Purchases = "select id, name, kind, size_mm, pack_amount, packs, received, supplier, ordered_on, expected_on, ended_at, shelf_months from purchases";

    private sealed record PurchaseRow(Guid Id, string Name, string Kind, double? SizeMm, double PackAmount, int Packs, int Received, string Supplier, DateOnly OrderedOn, DateOnly ExpectedOn, DateTimeOffset? EndedAt, int? ShelfMonths)
    {
        public Purchase Purchase() => new(Id, Name, Word.Find<StockKind>(Kind)!.Value, SizeMm, PackAmount, Packs, Received, Supplier, OrderedOn, ExpectedOn, ShelfMonths);
    }

    // What was fitted is little among all facts; the index says the same.
    private const string OfFitting = "(x.name like 'seal.%.fitted' or x.name like 'brick.%.renewed' or x.name = 'combustor.fitted-day')";

    private sealed record FittedRow(Guid ApplianceId, string Name, DateTimeOffset PlannedStart, double? Value, DateTimeOffset? OutAt);

    /// <summary>Everything that signed visits fitted.</summary>
    /// <param name="firm">The firm, whose days they are.</param>
    /// <param name="stoveId">To this stove; null for every one.</param>
    public async Task<IReadOnlyList<PartFitted>> FittedAsync(Firm firm, Guid? stoveId = null)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<FittedRow>($"""
            select v.appliance_id, x.name, v.planned_start, x.value, a.out_at from station_facts x join visits v on v.id = x.visit_id join appliances a on a.id = v.appliance_id where {OfFitting} and v.state = 'signed' {(stoveId is null ? "" : "and v.appliance_id = @stoveId")}
            """, new { stoveId })).Select(r => new PartFitted(r.Name[0] switch { 's' => LivingPart.Seal, 'b' => LivingPart.Brick, _ => LivingPart.Combustor }, $"{r.ApplianceId} {r.Name}",
                // A combustor's day is told; the others were fitted in their visit.
                r.Value is { } day ? DateOnly.FromDayNumber((int)day) : firm.Day(r.PlannedStart), r.OutAt is { } gone ? firm.Day(gone) : null))];
    }

    private sealed record LifeRow(string Part, double QuarterYears, double HalfYears);

    /// <summary>How long the firm's own parts last; only those that enough ends are known of.</summary>
    public async Task<IReadOnlyDictionary<LivingPart, LearnedLife>> LivesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<LifeRow>("select part, quarter_years, half_years from part_lives")).ToDictionary(r => Word.Find<LivingPart>(r.Part)!.Value, r => new LearnedLife(r.QuarterYears, r.HalfYears));
    }

    /// <summary>Reckons anew how long the firm's own parts last.</summary>
    /// <param name="firm">The firm.</param>
    /// <param name="today">Today at its place.</param>
    public async Task LearnLivesAsync(Firm firm, DateOnly today)
    {
        List<LifeRow> learned = [.. PartLife.Of(await FittedAsync(firm), today).Where(l => l.Learned is not null).Select(l => new LifeRow(Word.Of(l.Part), l.Learned!.QuarterYears, l.Learned.HalfYears))];
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("delete from part_lives");
        await connection.ExecuteAsync("insert into part_lives (part, quarter_years, half_years) values (@Part, @QuarterYears, @HalfYears)", learned);
        await transaction.CommitAsync();
    }

    private sealed record LineRow(DateTimeOffset At, string By, string Move, string Kind, double? SizeMm, double Before, double After, Guid? VanId, string Note);

    private sealed record OfferRow(Guid Id, string Name, string Kind, double? SizeMm, double Amount, double Price, string Supplier, string SupplierMail, int LeadDays, double Minimum, int? ShelfMonths);

    /// <summary>Every piece that is there.</summary>
    public async Task<IReadOnlyList<StockPiece>> PiecesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<PieceRow>($"{Pieces} where amount > 0 order by array_position(@kinds, kind), size_mm, amount desc, id", new { kinds = Word.All<StockKind>().ToArray() })).Select(r => r.Piece())];
    }

    /// <summary>A piece, or null.</summary>
    public async Task<StockPiece?> FindAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QuerySingleOrDefaultAsync<PieceRow>($"{Pieces} where id = @id", new { id }))?.Piece();
    }

    /// <summary>The last lines of the log, newest first.</summary>
    public async Task<IReadOnlyList<StockLine>> LogAsync(int count)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<LineRow>("""
            select l.at, p.name as by, l.move, s.kind, s.size_mm, l.before, l.after, l.van_id, l.note
            from stock_log l join stock_pieces s on s.id = l.piece_id join people p on p.id = l.by order by l.at desc, l.save_id, l.line desc limit @count
            """, new { count })).Select(l => new StockLine(l.At, l.By, Word.Find<StockMove>(l.Move)!.Value, Word.Find<StockKind>(l.Kind)!.Value, l.SizeMm, l.Before, l.After, l.VanId, l.Note))];
    }

    /// <summary>What can be bought.</summary>
    public async Task<IReadOnlyList<StockOffer>> OffersAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<OfferRow>("select id, name, kind, size_mm, amount, price, supplier, supplier_mail, lead_days, minimum, shelf_months from stock_offers order by kind, size_mm, amount, name, id"))
            .Select(o => new StockOffer(o.Id, o.Name, Word.Find<StockKind>(o.Kind)!.Value, o.SizeMm, o.Amount, o.Price, o.Supplier, o.SupplierMail, o.LeadDays, o.Minimum, o.ShelfMonths))];
    }

    /// <summary>Keeps an offer, new or changed.</summary>
    public async Task KeepOfferAsync(StockOffer offer)
    {
        await using var connection = await database.OpenConnectionAsync();
        await KeepOfferAsync(connection, offer);
    }

    /// <summary>Keeps several offers, all or none.</summary>
    public async Task KeepOffersAsync(IEnumerable<StockOffer> offers)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        foreach (var offer in offers)
            await KeepOfferAsync(connection, offer);
        await transaction.CommitAsync();
    }

    internal static Task KeepOfferAsync(NpgsqlConnection connection, StockOffer offer) =>
        connection.ExecuteAsync("""
            insert into stock_offers (id, name, kind, size_mm, amount, price, supplier, supplier_mail, lead_days, minimum, shelf_months)
            values (@Id, @Name, @kind, @SizeMm, @Amount, @Price, @Supplier, @SupplierMail, @LeadDays, @Minimum, @ShelfMonths)
            on conflict (id) do update set name = excluded.name, kind = excluded.kind, size_mm = excluded.size_mm, amount = excluded.amount, price = excluded.price,
                supplier = excluded.supplier, supplier_mail = excluded.supplier_mail, lead_days = excluded.lead_days, minimum = excluded.minimum, shelf_months = excluded.shelf_months
            """, new { offer.Id, offer.Name, kind = Word.Of(offer.Kind), offer.SizeMm, offer.Amount, offer.Price, offer.Supplier, offer.SupplierMail, offer.LeadDays, offer.Minimum, offer.ShelfMonths });

    /// <summary>Takes an offer away.</summary>
    public async Task DropOfferAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from stock_offers where id = @id", new { id });
    }

    /// <summary>Seals of visits for which something is cut: whose last line is no spoilt one.</summary>
    public async Task<IReadOnlySet<(Guid VisitId, string Seal)>> CutAsync(Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await CutAsync(connection, visitIds);
    }

    private static async Task<HashSet<(Guid VisitId, string Seal)>> CutAsync(NpgsqlConnection connection, Guid[] visitIds) =>
        (await connection.QueryAsync<(Guid, string)>("""
            select visit_id, seal from (select distinct on (visit_id, seal) visit_id, seal, move from stock_log
                where visit_id = any(@visitIds) order by visit_id, seal, at desc, line desc) newest where move = 'used'
            """, new { visitIds })).ToHashSet();

    /// <summary>A new piece; sent twice it is one.</summary>
    public async Task AddAsync(StockPiece piece, string note, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await AddAsync(connection, piece, note, by, at);
        await transaction.CommitAsync();
    }

    internal static async Task AddAsync(NpgsqlConnection connection, StockPiece piece, string note, Guid by, DateTimeOffset at)
    {
        if (await InsertAsync(connection, piece))
            await LogAsync(connection, piece.Id, 0, piece with { Amount = 0 }, piece, StockMove.Added, null, note, by, at);
    }

    /// <summary>What was ordered and has not come wholly, by when it should come.</summary>
    public async Task<IReadOnlyList<Purchase>> ComingAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<PurchaseRow>($"{Purchases} where ended_at is null and received < packs order by expected_on, name, id")).Select(r => r.Purchase())];
    }

    /// <summary>Keeps an order, line by line; sent twice it is one.</summary>
    /// <param name="saveId">The save.</param>
    /// <param name="lines">What is ordered.</param>
    /// <param name="letter">The order as the supplier gets it; null where it is told by telephone.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    /// <returns>False where it had been kept before.</returns>
    public async Task<bool> OrderAsync(Guid saveId, IReadOnlyList<Purchase> lines, OutgoingMessage? letter, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var kept = 0;
        foreach (var (line, number) in lines.Select((l, i) => (l, i)))
        {
            kept += await connection.ExecuteAsync("""
                insert into purchases (id, save_id, line, name, kind, size_mm, pack_amount, packs, received, supplier, ordered_on, expected_on, ordered_at, ordered_by, shelf_months)
                values (@Id, @saveId, @number, @Name, @kind, @SizeMm, @PackAmount, @Packs, 0, @Supplier, @OrderedOn, @ExpectedOn, @at, @by, @ShelfMonths) on conflict (save_id, line) do nothing
                """, new { line.Id, saveId, number, line.Name, kind = Word.Of(line.Kind), line.SizeMm, line.PackAmount, line.Packs, line.Supplier, line.OrderedOn, line.ExpectedOn, at, by, line.ShelfMonths });
        }
        if (kept > 0 && letter is not null)
            await OutboxStore.PutAsync(connection, letter);
        await transaction.CommitAsync();
        return kept > 0;
    }

    /// <summary>Books in what came of a purchase, under a lock; sent twice it comes in once.</summary>
    /// <param name="id">The purchase.</param>
    /// <param name="saveId">The save.</param>
    /// <param name="packs">Packs that came; 0 where none will.</param>
    /// <param name="ends">Whether nothing more will come of it.</param>
    /// <param name="vanId">Whose van they go to; null for the store.</param>
    /// <param name="batch">Their batch or serial number.</param>
    /// <param name="today">Today at the firm's place: what ages, ages from here.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    /// <returns>The purchase as it was; null where there is none, or it has ended.</returns>
    public async Task<Purchase?> ReceiveAsync(Guid id, Guid saveId, int packs, bool ends, Guid? vanId, string batch, DateOnly today, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var row = await connection.QuerySingleOrDefaultAsync<PurchaseRow>($"{Purchases} where id = @id for update", new { id });
        if (row?.Purchase() is not { } purchase)
            return null;
        if (await connection.QuerySingleAsync<bool>("select exists (select from purchase_receipts where save_id = @saveId and purchase_id = @id)", new { saveId, id }))
            return purchase;
        if (row.EndedAt is not null)
            return null;
        // What the caller saw may have come in meanwhile: no more comes in than was ordered.
        var come = Math.Min(packs, purchase.Open);
        foreach (var amount in StockPiece.IsCut(purchase.Kind) ? Enumerable.Repeat(purchase.PackAmount, come) : come > 0 ? [come * purchase.PackAmount] : [])
            await AddAsync(connection, new StockPiece(Guid.CreateVersion7(at), vanId, purchase.Kind, purchase.SizeMm, amount, 1, batch, purchase.ShelfMonths is { } months ? today.AddMonths(months) : null), $"came: {purchase.Name}", by, at);
        await connection.ExecuteAsync("insert into purchase_receipts (save_id, purchase_id, at) values (@saveId, @id, @at)", new { saveId, id, at });
        await connection.ExecuteAsync("update purchases set received = received + @come, ended_at = case when @ends then @at else ended_at end where id = @id", new { id, come, ends, at });
        await transaction.CommitAsync();
        return purchase;
    }

    /// <summary>What every stove wants, with its next open visit or the day it is due.</summary>
    public async Task<IReadOnlyList<WantRow>> WantsAsync(DateTimeOffset from)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<WantRow>("""
            select d.appliance_id, v.id as visit_id, v.planned_start, n.by_day, c.name as household, s.place, d.wants::text as wants
            from due_stoves d join appliances a on a.id = d.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
            left join lateral (select v.id, v.planned_start from visits v where v.appliance_id = d.appliance_id and v.state = 'open' order by v.planned_start < @from, v.planned_start limit 1) v on true
            left join due_visits n on n.appliance_id = d.appliance_id and n.number = 1
            where d.wants <> '[]' and a.out_at is null order by coalesce(v.planned_start, n.by_day::timestamptz), d.appliance_id limit @most
            """, new { from, most = PurchasePlan.MostWants })];
    }

    /// <summary>Changes a piece under a lock; sent twice it happens once.</summary>
    /// <param name="id">The piece.</param>
    /// <param name="saveId">The save.</param>
    /// <param name="change">The piece afterwards; null where it is refused.</param>
    /// <param name="move">What happens.</param>
    /// <param name="note">What for.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    /// <returns>False where it was refused.</returns>
    public async Task<bool> ChangeAsync(Guid id, Guid saveId, Func<StockPiece, StockPiece?> change, StockMove move, string note, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var before = (await connection.QuerySingleAsync<PieceRow>($"{Pieces} where id = @id for update", new { id })).Piece();
        if (await KnownAsync(connection, saveId))
            return true;
        if (change(before) is not { } after)
            return false;
        await UpdateAsync(connection, after);
        await LogAsync(connection, saveId, 0, before, after, move, null, note, by, at);
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Cuts a piece for seals; what is bought for it comes in first, and its off-cut stays. Sent twice it happens once.</summary>
    /// <param name="saveId">The save.</param>
    /// <param name="piece">The piece; a new one where it is bought.</param>
    /// <param name="bought">What was bought; null where the piece lies there.</param>
    /// <param name="cuts">What is cut from it.</param>
    /// <param name="errors">Takes the refusal where it does not hold so much.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    /// <returns>False where it was refused.</returns>
    public async Task<bool> CutAsync(Guid saveId, StockPiece piece, string? bought, IReadOnlyList<SealCut> cuts, EntryErrors errors, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Two who cut for the same visit take turns: a seal is cut once.
        Guid[] visits = [.. cuts.Select(c => c.VisitId).Distinct()];
        await connection.ExecuteAsync("select 1 from visits where id = any(@visits) order by id for no key update", new { visits });
        if (await KnownAsync(connection, saveId))
            return true;
        var done = await CutAsync(connection, visits);
        if (cuts.FirstOrDefault(c => done.Contains((c.VisitId, c.Seal))) is { } again)
        {
            errors.Add("seals", $"{again.Note}: something is cut for it already.");
            return false;
        }
        if (bought is not null)
            await InsertAsync(connection, piece);
        else
            piece = (await connection.QuerySingleAsync<PieceRow>($"{Pieces} where id = @Id for update", new { piece.Id })).Piece();
        var line = 0;
        if (bought is not null)
            await LogAsync(connection, saveId, line++, piece with { Amount = 0 }, piece, StockMove.Added, null, bought, by, at);
        foreach (var cut in cuts)
        {
            if (piece.Less(cut.LengthM, "pieceId", errors) is not { } after)
                return false;
            await LogAsync(connection, saveId, line++, piece, after, StockMove.Used, cut, cut.Note, by, at);
            piece = after;
        }
        await UpdateAsync(connection, piece);
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>What was cut for a seal is of no use: it is to be cut again.</summary>
    /// <returns>False where nothing was cut for it.</returns>
    public async Task<bool> SpoilAsync(Guid saveId, Guid visitId, string seal, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await KnownAsync(connection, saveId) || await connection.ExecuteAsync("""
            insert into stock_log (save_id, line, piece_id, move, before, after, van_id, visit_id, seal, note, at, by)
            select @saveId, 0, l.piece_id, 'spoilt', l.after, l.after, l.van_id, l.visit_id, l.seal, l.note, @at, @by
            from stock_log l where l.visit_id = @visitId and l.seal = @seal and l.move = 'used' order by l.at desc, l.line desc limit 1
            """, new { saveId, visitId, seal, by, at }) == 1;
    }

    private static Task<bool> KnownAsync(NpgsqlConnection connection, Guid saveId) =>
        connection.QuerySingleAsync<bool>("select exists (select from stock_log where save_id = @saveId)", new { saveId });

    private static async Task<bool> InsertAsync(NpgsqlConnection connection, StockPiece piece) => await connection.ExecuteAsync("""
        insert into stock_pieces (id, van_id, kind, size_mm, amount, version, batch, best_before) values (@Id, @VanId, @kind, @SizeMm, @Amount, @Version, @Batch, @BestBefore) on conflict do nothing
        """, new { piece.Id, piece.VanId, kind = Word.Of(piece.Kind), piece.SizeMm, piece.Amount, piece.Version, piece.Batch, piece.BestBefore }) == 1;

    private static Task UpdateAsync(NpgsqlConnection connection, StockPiece piece) =>
        connection.ExecuteAsync("update stock_pieces set van_id = @VanId, amount = @Amount, version = @Version where id = @Id", new { piece.Id, piece.VanId, piece.Amount, piece.Version });

    private static Task LogAsync(NpgsqlConnection connection, Guid saveId, int line, StockPiece before, StockPiece after, StockMove move, SealCut? cut, string note, Guid by, DateTimeOffset at) =>
        connection.ExecuteAsync("""
            insert into stock_log (save_id, line, piece_id, move, before, after, van_id, visit_id, seal, note, at, by)
            values (@saveId, @line, @Id, @move, @before, @after, @VanId, @visit, @seal, @note, @at, @by)
            """, new { saveId, line, after.Id, move = Word.Of(move), before = before.Amount, after = after.Amount, after.VanId, visit = cut?.VisitId, seal = cut?.Seal, note, at, by });
}
