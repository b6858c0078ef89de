namespace Grate.Core;

/// <summary>What may be entered: an accepted range, and where it is quantity and words.</summary>
/// <param name="Name">The field in a technician's words.</param>
/// <param name="Quantity">Its quantity.</param>
/// <param name="Min">Least accepted value, in the field's unit.</param>
/// <param name="Max">Greatest accepted value, in the field's unit.</param>
/// <param name="Si">SI units in one of the field's, where its name carries another unit: 0.001 for a thickness in mm.</param>
public sealed record EntryRange(string Name, Quantity Quantity, double Min, double Max, double Si = 1)
{
    /// <summary>Price of a piece, a set or a bag, in the firm's money.</summary>
    public static readonly EntryRange Price = new("Price", Quantity.Ratio, 0, 1_000_000);

    /// <summary>Outdoor temperature.</summary>
    public static readonly EntryRange Outdoors = new("Outdoor temperature", Quantity.Temperature, -60, 50);

    /// <summary>Room temperature.</summary>
    public static readonly EntryRange Room = new("Room temperature", Quantity.Temperature, -20, 45);

    /// <summary>Whether a finite value lies in the range.</summary>
    public bool Holds(double value) => value >= Min && value <= Max;

    /// <summary>The sentence for a value outside: field, range and unit, and a guess when another unit was meant.</summary>
    public string Refusal(double value, UnitSystem system)
    {
        var unit = Units.Of(Quantity, system);
        var sentence = double.IsFinite(value)
            ? $"{Name} must lie between {Span(unit)}; {unit.Format(value * Si)} was entered."
            : $"{Name} must be a number between {Span(unit)}.";
        return Guess(value, system) is { } other ? $"{sentence} Did you mean {other.Symbol}?" : sentence;
    }

    /// <summary>The range in words: "−60 and 50 °C".</summary>
    public string Span(Unit unit) => $"{unit.Number(Min * Si)} and {unit.Format(Max * Si)}";

    /// <summary>The other system's unit, if the number as typed would be ordinary there.</summary>
    public Unit? Guess(double value, UnitSystem system)
    {
        var typed = Units.Of(Quantity, system);
        var other = Units.Of(Quantity, system == UnitSystem.Us ? UnitSystem.Metric : UnitSystem.Us);
        return other.Symbol != typed.Symbol && Holds(other.ToSi(typed.FromSi(value * Si)) / Si) ? other : null;
    }
}

/// <summary>Collects sentences about bad input by field path.</summary>
/// <param name="system">The units in which the sentences speak.</param>
public sealed class EntryErrors(UnitSystem system = UnitSystem.Metric)
{
    private readonly Dictionary<string, List<string>> _byField = [];

    /// <summary>Field path to sentences; empty when all is well.</summary>
    public Dictionary<string, string[]> ByField => _byField.ToDictionary(f => f.Key, f => f.Value.ToArray());

    /// <summary>Whether anything was refused.</summary>
    public bool Any => _byField.Count > 0;

    /// <summary>Adds a sentence for a field.</summary>
    public void Add(string field, string sentence)
    {
        if (!_byField.TryGetValue(field, out var sentences))
            _byField[field] = sentences = [];
        sentences.Add(sentence);
    }

    /// <summary>Takes the sentences of another collection over, under the fields of the screen that asked.</summary>
    /// <param name="from">The refusals of a calculation.</param>
    /// <param name="fieldOf">The screen's field of the calculation's.</param>
    public void TakeOver(EntryErrors from, Func<string, string> fieldOf)
    {
        foreach (var (field, sentences) in from._byField)
        {
            foreach (var sentence in sentences)
                Add(fieldOf(field), sentence);
        }
    }

    /// <summary>Refuses a value that is there and outside its range.</summary>
    /// <returns>True if the value is there and accepted.</returns>
    public bool Check(string field, double? value, EntryRange range)
    {
        if (value is not { } entered)
            return false;
        if (range.Holds(entered))
            return true;
        Add(field, range.Refusal(entered, system));
        return false;
    }

    /// <summary>Refuses a text that is missing where it is needed, too long, or holds control characters other than line breaks.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="text">The text; null counts as empty.</param>
    /// <param name="name">The field in a technician's words.</param>
    /// <param name="most">Most characters.</param>
    /// <param name="needed">Whether it must be there.</param>
    /// <returns>True if it is accepted.</returns>
    public bool CheckText(string field, string? text, string name, int most, bool needed = false)
    {
        var sentence = needed && string.IsNullOrWhiteSpace(text) ? $"{name} is missing: 1 to {most} characters."
            : text?.Length > most ? $"{name} has at most {most} characters; {text.Length} were sent."
            : text is not null && HasOddCharacter(text) ? OddCharacter(name) : null;
        if (sentence is not null)
            Add(field, sentence);
        return sentence is null;
    }

    /// <summary>The same for a field of one line: a line break in it is refused, too.</summary>
    /// <returns>True if it is accepted.</returns>
    public bool CheckLine(string field, string? text, string name, int most, bool needed = false)
    {
        if (text?.AsSpan().IndexOfAny('\n', '\r') is null or < 0)
            return CheckText(field, text, name, most, needed);
        Add(field, $"{name} is one line: take the line break out.");
        return false;
    }

    /// <summary>Refuses a name that is missing, too long, or stands twice.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="name">The name, 1 to 80 characters.</param>
    /// <param name="names">The names so far; takes this one.</param>
    /// <param name="one">What each is: "panel".</param>
    public void CheckOwnName(string field, string? name, ISet<string> names, string one = "one")
    {
        if (CheckText(field, name, "Name", 80, needed: true) && !names.Add(name!))
            Add(field, $"“{name}” stands twice: every {one} needs a name of its own.");
    }

    /// <summary>The first so many of a list, each with its place in it; a longer list is refused, and so is an entry sent as null.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="entries">The list; null counts as empty.</param>
    /// <param name="most">How many it may have.</param>
    /// <param name="what">What it is a list of.</param>
    public IReadOnlyList<(T Item, int At)> Each<T>(string field, IReadOnlyList<T>? entries, int most, string what)
    {
        if (entries?.Count > most)
            Add(field, $"At most {most} {what}; {entries.Count} were sent.");
        var sent = (entries ?? []).Take(most).Select((item, at) => (Item: item, At: at)).ToList();
        // A list of numbers may leave one open on purpose; its type says so.
        foreach (var (_, at) in sent.Where(s => s.Item is null && !typeof(T).IsValueType))
            Add($"{field}[{at}]", $"Entry {at + 1} of the {what} is empty: fill it in or leave it out.");
        return [.. sent.Where(s => s.Item is not null || typeof(T).IsValueType)];
    }

    /// <summary>The members that words name, each once; refuses words that name none.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="words">The words; null counts as none.</param>
    /// <param name="name">The field in a technician's words.</param>
    public IReadOnlyList<T> Words<T>(string field, IReadOnlyList<string>? words, string name) where T : struct, Enum =>
        [.. Each(field, words, Enum.GetValues<T>().Length * 2, "words").Select(w => Need<T>(field, w.Item, name)).OfType<T>().Distinct()];

    /// <summary>Refuses an id that the client did not make as a UUIDv7: a repeated send could not be told from another.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="id">The id.</param>
    /// <param name="whose">Whose it is: "A save".</param>
    public void CheckId(string field, Guid id, string whose)
    {
        if (id.Version != 7)
            Add(field, $"{whose}'s id is a UUIDv7 made by the client.");
    }

    /// <summary>Whether a text holds a control character other than line breaks and tabs.</summary>
    public static bool HasOddCharacter(string text) => text.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t'));

    /// <summary>The sentence for such a text.</summary>
    /// <param name="name">The field in a technician's words.</param>
    public static string OddCharacter(string name) => $"{name} holds a character that cannot be kept: take it out.";

    /// <summary>Refuses a word that is missing or none of an enum's.</summary>
    /// <returns>The member, or null if it was refused.</returns>
    public T? Need<T>(string field, string? word, string name)
        where T : struct, Enum
    {
        var found = Word.Find<T>(word);
        if (found is null)
            Add(field, Word.OneOf(name, word, Word.All<T>()));
        return found;
    }

    /// <summary>Refuses a word that is there and none of an enum's.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="word">The word; null where it was left out.</param>
    /// <param name="name">The field in a technician's words.</param>
    public void CheckWord<T>(string field, string? word, string name)
        where T : struct, Enum
    {
        if (word is not null)
            Need<T>(field, word, name);
    }

    /// <summary>Refuses a value that is missing or outside its range.</summary>
    /// <returns>True if the value is there and accepted.</returns>
    public bool Need(string field, double? value, EntryRange range)
    {
        if (value is null)
            Add(field, $"{range.Name} is missing; between {range.Span(Units.Of(range.Quantity, system))}.");
        return Check(field, value, range);
    }
}
