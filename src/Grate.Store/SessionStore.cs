using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Sessions, and the guesses at passwords.</summary>
public sealed class SessionStore(NpgsqlDataSource database)
{
    /// <summary>Guesses from one address at one account before the guesser waits.</summary>
    public const int FreeTries = 5;

    /// <summary>How long guesses count.</summary>
    public static readonly TimeSpan TriesCount = TimeSpan.FromMinutes(15);

    /// <summary>Begins a session.</summary>
    public async Task<Guid> StartAsync(Guid personId, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        var id = Guid.CreateVersion7();
        await connection.ExecuteAsync("insert into sessions (id, person_id, started_at) values (@id, @personId, @at)", new { id, personId, at });
        return id;
    }

    /// <summary>Ends a session.</summary>
    public async Task EndAsync(Guid id, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("update sessions set ended_at = @at where id = @id and ended_at is null", new { id, at });
    }

    /// <summary>Whether a session goes on.</summary>
    public async Task<bool> GoesOnAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select from sessions where id = @id and ended_at is null)", new { id });
    }

    /// <summary>Takes a try at a password: counted before anything is looked at, so that many at once are many.</summary>
    /// <param name="address">Where it comes from.</param>
    /// <param name="account">For whom, as a hash.</param>
    /// <param name="now">Now.</param>
    /// <returns>How long to wait; zero where the try is free.</returns>
    public async Task<TimeSpan> TakeTryAsync(string address, string account, DateTimeOffset now)
    {
        await using var connection = await database.OpenConnectionAsync();
        var (tries, since) = await connection.QuerySingleAsync<(int, DateTimeOffset)>("""
            insert into sign_in_tries as t (address, account, tries, since) values (@address, @account, 1, @now)
            on conflict (address, account) do update set
                tries = case when t.since < @over then 1 else t.tries + 1 end, since = case when t.since < @over then @now else t.since end
            returning tries, since
            """, new { address, account, now, over = now - TriesCount });
        return tries > FreeTries ? since + TriesCount - now : TimeSpan.Zero;
    }

    /// <summary>Forgets the tries of someone who knew the password, and those of yesterday.</summary>
    public async Task ForgetTriesAsync(string address, string account, DateTimeOffset now)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("delete from sign_in_tries where (address = @address and account = @account) or since < @yesterday",
            new { address, account, yesterday = now.AddDays(-1) });
    }
}
