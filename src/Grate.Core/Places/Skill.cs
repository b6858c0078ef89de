namespace Grate.Core.Places;

/// <summary>What not everybody who goes out can do.</summary>
[JsonConverter(typeof(WordConverter<Skill>))]
public enum Skill
{
    /// <summary>Work on the roof.</summary>
    Roof,

    /// <summary>Steel liners.</summary>
    Liner,

    /// <summary>Masonry heaters.</summary>
    MasonryHeater,

    /// <summary>Catalytic combustors.</summary>
    Combustor,
}

/// <summary>Which skills a stove asks for.</summary>
public static class Skills
{
    // Constructions of steel liners.
    private static readonly string[] _liners = ["steel-liner-bare", "steel-liner-insulated"];

    /// <summary>Constructions that ask for somebody who knows liners.</summary>
    public static IReadOnlyList<string> Liners => _liners;

    /// <summary>The skills of a stove with its flue. A masonry heater on a bare steel liner whose top has a screen: roof, liner, masonry heater.</summary>
    /// <param name="kind">Word of its kind.</param>
    /// <param name="combustor">Whether it has a combustor.</param>
    /// <param name="liner">Whether steel liners are in its flue.</param>
    /// <param name="screen">Whether a screen at the top has to be cleaned, which nobody does from below.</param>
    public static IEnumerable<Skill> Of(string kind, bool combustor, bool liner, bool screen) =>
        Enum.GetValues<Skill>().Where(s => s switch
        {
            Skill.Roof => screen,
            Skill.Liner => liner,
            Skill.MasonryHeater => kind == StoveKind.MasonryHeater,
            _ => combustor,
        });

    /// <summary>What somebody lacks for a stove; null where nothing. "Tobin Lark is not down for masonry heaters."</summary>
    /// <param name="name">Who goes: one, or several with "and" between them.</param>
    /// <param name="has">Words of their skills.</param>
    /// <param name="needed">What the stove asks for.</param>
    public static string? Lacks(string name, IReadOnlyCollection<string> has, IEnumerable<Skill> needed)
    {
        var lacking = needed.Where(s => !has.Contains(Word.Of(s))).Select(Named).ToList();
        return lacking.Count > 0 ? $"{name} {(name.Contains(" and ", StringComparison.Ordinal) ? "are" : "is")} not down for {string.Join(" and ", lacking)}." : null;
    }

    /// <summary>What somebody is down for.</summary>
    public static string Named(Skill skill) => skill switch
    {
        Skill.Roof => "work on the roof",
        Skill.Liner => "steel liners",
        Skill.MasonryHeater => "masonry heaters",
        _ => "catalytic combustors",
    };
}
