using MimeKit;

namespace Grate.Server;

/// <summary>
/// Messages that leave the firm: each is a file (RFC 5322, .eml) in a folder, which stands in for a mail service. Whatever takes
/// mail from there sends it.
/// </summary>
/// <param name="folder">The folder; made with the first message.</param>
public sealed class Outbox(string folder)
{
    /// <summary>Puts a message out.</summary>
    /// <param name="from">The firm's name.</param>
    /// <param name="name">Whom it is for.</param>
    /// <param name="address">Their address.</param>
    /// <param name="subject">What it is about.</param>
    /// <param name="text">What it says.</param>
    /// <param name="at">When.</param>
    /// <param name="calendar">A date that comes with it, iCalendar (RFC 5545) with its method (RFC 6047); or null.</param>
    public async Task PutAsync(string from, string name, string address, string subject, string text, DateTimeOffset at, (string Method, string Text)? calendar = null)
    {
        MimeEntity body = new TextPart("plain") { Text = text };
        if (calendar is { } date)
        {
            var part = new TextPart("calendar") { Text = date.Text, FileName = "visit.ics" };
            part.ContentType.Parameters.Add("method", date.Method);
            body = new Multipart("mixed") { body, part };
        }
        using var message = new MimeMessage([new MailboxAddress(from, "service@firm.example")], [new MailboxAddress(name, address)], subject, body) { Date = at };
        Directory.CreateDirectory(folder);
        var file = Path.Combine(folder, $"{at.UtcDateTime:yyyyMMdd-HHmmss}-{Guid.CreateVersion7():N}.eml");
        // Whoever watches the folder never sees half a message.
        await message.WriteToAsync($"{file}.part");
        File.Move($"{file}.part", file);
    }
}
