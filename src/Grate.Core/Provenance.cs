namespace Grate.Core;

/// <summary>Where a value comes from (handbook, conventions).</summary>
[JsonConverter(typeof(WordConverter<Mark>))]
public enum Mark
{
    /// <summary>[S] published, copy at hand.</summary>
    Published,

    /// <summary>[S (mem)] published, written down from memory.</summary>
    FromMemory,

    /// <summary>[P] common practice of the trade.</summary>
    CommonPractice,

    /// <summary>[A] an assumption of ours, a default the user can change.</summary>
    Assumption,
}

/// <summary>A value that decides something: with unit, source and a one-line reason.</summary>
/// <param name="Value">The value, in <paramref name="Unit"/>.</param>
/// <param name="Unit">SI unit as shown, empty for a ratio.</param>
/// <param name="Mark">Provenance.</param>
/// <param name="Reason">One line: source and why.</param>
public sealed record Limit(double Value, string Unit, Mark Mark, string Reason)
{
    /// <summary>A limit met within so little counts as met.</summary>
    internal const double Met = 1e-9;

    /// <summary>An assumption of ours.</summary>
    public static Limit Assumed(double value, string unit, string reason) => new(value, unit, Mark.Assumption, reason);

    /// <summary>Common practice of the trade.</summary>
    public static Limit Practice(double value, string unit, string reason) => new(value, unit, Mark.CommonPractice, reason);

    /// <summary>A published value written down from memory.</summary>
    public static Limit Memory(double value, string unit, string reason) => new(value, unit, Mark.FromMemory, reason);
}

/// <summary>A default that stood in for a missing entry.</summary>
/// <param name="Field">Path of the entry, as in the contract.</param>
/// <param name="Value">Number or word used.</param>
/// <param name="Mark">Provenance of the default.</param>
/// <param name="Reason">One line.</param>
public sealed record Assumed(string Field, object Value, Mark Mark, string Reason);

/// <summary>Collects the defaults used while entries are completed.</summary>
public sealed class Assumptions
{
    private readonly List<Assumed> _used = [];

    /// <summary>Every default used so far.</summary>
    public IReadOnlyList<Assumed> Used => _used;

    /// <summary>The entry, or the default, which is then listed.</summary>
    public double Or(double? entered, string field, Limit fallback)
    {
        if (entered is { } value)
            return value;
        _used.Add(new Assumed(field, fallback.Value, fallback.Mark, fallback.Reason));
        return fallback.Value;
    }

    /// <summary>The word entered, or an assumption of ours, which is then listed.</summary>
    public T Or<T>(string? word, string field, T fallback, string reason)
        where T : struct, Enum
    {
        if (word is null)
            Note(field, Word.Of(fallback), Mark.Assumption, reason);
        return Word.Find<T>(word) ?? fallback;
    }

    /// <summary>What was said, or an assumption of ours, which is then listed.</summary>
    public bool Or(bool? said, string field, bool fallback, string reason)
    {
        if (said is null)
            Note(field, fallback, Mark.Assumption, reason);
        return said ?? fallback;
    }

    /// <summary>Lists a default that is a word, not a number.</summary>
    public void Note(string field, object value, Mark mark, string reason) =>
        _used.Add(new Assumed(field, value, mark, reason));
}

/// <summary>The rules' version, stored beside every computed result.</summary>
public static class Rules
{
    /// <summary>Raised whenever a formula, limit or default changes.</summary>
    public const string Version = "2026-11-28.1";
}
