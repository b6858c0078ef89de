namespace Grate.Core;

/// <summary>One scale for all parts (handbook 10 section 2).</summary>
[JsonConverter(typeof(WordConverter<Condition>))]
public enum Condition
{
    /// <summary>Leave.</summary>
    Sound,

    /// <summary>Look again by a date.</summary>
    Wearing,

    /// <summary>Renew.</summary>
    Spent,

    /// <summary>No fire.</summary>
    Unsafe,

    /// <summary>Not seen, with the reason.</summary>
    NotSeen,
}
