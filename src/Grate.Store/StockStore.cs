using Dapper;
using Grate.Core;
using Grate.Core.Stock;
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

/// <summary>What lies in the vans and in the store. Every change writes its line of the log in the same transaction, once per save.</summary>
public sealed class StockStore(NpgsqlDataSource database)
{
    private const string Pieces = "select id, van_id, kind, size_mm, amount, version from stock_pieces";

    // Dapper reads an enum by the name of its member; the words of the database are those of the contract.
    private sealed record PieceRow(Guid Id, Guid? VanId, string Kind, double? SizeMm, double Amount, int Version)
    {
        public StockPiece Piece() => new(Id, VanId, Word.Find<StockKind>(Kind)!.Value, SizeMm, Amount, Version);
    }

    private sealed record LineRow(DateTimeOffset At, string By, string Move, string Kind, double? SizeMm, double Before, double After, Guid? VanId, string Note);

    private sealed record OfferRow(Guid Id, string Name, string Kind, double SizeMm, double LengthM, double Price);

    /// <summary>Every piece that is there.</summary>
    public async Task<IReadOnlyList<StockPiece>> PiecesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<PieceRow>($"{Pieces} where amount > 0 order by array_position(array['rope', 'tape', 'cement'], kind), size_mm, amount desc, id")).Select(r => r.Piece())];
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
        return [.. (await connection.QueryAsync<OfferRow>("select id, name, kind, size_mm, length_m, price from stock_offers order by kind, size_mm, length_m, name, id"))
            .Select(o => new StockOffer(o.Id, o.Name, Word.Find<StockKind>(o.Kind)!.Value, o.SizeMm, o.LengthM, o.Price))];
    }

    /// <summary>Keeps an offer, new or changed.</summary>
    public async Task KeepOfferAsync(StockOffer offer)
    {
        await using var connection = await database.OpenConnectionAsync();
        await KeepOfferAsync(connection, offer);
    }

    internal static Task KeepOfferAsync(NpgsqlConnection connection, StockOffer offer) =>
        connection.ExecuteAsync("""
            insert into stock_offers (id, name, kind, size_mm, length_m, price) values (@Id, @Name, @kind, @SizeMm, @LengthM, @Price)
            on conflict (id) do update set name = excluded.name, kind = excluded.kind, size_mm = excluded.size_mm, length_m = excluded.length_m, price = excluded.price
            """, new { offer.Id, offer.Name, kind = Word.Of(offer.Kind), offer.SizeMm, offer.LengthM, offer.Price });

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
        insert into stock_pieces (id, van_id, kind, size_mm, amount, version) values (@Id, @VanId, @kind, @SizeMm, @Amount, @Version) on conflict do nothing
        """, new { piece.Id, piece.VanId, kind = Word.Of(piece.Kind), piece.SizeMm, piece.Amount, piece.Version }) == 1;

    private static Task UpdateAsync(NpgsqlConnection connection, StockPiece piece) =>
        connection.ExecuteAsync("update stock_pieces set van_id = @VanId, amount = @Amount, version = @Version where id = @Id", new { piece.Id, piece.VanId, piece.Amount, piece.Version });

    private static Task LogAsync(NpgsqlConnection connection, Guid saveId, int line, StockPiece before, StockPiece after, StockMove move, SealCut? cut, string note, Guid by, DateTimeOffset at) =>
        connection.ExecuteAsync("""
            insert into stock_log (save_id, line, piece_id, move, before, after, van_id, visit_id, seal, note, at, by)
            values (@saveId, @line, @Id, @move, @before, @after, @VanId, @visit, @seal, @note, @at, @by)
            """, new { saveId, line, after.Id, move = Word.Of(move), before = before.Amount, after = after.Amount, after.VanId, visit = cut?.VisitId, seal = cut?.Seal, note, at, by });
}
