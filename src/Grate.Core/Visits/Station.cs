using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;

namespace Grate.Core.Visits;

/// <summary>An answer that says what it concludes.</summary>
public interface IReckoned
{
    /// <summary>What follows, in order of weight. Screen, report and finding print these and word nothing again.</summary>
    IReadOnlyList<Sentence> Sentences { get; }
}

/// <summary>A stop that follows from numbers.</summary>
/// <param name="Code">Word of its reason.</param>
/// <param name="Why">The numbers it rests on, in a sentence.</param>
/// <param name="Where">What was measured, each to be measured again before it is over; null where the stop has one measure alone.</param>
public sealed record ComputedStop(string Code, string Why, IReadOnlyList<string>? Where = null);

/// <summary>A re-test of its kind that numbers have passed.</summary>
/// <param name="Code">Word of the stop's reason.</param>
/// <param name="What">The numbers, in a sentence.</param>
/// <param name="Where">What was measured again and is good; null where the stop has one measure alone.</param>
public sealed record PassedRetest(string Code, string What, IReadOnlyList<string>? Where = null);

/// <summary>What a save keeps of a station: everything that was concluded then.</summary>
/// <param name="Entry">The entry, JSON.</param>
/// <param name="Answer">The answer, JSON.</param>
/// <param name="Sentences">Its sentences.</param>
/// <param name="Facts">Its facts.</param>
/// <param name="Stops">The stops that follow.</param>
/// <param name="BlocksSigning">Why the visit cannot be signed while it stands so, or none.</param>
/// <param name="Passed">Re-tests that its numbers have passed: they end this visit's own stops of their kind.</param>
public sealed record StationOutcome(string Entry, string Answer, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Fact> Facts, IReadOnlyList<ComputedStop> Stops, string? BlocksSigning,
    IReadOnlyList<PassedRetest> Passed);

/// <summary>Does something with a station whose types are known.</summary>
public interface IStationVisitor
{
    /// <summary>Meets a station.</summary>
    void Meet<TEntry, TAnswer>(Station<TEntry, TAnswer> station)
        where TEntry : class
        where TAnswer : class, IReckoned;
}

/// <summary>One check of a visit, as those see it who do not know its types.</summary>
public interface IStation
{
    /// <summary>Its word: "hot-draft".</summary>
    string Code { get; }

    /// <summary>Its name on screen.</summary>
    string Name { get; }

    /// <summary>Steps it stands in, in working order.</summary>
    IReadOnlyList<string> Steps { get; }

    /// <summary>A later step in which the same entry is shown once more, or none: what came out goes back there.</summary>
    string? AgainIn { get; }

    /// <summary>Whether it stands after the other stations of its step, whichever part they are of: it needs what they begin.</summary>
    bool AfterTheOthers { get; }

    /// <summary>A feature of the stove it needs, or none.</summary>
    string? Feature { get; }

    /// <summary>What signing asks for where nothing was recorded here, such as "no draft was read"; null where nothing is missed.</summary>
    string? MissedAs { get; }

    /// <summary>Version of the stored entry's shape.</summary>
    int Schema { get; }

    /// <summary>Names of its facts whose median over the firm's visits is of use.</summary>
    IReadOnlyList<string> Learns { get; }

    /// <summary>Lets a visitor meet it with its types.</summary>
    void Accept(IStationVisitor visitor);

    /// <summary>A stored entry as today's shape has it.</summary>
    string Upgraded(string stored, int schema);

    /// <summary>What today's rules say to a stored entry; null where they refuse it.</summary>
    StationOutcome? Reckon(string stored, int schema, VisitContext at, EntryErrors errors);

    /// <summary>Tables and the like for the report, from what was kept; none where the answer is of an older shape.</summary>
    IReadOnlyList<ReportBlock> Blocks(string stored, string? answer, int schema, UnitSystem system);
}

/// <summary>One check of a visit: what is entered, what follows from it. No I/O, no clock.</summary>
/// <typeparam name="TEntry">What is entered; every field may still be missing.</typeparam>
/// <typeparam name="TAnswer">What follows.</typeparam>
public abstract class Station<TEntry, TAnswer> : IStation
    where TEntry : class
    where TAnswer : class, IReckoned
{
    /// <inheritdoc/>
    public abstract string Code { get; }

    /// <inheritdoc/>
    public abstract string Name { get; }

    /// <inheritdoc/>
    public abstract IReadOnlyList<string> Steps { get; }

    /// <inheritdoc/>
    public virtual string? AgainIn => null;

    /// <inheritdoc/>
    public virtual bool AfterTheOthers => false;

    /// <inheritdoc/>
    public virtual string? Feature => null;

    /// <inheritdoc/>
    public virtual string? MissedAs => null;

    /// <inheritdoc/>
    public virtual int Schema => 1;

    /// <inheritdoc/>
    public virtual IReadOnlyList<string> Learns => [];

    /// <summary>How the entry is written.</summary>
    public abstract JsonTypeInfo<TEntry> EntryJson { get; }

    /// <summary>How the answer is written.</summary>
    public abstract JsonTypeInfo<TAnswer> AnswerJson { get; }

    /// <summary>Answers an entry.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of the entry.</returns>
    public abstract TAnswer? Answer(TEntry entry, VisitContext at, EntryErrors errors);

    /// <summary>What history, due dates and other stations may read of it.</summary>
    public virtual IEnumerable<Fact> Facts(TEntry entry, TAnswer answer) => [];

    /// <summary>The stops that follow from its numbers, every one.</summary>
    public virtual IEnumerable<ComputedStop> Stops(TEntry entry, TAnswer answer) => [];

    /// <summary>
    /// Re-tests of stops that its numbers have passed: measured again, and good. A number that is missing passes nothing, so that
    /// emptying a field ends no stop.
    /// </summary>
    public virtual IEnumerable<PassedRetest> Passed(TEntry entry, TAnswer answer) => [];

    /// <summary>Why the visit cannot be signed while it stands so.</summary>
    public virtual string? BlocksSigning(TEntry entry) => null;

    /// <summary>Tables for the report; its sentences are printed in any case.</summary>
    protected virtual IEnumerable<ReportBlock> Report(TEntry entry, TAnswer answer, UnitSystem system) => [];

    /// <summary>A stored entry one shape later; called for every shape up to today's.</summary>
    /// <param name="stored">The entry.</param>
    /// <param name="from">Its shape.</param>
    protected virtual JsonNode Upgrade(JsonNode stored, int from) => stored;

    /// <summary>Everything that a save keeps; null where the entry is refused.</summary>
    public StationOutcome? Reckon(TEntry entry, VisitContext at, EntryErrors errors)
    {
        if (Answer(entry, at, errors) is not { } answer || errors.Any)
            return null;
        return new StationOutcome(JsonSerializer.Serialize(entry, EntryJson), JsonSerializer.Serialize(answer, AnswerJson), answer.Sentences,
            [.. Facts(entry, answer)], [.. Stops(entry, answer)], BlocksSigning(entry), [.. Passed(entry, answer)]);
    }

    /// <summary>A stored entry, read.</summary>
    /// <exception cref="JsonException">It is not readable.</exception>
    public TEntry Read(string stored, int schema) => JsonSerializer.Deserialize(Upgraded(stored, schema), EntryJson) ?? throw new JsonException($"{Code}: the stored entry is empty.");

    /// <inheritdoc/>
    public void Accept(IStationVisitor visitor) => visitor.Meet(this);

    /// <inheritdoc/>
    public string Upgraded(string stored, int schema)
    {
        if (schema == Schema)
            return stored;
        var node = JsonNode.Parse(stored)!;
        for (var from = schema; from < Schema; from++)
            node = Upgrade(node, from);
        return node.ToJsonString();
    }

    /// <inheritdoc/>
    public StationOutcome? Reckon(string stored, int schema, VisitContext at, EntryErrors errors) => Reckon(Read(stored, schema), at, errors);

    /// <inheritdoc/>
    public IReadOnlyList<ReportBlock> Blocks(string stored, string? answer, int schema, UnitSystem system) =>
        answer is not null && schema == Schema && JsonSerializer.Deserialize(answer, AnswerJson) is { } kept ? [.. Report(Read(stored, schema), kept, system)] : [];
}
