using System.Text.Json.Serialization;

namespace Grate.Core;

/// <summary>Who a piece of a sentence comes from: the screen sets them apart.</summary>
[JsonConverter(typeof(WordConverter<SpanKind>))]
public enum SpanKind
{
    /// <summary>Plain words.</summary>
    Words,

    /// <summary>A number that was measured or entered.</summary>
    Measured,

    /// <summary>A number that was computed.</summary>
    Computed,
}

/// <summary>How much a sentence weighs; the heavier stands first.</summary>
[JsonConverter(typeof(WordConverter<Weight>))]
public enum Weight
{
    /// <summary>No fire.</summary>
    Stop,

    /// <summary>What it is.</summary>
    Verdict,

    /// <summary>What it is not.</summary>
    RuledOut,

    /// <summary>What else to know.</summary>
    Hint,
}

/// <summary>A piece of a sentence.</summary>
/// <param name="Text">The text, spaces included.</param>
/// <param name="Kind">Where it comes from.</param>
public sealed record Span(string Text, SpanKind Kind = SpanKind.Words)
{
    /// <summary>Plain words.</summary>
    public static implicit operator Span(string words) => FromString(words);

    /// <summary>Plain words.</summary>
    public static Span FromString(string words) => new(words);
}

/// <summary>One sentence of the reckoning.</summary>
/// <param name="Spans">Its pieces in order.</param>
/// <param name="Weight">How much it weighs.</param>
public sealed record Sentence(IReadOnlyList<Span> Spans, Weight Weight = Weight.Verdict)
{
    /// <summary>A sentence of pieces. A full stop after "in w.c." is not doubled, within a piece or between two.</summary>
    public static Sentence Say(params Span[] spans)
    {
        var said = spans.Where(s => s.Text.Length > 0).Select(s => s with { Text = s.Text.Replace("w.c..", "w.c.") }).ToList();
        return new([.. said.Select((span, i) => i > 0 && span.Text.StartsWith('.') && said[i - 1].Text.EndsWith('.') ? span with { Text = span.Text[1..] } : span)]);
    }

    /// <summary>A measured number.</summary>
    public static Span Measured(string text) => new(text, SpanKind.Measured);

    /// <summary>A computed number.</summary>
    public static Span Computed(string text) => new(text, SpanKind.Computed);

    /// <inheritdoc/>
    public override string ToString() => string.Concat(Spans.Select(s => s.Text));
}

/// <summary>
/// What a station has to say, put in order: a stop first, then the verdict, then what was ruled out, then hints. Of
/// sentences about the same thing only the heaviest are said, so that none contradicts its neighbour.
/// </summary>
public sealed class Said
{
    private readonly List<(string? About, Sentence Sentence)> _all = [];

    /// <summary>Adds a sentence.</summary>
    /// <param name="weight">How much it weighs.</param>
    /// <param name="sentence">The sentence.</param>
    /// <param name="about">What it speaks of; a heavier sentence about the same silences it. Null: it is said in any case.</param>
    public Said Add(Weight weight, Sentence sentence, string? about = null)
    {
        _all.Add((about, sentence with { Weight = weight }));
        return this;
    }

    /// <summary>Takes over sentences that carry their weight.</summary>
    public Said Take(IEnumerable<Sentence> sentences)
    {
        foreach (var sentence in sentences)
            Add(sentence.Weight, sentence);
        return this;
    }

    /// <summary>What is said, in order; nothing twice.</summary>
    public IReadOnlyList<Sentence> InOrder()
    {
        var heaviest = _all.Where(s => s.About is not null).GroupBy(s => s.About!).ToDictionary(g => g.Key, g => g.Min(s => s.Sentence.Weight));
        return [.. _all.Where(s => s.About is null || s.Sentence.Weight == heaviest[s.About]).Select(s => s.Sentence)
            .DistinctBy(s => s.ToString()).OrderBy(s => s.Weight)];
    }
}
