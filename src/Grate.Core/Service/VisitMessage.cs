namespace Grate.Core.Service;

/// <summary>What a household is told of its visit.</summary>
[JsonConverter(typeof(WordConverter<MessageKind>))]
public enum MessageKind
{
    /// <summary>When the visit is.</summary>
    [Said("The date")]
    Planned,

    /// <summary>That it is soon.</summary>
    [Said("A reminder")]
    Reminder,

    /// <summary>That it is not to be.</summary>
    [Said("That it is cancelled")]
    Cancelled,

    /// <summary>That whoever comes is late.</summary>
    [Said("That it will be later")]
    Late,
}

/// <summary>A text that a firm sends, with places for what differs from visit to visit.</summary>
/// <param name="Subject">What it is about, 1 to 150 characters.</param>
/// <param name="Body">What it says, 1 to 4 000 characters; it holds {link}, unless the visit is cancelled.</param>
public sealed record MessageText(string Subject, string Body)
{
    /// <summary>What may stand in a text: {household}, {day}, {from}, {to}, {firm}, {technician}, {address}, {link}, and {reached}: how the firm is.</summary>
    public static IReadOnlyList<string> Places { get; } = ["household", "day", "from", "to", "firm", "technician", "address", "link", "reached"];

    /// <summary>Keys of every language's own texts.</summary>
    public static IReadOnlyList<string> Keys { get; } = [.. Word.All<MessageKind>().SelectMany(k => (string[])[$"message.{k}.subject", $"message.{k}.body"])];

    /// <summary>Refuses what cannot be sent.</summary>
    public void Check(MessageKind kind, EntryErrors errors)
    {
        errors.CheckText("subject", Subject, "Subject", 150, needed: true);
        errors.CheckText("body", Body, "Text", 4000, needed: true);
        foreach (var (field, text) in new[] { ("subject", Subject ?? ""), ("body", Body ?? "") })
        {
            foreach (var place in Braced(text).Where(p => !Places.Contains(p)).Take(3))
                errors.Add(field, $"“{{{place[..Math.Min(place.Length, 40)]}}}” is not known: {string.Join(", ", Places.Select(p => $"{{{p}}}"))} are.");
        }
        if (kind != MessageKind.Cancelled && Body?.Contains("{link}", StringComparison.Ordinal) == false)
            errors.Add("body", "The text holds {link}: by it the household sees its date.");
    }

    /// <summary>The text of a visit. "On {day}, {firm}" on 3 May: "On 3 May 2026, Tarnwick Stoves". What a value holds is never taken for a place.</summary>
    /// <param name="values">What stands at each place.</param>
    public MessageText With(IReadOnlyDictionary<string, string> values)
    {
        string Fill(string text) => string.Concat(text.Split('{').Select((part, i) => i == 0 || part.IndexOf('}') is var end && end < 0 ? i == 0 ? part : $"{{{part}"
            : values.TryGetValue(part[..end], out var value) ? value + part[(end + 1)..] : $"{{{part}"));
        return new(Fill(Subject), Fill(Body));
    }

    private static IEnumerable<string> Braced(string text) => text.Split('{').Skip(1).Where(part => part.Contains('}')).Select(part => part[..part.IndexOf('}')]);
}
