using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>Texts that a firm sends.</summary>
public class VisitMessageTests
{
    private static readonly Dictionary<string, string> _values = new() { ["day"] = "3 May 2026", ["firm"] = "Tarnwick Stoves", ["household"] = "{firm} & Sons" };

    [Theory]
    [InlineData("On {day}, {firm}", "On 3 May 2026, Tarnwick Stoves")]
    // What a household is called is never taken for a place; what is no place stays as it is written.
    [InlineData("Dear {household}", "Dear {firm} & Sons")]
    [InlineData("{day}{day} {nothing} { } {", "3 May 20263 May 2026 {nothing} { } {")]
    public void Places_are_filled(string text, string filled) => Assert.Equal(filled, new MessageText("", text).With(_values).Body);

    [Theory]
    [InlineData("planned", "Date", "See {link}", "")]
    [InlineData("planned", "Date", "See you", "body: The text holds {link}")]
    [InlineData("cancelled", "Date", "It is off", "")]
    [InlineData("reminder", "On {date}", "{link}", "subject: “{date}” is not known: {household}")]
    [InlineData("reminder", "", "{link}", "subject: Subject is missing")]
    public void What_cannot_be_sent_is_told(string kind, string subject, string body, string sentence)
    {
        var errors = new EntryErrors();
        new MessageText(subject, body).Check(Word.Find<MessageKind>(kind)!.Value, errors);
        Assert.StartsWith(sentence, string.Join(' ', errors.ByField.Select(e => $"{e.Key}: {string.Join(' ', e.Value)}")), StringComparison.Ordinal);
        Assert.Equal(sentence.Length > 0, errors.Any);
    }
}
