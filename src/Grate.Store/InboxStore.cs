using System.Data;
using Dapper;
using Grate.Core;
using Grate.Core.Service;
using Npgsql;

namespace Grate.Store;

/// <summary>Something that came from outside.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="At">When.</param>
/// <param name="Kind">Word of what it is.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="VisitId">The visit it is about; null where it is about none.</param>
/// <param name="Text">What they wrote.</param>
/// <param name="Customer">Whose.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Phone">Phone.</param>
/// <param name="SeenAt">When somebody saw it; null while nobody has.</param>
/// <param name="SeenBy">Who.</param>
public sealed record InboxLine(Guid Id, DateTimeOffset At, string Kind, Guid ApplianceId, Guid? VisitId, string Text, string Customer, string Street, string Place, string Phone, DateTimeOffset? SeenAt, string? SeenBy);

/// <summary>What households say from outside, until somebody has seen it.</summary>
public sealed class InboxStore(NpgsqlDataSource database)
{
    /// <summary>What nobody has seen yet, the most pressing and then the oldest first; and what was seen from a moment on, so that it is told by whom.</summary>
    /// <param name="seenFrom">From when on what was seen is still told.</param>
    public async Task<IReadOnlyList<InboxLine>> ListAsync(DateTimeOffset seenFrom)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<InboxLine>("""
            select i.id, i.at, i.kind, i.appliance_id, i.visit_id, i.text, c.name as customer, s.street, s.place, c.phone, i.seen_at, p.name as seen_by
            from inbox i join appliances a on a.id = i.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id left join people p on p.id = i.seen_by
            where i.seen_at is null or i.seen_at > @seenFrom
            order by i.seen_at is not null, array_position(@kinds, i.kind), i.at limit 200
            """, new { seenFrom, kinds = Word.All<InboxKind>().ToArray() })];
    }

    /// <summary>Somebody has seen it. Seen twice, the first stands.</summary>
    /// <returns>False if there is no such thing.</returns>
    public async Task<bool> SeenAsync(Guid id, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update inbox set seen_at = coalesce(seen_at, @at), seen_by = coalesce(seen_by, @by) where id = @id", new { id, by, at }) == 1;
    }

    /// <summary>Puts something in, in the transaction of what it tells.</summary>
    internal static Task AddAsync(IDbConnection connection, InboxKind kind, Guid applianceId, Guid? visitId, string text, DateTimeOffset at) => connection.ExecuteAsync(
        "insert into inbox (id, at, kind, appliance_id, visit_id, text) values (@id, @at, @kind, @applianceId, @visitId, @text)",
        new { id = Guid.CreateVersion7(), at, kind = Word.Of(kind), applianceId, visitId, text = text[..Math.Min(text.Length, 500)] });
}
