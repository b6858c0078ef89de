using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Somebody who is invited to the firm.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Email">Their address.</param>
/// <param name="Name">Their name.</param>
/// <param name="Role">technician, office or owner.</param>
/// <param name="MadeAt">When.</param>
/// <param name="EndsAt">Until when the link works.</param>
public sealed record Invitation(Guid Id, string Email, string Name, string Role, DateTimeOffset MadeAt, DateTimeOffset EndsAt);

/// <summary>Invitations: each works once, for three days.</summary>
public sealed class InvitationStore(NpgsqlDataSource database)
{
    private const string Columns = "select id, email, name, role, made_at, ends_at from invitations where used_at is null and withdrawn_at is null";

    /// <summary>Invitations that wait, also those whose time is over.</summary>
    public async Task<IReadOnlyList<Invitation>> WaitingAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Invitation>($"{Columns} order by made_at desc limit 100")];
    }

    /// <summary>Invites somebody; an earlier invitation of the same address no longer works.</summary>
    public async Task AddAsync(Invitation invitation, byte[] secretHash, OutgoingMessage? letter, Guid by)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("lock table invitations in share row exclusive mode");
        await connection.ExecuteAsync("update invitations set withdrawn_at = @MadeAt where lower(email) = lower(@Email) and used_at is null and withdrawn_at is null", invitation);
        await connection.ExecuteAsync("""
            insert into invitations (id, email, name, role, secret_hash, made_at, made_by, ends_at) values (@Id, @Email, @Name, @Role, @secretHash, @MadeAt, @by, @EndsAt)
            """, new { invitation.Id, invitation.Email, invitation.Name, invitation.Role, secretHash, invitation.MadeAt, by, invitation.EndsAt });
        if (letter is not null)
            await OutboxStore.PutAsync(connection, letter);
        await transaction.CommitAsync();
    }

    /// <summary>Takes an invitation back.</summary>
    /// <returns>False if there is none that works.</returns>
    public async Task<bool> WithdrawAsync(Guid id, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update invitations set withdrawn_at = @at where id = @id and used_at is null and withdrawn_at is null", new { id, at }) == 1;
    }

    /// <summary>The invitation of a link that still works, or null.</summary>
    public async Task<Invitation?> FindAsync(byte[] secretHash, DateTimeOffset now)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Invitation>($"{Columns} and secret_hash = @secretHash and ends_at > @now", new { secretHash, now });
    }

    /// <summary>Makes the person of an invitation, once.</summary>
    /// <returns>False where it was used, withdrawn or its address taken in between.</returns>
    public async Task<bool> UseAsync(Guid id, Person person, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.ExecuteAsync("update invitations set used_at = @at where id = @id and used_at is null and withdrawn_at is null and ends_at > @at", new { id, at }) != 1)
            return false;
        try
        {
            await PersonStore.AddAsync(connection, person);
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return false;
        }
        await transaction.CommitAsync();
        return true;
    }
}
