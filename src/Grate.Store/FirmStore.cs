using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>The firm's row.</summary>
public sealed class FirmStore(NpgsqlDataSource database)
{
    /// <summary>The firm, or null in an empty database.</summary>
    public async Task<Firm?> FindAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Firm>("select name, place, time_zone, inspection_months, service_hours_week, demo from firm");
    }

    /// <summary>The firm.</summary>
    /// <exception cref="InvalidOperationException">No firm was set up yet.</exception>
    public async Task<Firm> GetAsync() => await FindAsync() ?? throw new InvalidOperationException("No firm was set up yet.");
}
