using Grate.Core.Places;
using Grate.Store;
using MimeKit;

namespace Grate.Server;

/// <summary>
/// Messages that leave the firm: each is a file (RFC 5322, .eml) in a folder, which stands in for a mail service. Whatever takes
/// mail from there sends it. A message is a row first, of the transaction of what it tells; what could not be written waits for the next turn.
/// </summary>
/// <param name="folder">The folder; made with the first message.</param>
/// <param name="waiting">The rows.</param>
/// <param name="clock">Now.</param>
/// <param name="log">Takes what went wrong.</param>
public sealed class Outbox(string folder, OutboxStore waiting, TimeProvider clock, ILogger<Outbox> log) : BackgroundService
{
    private static readonly TimeSpan _turn = TimeSpan.FromSeconds(30);

    /// <summary>Why nothing can be sent, in a sentence; null where the firm has an address to send from.</summary>
    public static string? Missing(Firm firm) => firm.Reached.Email.Length > 0 ? null
        : "The firm has no mail address that letters could come from: the owner enters it under Firm, How you are reached.";

    /// <summary>A message of the firm's, to be kept in the transaction of what it tells.</summary>
    /// <param name="firm">The firm; it has a mail address.</param>
    /// <param name="name">Whom it is for.</param>
    /// <param name="addresses">Their addresses as typed.</param>
    /// <param name="subject">What it is about.</param>
    /// <param name="text">What it says.</param>
    /// <param name="at">When.</param>
    /// <param name="calendar">A date that comes with it, iCalendar (RFC 5545) with its method (RFC 6047); or null.</param>
    public static OutgoingMessage Write(Firm firm, string name, string addresses, string subject, string text, DateTimeOffset at, (string Method, string Text)? calendar = null) =>
        new(Guid.CreateVersion7(at), at, firm.Name, firm.Reached.Email, name, string.Join(',', MailAddresses.Of(addresses)), subject, text, calendar?.Method, calendar?.Text);

    /// <summary>Sends what waits; what goes wrong is told in the log and tried again.</summary>
    public async Task SendAsync()
    {
        try
        {
            await waiting.SendAsync(PutAsync, clock.GetUtcNow());
        }
        catch (Exception fault) when (fault is Npgsql.NpgsqlException or TimeoutException)
        {
            log.LogWarning("Messages wait, the database does not answer: {Reason}", fault.Message);
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var turns = new PeriodicTimer(_turn);
        do
            await SendAsync();
        while (await turns.WaitForNextTickAsync(stoppingToken).AsTask().ContinueWith(t => t.IsCompletedSuccessfully && t.Result, TaskScheduler.Default));
    }

    private async Task PutAsync(OutgoingMessage letter)
    {
        MimeEntity body = new TextPart("plain") { Text = letter.Body };
        if (letter is { CalendarMethod: { } method, CalendarText: { } date })
        {
            var part = new TextPart("calendar") { Text = date, FileName = "visit.ics" };
            part.ContentType.Parameters.Add("method", method);
            body = new Multipart("mixed") { body, part };
        }
        using var message = new MimeMessage([new MailboxAddress(letter.FromName, letter.FromAddress)], MailAddresses.Of(letter.ToAddress).Select(a => new MailboxAddress(letter.ToName, a)), letter.Subject, body) { Date = letter.At };
        Directory.CreateDirectory(folder);
        // Its name is its own: written twice, it is one file.
        var file = Path.Combine(folder, $"{letter.At.UtcDateTime:yyyyMMdd-HHmmss}-{letter.Id:N}.eml");
        // Whoever watches the folder never sees half a message.
        await message.WriteToAsync($"{file}.part");
        File.Move($"{file}.part", file, overwrite: true);
    }
}
