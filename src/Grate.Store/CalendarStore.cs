using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>A calendar's secret address, without the secret.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="PersonId">Whose round; null for the whole firm.</param>
/// <param name="Person">Their name.</param>
/// <param name="CreatedAt">When it was made.</param>
/// <param name="CreatedBy">Who made it.</param>
public sealed record CalendarFeed(Guid Id, Guid? PersonId, string? Person, DateTimeOffset CreatedAt, string CreatedBy);

/// <summary>Secret addresses of calendars.</summary>
public sealed class CalendarStore(NpgsqlDataSource database)
{
    private const string Feeds = """
        select f.id, f.person_id, p.name as person, f.created_at, b.name as created_by
        from calendar_feeds f left join people p on p.id = f.person_id join people b on b.id = f.created_by
        where f.revoked_at is null
        """;

    /// <summary>Addresses that work: a person's own, or all.</summary>
    public async Task<IReadOnlyList<CalendarFeed>> ListAsync(Guid? personId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<CalendarFeed>($"{Feeds} and (@personId::uuid is null or f.person_id = @personId) order by f.created_at", new { personId })];
    }

    /// <summary>The feed of a secret's hash, or null.</summary>
    public async Task<CalendarFeed?> FindAsync(byte[] secretHash)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<CalendarFeed>($"{Feeds} and f.secret_hash = @secretHash", new { secretHash });
    }

    /// <summary>Keeps a new address.</summary>
    public async Task AddAsync(Guid id, Guid? personId, byte[] secretHash, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into calendar_feeds (id, person_id, secret_hash, created_at, created_by) values (@id, @personId, @secretHash, @at, @by)
            """, new { id, personId, secretHash, at, by });
    }

    /// <summary>Revokes an address: a person's own, or any.</summary>
    /// <returns>False if there is none that works.</returns>
    public async Task<bool> RevokeAsync(Guid id, Guid? personId, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("""
            update calendar_feeds set revoked_at = @at
            where id = @id and revoked_at is null and (@personId::uuid is null or person_id = @personId)
            """, new { id, personId, at }) == 1;
    }
}
