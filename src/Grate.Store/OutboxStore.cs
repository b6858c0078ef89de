using System.Data;
using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>A message that leaves the firm.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="At">When it was written.</param>
/// <param name="FromName">The firm's name.</param>
/// <param name="FromAddress">The address it comes from.</param>
/// <param name="ToName">Whom it is for.</param>
/// <param name="ToAddress">Their address; several are parted by commas.</param>
/// <param name="Subject">What it is about.</param>
/// <param name="Body">What it says.</param>
/// <param name="CalendarMethod">Method of the date that comes with it (RFC 6047); null where none does.</param>
/// <param name="CalendarText">The date, iCalendar (RFC 5545).</param>
public sealed record OutgoingMessage(Guid Id, DateTimeOffset At, string FromName, string FromAddress, string ToName, string ToAddress, string Subject, string Body, string? CalendarMethod = null, string? CalendarText = null);

/// <summary>Messages that leave the firm: each is a row of the transaction of what it tells, and is sent after it.</summary>
public sealed class OutboxStore(NpgsqlDataSource database)
{
    /// <summary>Puts a message out, in the transaction of what it tells.</summary>
    internal static Task PutAsync(IDbConnection connection, OutgoingMessage message) => connection.ExecuteAsync("""
        insert into outgoing_messages (id, at, from_name, from_address, to_name, to_address, subject, body, calendar_method, calendar_text)
        values (@Id, @At, @FromName, @FromAddress, @ToName, @ToAddress, @Subject, @Body, @CalendarMethod, @CalendarText)
        """, message);

    /// <summary>Sends what waits, the oldest first; what cannot be sent keeps why, and waits for the next time.</summary>
    /// <param name="send">Sends one; throws where it cannot.</param>
    /// <param name="at">When.</param>
    /// <param name="most">Most of them at once.</param>
    /// <returns>How many were sent.</returns>
    public async Task<int> SendAsync(Func<OutgoingMessage, Task> send, DateTimeOffset at, int most = 50)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Several servers take what another one does not have in hand.
        var waiting = (await connection.QueryAsync<OutgoingMessage>("""
            select id, at, from_name, from_address, to_name, to_address, subject, body, calendar_method, calendar_text from outgoing_messages
            where sent_at is null and tries < 20 order by tries, at, id limit @most for update skip locked
            """, new { most })).ToList();
        var sent = 0;
        foreach (var message in waiting)
        {
            string? fault = null;
            try
            {
                await send(message);
                sent++;
            }
            catch (Exception why)
            {
                fault = why.Message[..Math.Min(why.Message.Length, 500)];
            }
            await connection.ExecuteAsync("update outgoing_messages set sent_at = case when @fault::text is null then @at end, fault = @fault, tries = tries + 1 where id = @Id", new { message.Id, fault, at });
        }
        await transaction.CommitAsync();
        return sent;
    }
}
