namespace Grate.Core;

/// <summary>Who a piece of a sentence comes from: the screen sets them apart.</summary>
public enum SpanKind
{
    /// <summary>Plain words.</summary>
    Words,

    /// <summary>A number that was measured or entered.</summary>
    Measured,

    /// <summary>A number that was computed.</summary>
    Computed,
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
public sealed record Sentence(IReadOnlyList<Span> Spans)
{
    /// <summary>A sentence of pieces. A full stop after "in w.c." is not doubled.</summary>
    public static Sentence Say(params Span[] spans) => new([.. spans.Select((span, i) =>
        i > 0 && span.Text.StartsWith('.') && spans[i - 1].Text.EndsWith('.') ? span with { Text = span.Text[1..] } : span)]);

    /// <summary>A measured number.</summary>
    public static Span Measured(string text) => new(text, SpanKind.Measured);

    /// <summary>A computed number.</summary>
    public static Span Computed(string text) => new(text, SpanKind.Computed);

    /// <inheritdoc/>
    public override string ToString() => string.Concat(Spans.Select(s => s.Text));
}
