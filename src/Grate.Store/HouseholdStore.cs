using Dapper;
using Grate.Core.Service;
using Npgsql;

namespace Grate.Store;

/// <summary>A household's page that works, without its secret.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="MadeAt">When it was made.</param>
/// <param name="MadeBy">Who made it.</param>
public sealed record HouseholdLink(Guid Id, DateTimeOffset MadeAt, string MadeBy);

/// <summary>Something that a household told through its page.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Kind">night, ash, wood, note, or glass for a picture of it.</param>
/// <param name="Kg">Wood, kg.</param>
/// <param name="Hours">How long the night was.</param>
/// <param name="Coals">none, some or plenty in the morning.</param>
/// <param name="Days">Days since the pan was emptied.</param>
/// <param name="Text">What else, at most 500 characters.</param>
/// <param name="At">When.</param>
public sealed record HouseholdNote(Guid Id, string Kind, double? Kg, double? Hours, string? Coals, double? Days, string Text, DateTimeOffset At);

/// <summary>Pages of households and what comes back through them.</summary>
public sealed class HouseholdStore(NpgsqlDataSource database)
{
    /// <summary>Most notes that a household can leave between two looks at them.</summary>
    public const int MostNotes = 200;

    /// <summary>Most pictures among them.</summary>
    public const int MostPictures = 20;

    /// <summary>The page of a stove that works, or null.</summary>
    public async Task<HouseholdLink?> LinkAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<HouseholdLink>("""
            select l.id, l.made_at, p.name as made_by from household_links l join people p on p.id = l.made_by where l.appliance_id = @applianceId and l.withdrawn_at is null
            """, new { applianceId });
    }

    /// <summary>Makes a page; the one before it no longer works.</summary>
    public async Task MakeAsync(Guid id, Guid applianceId, byte[] secretHash, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Two who make one at the same moment wait for each other here.
        await connection.ExecuteAsync("select 1 from appliances where id = @applianceId for update", new { applianceId });
        await connection.ExecuteAsync("update household_links set withdrawn_at = @at where appliance_id = @applianceId and withdrawn_at is null", new { applianceId, at });
        await connection.ExecuteAsync("insert into household_links (id, appliance_id, secret_hash, made_at, made_by) values (@id, @applianceId, @secretHash, @at, @by)",
            new { id, applianceId, secretHash, at, by });
        await transaction.CommitAsync();
    }

    /// <summary>Withdraws a stove's page.</summary>
    /// <returns>False if there is none that works.</returns>
    public async Task<bool> WithdrawAsync(Guid applianceId, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update household_links set withdrawn_at = @at where appliance_id = @applianceId and withdrawn_at is null", new { applianceId, at }) == 1;
    }

    /// <summary>The stove of a secret's hash, or null.</summary>
    public async Task<Guid?> StoveOfAsync(byte[] secretHash)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Guid?>("select appliance_id from household_links where secret_hash = @secretHash and withdrawn_at is null", new { secretHash });
    }

    /// <summary>Keeps what a household tells.</summary>
    /// <param name="applianceId">The stove.</param>
    /// <param name="note">What.</param>
    /// <param name="jpeg">Its picture, where it is one.</param>
    /// <param name="inbox">What it is to the office, which sees it at once; null for what waits for the next visit.</param>
    /// <returns>False where it has told as much as anybody will read.</returns>
    public async Task<bool> TellAsync(Guid applianceId, HouseholdNote note, byte[]? jpeg = null, InboxKind? inbox = null)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var kept = await connection.ExecuteAsync("""
            insert into household_notes (id, appliance_id, kind, kg, hours, coals, days, text, at, jpeg)
            select @Id, @applianceId, @Kind, @Kg, @Hours, @Coals, @Days, @Text, @At, @jpeg
            where (select count(*) from household_notes where appliance_id = @applianceId and at > @At - interval '400 days') < @most
              and (@jpeg::bytea is null or (select count(*) from household_notes where appliance_id = @applianceId and kind = 'glass' and at > @At - interval '400 days') < @mostPictures)
            """, new { applianceId, note.Id, note.Kind, note.Kg, note.Hours, note.Coals, note.Days, note.Text, note.At, jpeg, most = MostNotes, mostPictures = MostPictures }) == 1;
        if (kept && inbox is { } kind)
            await InboxStore.AddAsync(connection, kind, applianceId, null, note.Text, note.At);
        await transaction.CommitAsync();
        return kept;
    }

    /// <summary>A picture that the household of a stove sent, or null.</summary>
    public async Task<byte[]?> PictureAsync(Guid applianceId, Guid noteId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<byte[]?>("select jpeg from household_notes where id = @noteId and appliance_id = @applianceId", new { applianceId, noteId });
    }

    /// <summary>What a household told, newest first, at most 50.</summary>
    public async Task<IReadOnlyList<HouseholdNote>> NotesAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<HouseholdNote>("select id, kind, kg, hours, coals, days, text, at from household_notes where appliance_id = @applianceId order by at desc limit 50", new { applianceId })];
    }
}
