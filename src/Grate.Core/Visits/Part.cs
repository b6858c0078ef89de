namespace Grate.Core.Visits;

/// <summary>Something that is looked at and marked sound … unsafe.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="Steps">Steps it is marked in; before and after are two marks.</param>
public sealed record PartMark(string Code, string Name, params string[] Steps)
{
    private static readonly Condition[] _all = Enum.GetValues<Condition>();

    /// <summary>A feature of the stove it needs, or none.</summary>
    public string? Feature { get; init; }

    /// <summary>Months after which it is looked at again; null where it has no interval of its own.</summary>
    public Limit? Again { get; init; }

    /// <summary>Whether it wears. A distance or a draft does not: it is right, or it is to be put right, and nothing of it "holds for now".</summary>
    public bool Wears { get; init; } = true;

    /// <summary>Conditions it may have: smoke at the door is never worn out.</summary>
    public IReadOnlyList<Condition> Words { get; init; } = _all;
}

/// <summary>A reason why no fire may be lit until it is cleared (handbook 11 section 1).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Sentence">What is said on every page and in the report.</param>
/// <param name="Parts">Parts at which it is offered; none means anywhere.</param>
public sealed record StopReason(string Code, string Sentence, params string[] Parts)
{
    /// <summary>What has to be tested again, and pass, before it is cleared.</summary>
    public required string Retest { get; init; }
}

/// <summary>Something that has to be in the van.</summary>
/// <param name="What">What, sizes in the shown units.</param>
/// <param name="Why">What for.</param>
public sealed record VanItem(string What, string Why);

/// <summary>A part of the trade: its stations, what it looks at, what stops a stove, what it makes due, what it needs.</summary>
public interface IPart
{
    /// <summary>Its word.</summary>
    string Code { get; }

    /// <summary>Its stations, in the order on screen.</summary>
    IReadOnlyList<IStation> Stations => [];

    /// <summary>What is marked.</summary>
    IReadOnlyList<PartMark> Marks => [];

    /// <summary>What stops a stove.</summary>
    IReadOnlyList<StopReason> Stops => [];

    /// <summary>Tasks it makes due beside those of its marks.</summary>
    IEnumerable<DueTask> Due(StoveHistory history, DateOnly today) => [];

    /// <summary>How the names of the facts begin that <see cref="Due"/> reads, so do those of <see cref="Wants"/>: a run over every stove reads no others.</summary>
    IReadOnlyList<string> DueReads => [];

    /// <summary>What it wants from the stock, by what signed visits found: it is kept with what is due, and reads the same facts.</summary>
    IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today) => [];

    /// <summary>What it needs from the van.</summary>
    IEnumerable<VanItem> Van(VisitContext at) => [];
}
