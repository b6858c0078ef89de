using Dapper;
using Grate.Core.Service;
using Npgsql;

namespace Grate.Store;

/// <summary>A text as the firm wrote it.</summary>
/// <param name="Kind">Word of what it is for.</param>
/// <param name="Language">Code of its language.</param>
/// <param name="Subject">What it is about.</param>
/// <param name="Body">What it says.</param>
public sealed record FirmText(string Kind, string Language, string Subject, string Body);

/// <summary>A visit as its household is told of it.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Household">Whose.</param>
/// <param name="Email">Their mail address; empty where none is noted.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Technician">Who comes.</param>
/// <param name="Start">From.</param>
/// <param name="End">To.</param>
/// <param name="State">open, signed or cancelled.</param>
/// <param name="Version">Version of the plan.</param>
/// <param name="Asked">What the household asked for through its link; empty where it asked for nothing.</param>
/// <param name="MadeBy">Who sent the link; null where it was not asked for by one.</param>
/// <param name="Language">Code of their language; empty where none is noted.</param>
public sealed record ToldVisit(Guid VisitId, string Household, string Email, string Street, string Place, string Technician, DateTimeOffset Start, DateTimeOffset End, string State, int Version, string Asked, Guid? MadeBy, string Language);

/// <summary>Messages of visits: their texts, and the links by which households answer.</summary>
public sealed class MessageStore(NpgsqlDataSource database)
{
    private static string Visits(string madeBy) => $"""
        select v.id as visit_id, c.name as household, c.email, s.street, s.place, t.name as technician, v.planned_start as start, v.planned_end as "end", v.state, v.plan_version as version, v.asked, {madeBy} as made_by, c.language
        from visits v join people t on t.id = v.technician_id join appliances a on a.id = v.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
        """;

    /// <summary>Texts that the firm wrote itself.</summary>
    public async Task<IReadOnlyList<FirmText>> TextsAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<FirmText>("select kind, language, subject, body from message_texts order by kind, language")];
    }

    /// <summary>Keeps a text.</summary>
    public async Task KeepTextAsync(FirmText text, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into message_texts (kind, language, subject, body, by, at) values (@Kind, @Language, @Subject, @Body, @by, @at)
            on conflict (kind, language) do update set subject = excluded.subject, body = excluded.body, by = excluded.by, at = excluded.at
            """, new { text.Kind, text.Language, text.Subject, text.Body, by, at });
    }

    /// <summary>A visit as its household is told of it, or null.</summary>
    public async Task<ToldVisit?> VisitAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<ToldVisit>($"{Visits("null::uuid")} where v.id = @id", new { id });
    }

    /// <summary>The visit of a link that works, or null.</summary>
    public async Task<ToldVisit?> OfLinkAsync(byte[] secretHash, DateTimeOffset now)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<ToldVisit>($"""
            {Visits("l.made_by")} join visit_links l on l.visit_id = v.id where l.secret_hash = @secretHash and l.ends_at > @now
            """, new { secretHash, now });
    }

    /// <summary>Puts a message out, with the link in it; the visit's log tells it.</summary>
    public async Task SentAsync(Guid visitId, MessageKind kind, byte[]? secretHash, DateTimeOffset endsAt, OutgoingMessage letter, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (secretHash is not null)
            await connection.ExecuteAsync("insert into visit_links (id, visit_id, secret_hash, made_at, made_by, ends_at) values (@id, @visitId, @secretHash, @at, @by, @endsAt)", new { id = Guid.CreateVersion7(), visitId, secretHash, at, by, endsAt });
        await OutboxStore.PutAsync(connection, letter);
        await LogAsync(connection, visitId, $"Told the household: {Core.Word.Said(kind).ToLowerInvariant()}.", by, at);
        await transaction.CommitAsync();
    }

    /// <summary>Keeps what a household asks for.</summary>
    public async Task AskAsync(Guid visitId, string asked, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.ExecuteAsync("update visits set asked = @asked where id = @visitId and state = 'open' and asked <> @asked", new { visitId, asked }) == 1)
        {
            await LogAsync(connection, visitId, $"The household asks through its link: {asked}", by, at);
            await InboxStore.AddAsync(connection, InboxKind.Date, await connection.QuerySingleAsync<Guid>("select appliance_id from visits where id = @visitId", new { visitId }), visitId, asked, at);
        }
        await transaction.CommitAsync();
    }

    private static Task LogAsync(NpgsqlConnection connection, Guid visitId, string what, Guid by, DateTimeOffset at) =>
        connection.ExecuteAsync("insert into visit_log (id, visit_id, at, by, what) values (@id, @visitId, @at, @by, @what)", new { id = Guid.CreateVersion7(), visitId, at, by, what });
}
