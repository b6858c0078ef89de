namespace Grate.Core.Service;

/// <summary>What a household says from outside, the most pressing first.</summary>
[JsonConverter(typeof(WordConverter<InboxKind>))]
public enum InboxKind
{
    /// <summary>Carbon monoxide.</summary>
    [Said("CO alarm, headache, dizzy")]
    Co,

    /// <summary>A fire in the flue.</summary>
    [Said("Chimney fire")]
    ChimneyFire,

    /// <summary>Smoke in the room.</summary>
    [Said("Smoke in the room")]
    Smoke,

    /// <summary>They cancelled their visit.</summary>
    [Said("Cancelled")]
    Cancelled,

    /// <summary>They ask for another date.</summary>
    [Said("Asks for another date")]
    Date,

    /// <summary>Anything else.</summary>
    [Said("Writes")]
    Note,

    /// <summary>A picture of the glass.</summary>
    [Said("Picture of the glass")]
    Glass,
}

/// <summary>What in a text from outside cannot wait.</summary>
public static class InboxWords
{
    /// <summary>
    /// What a note is about: what was chosen, else the gravest emergency that one of its words names; a note otherwise. "Smoke came in, call back"
    /// is smoke. A word too many is an emergency that was none; the other way round nobody comes.
    /// </summary>
    /// <param name="chosen">Word of the emergency that was chosen; null or empty where none was.</param>
    /// <param name="text">What they wrote.</param>
    /// <param name="words">Words and groups of words that name an emergency, in every language, small.</param>
    public static InboxKind KindOf(string? chosen, string text, Func<EmergencyKind, IEnumerable<string>> words)
    {
        var kind = Word.Find<EmergencyKind>(chosen);
        var spoken = $" {string.Join(' ', new string([.. text.ToLowerInvariant().Select(c => char.IsLetterOrDigit(c) ? c : ' ')]).Split(' ', StringSplitOptions.RemoveEmptyEntries))} ";
        foreach (var heard in Enum.GetValues<EmergencyKind>())
        {
            if (kind is null && words(heard).Any(w => spoken.Contains($" {w} ", StringComparison.Ordinal)))
                kind = heard;
        }
        return kind is { } named ? Word.Find<InboxKind>(Word.Of(named))!.Value : InboxKind.Note;
    }

    /// <summary>Whether it cannot wait.</summary>
    public static bool Urgent(this InboxKind kind) => kind <= InboxKind.Smoke;
}
