using System.Data;
using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>How every document of a visit is saved.</summary>
internal static class VisitSave
{
    /// <summary>
    /// Locks, compares, writes and counts up in one transaction. The same save sent twice is one; its id with other content is
    /// refused, as is an id that stands for something else (write: null).
    /// </summary>
    public static async Task<SaveOutcome<T>> OfAsync<T>(NpgsqlDataSource database, Guid visitId, Func<NpgsqlConnection, Task<T?>> read,
        int startedFrom, Guid saveId, Func<T, int> version, Func<T, Guid> lastSave, Func<T, bool> same, Func<NpgsqlConnection, T?, Task<(T Saved, bool StopsChanged)?>> write)
        where T : class
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var state = await LockAsync(connection, visitId);
        var stored = await read(connection);
        if (stored is not null && lastSave(stored) == saveId)
            return new SaveOutcome<T>(same(stored) ? SaveState.Saved : SaveState.Reused, stored);
        if (state == "signed")
            return new SaveOutcome<T>(SaveState.Signed, stored);
        if ((stored is null ? 0 : version(stored)) != startedFrom)
            return new SaveOutcome<T>(SaveState.Stale, stored);
        if (await write(connection, stored) is not var (saved, stopsChanged))
            return new SaveOutcome<T>(SaveState.Reused, null);
        await transaction.CommitAsync();
        return new SaveOutcome<T>(SaveState.Saved, saved, stopsChanged);
    }

    /// <summary>One save at a time per visit: its state, locked.</summary>
    public static Task<string?> LockAsync(IDbConnection connection, Guid visitId) =>
        connection.QuerySingleOrDefaultAsync<string>("select state from visits where id = @visitId for update", new { visitId });
}
