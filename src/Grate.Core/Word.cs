using System.Diagnostics.CodeAnalysis;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Grate.Core;

/// <summary>A word a user picks, with its name on screen.</summary>
/// <param name="Code">Word of contract and database.</param>
/// <param name="Name">Name on screen.</param>
public sealed record Named(string Code, string Name);

/// <summary>The name of an enum's member on screen, where its word alone does not say it.</summary>
/// <param name="name">The name.</param>
[AttributeUsage(AttributeTargets.Field)]
public sealed class SaidAttribute(string name) : Attribute
{
    /// <summary>The name.</summary>
    public string Name { get; } = name;
}

/// <summary>Says that a word of an entry is one of an enum's: the contract lists them, and the web's types know them.</summary>
/// <param name="of">The enum.</param>
[AttributeUsage(AttributeTargets.Property)]
public sealed class WordsAttribute(Type of) : Attribute
{
    /// <summary>The enum.</summary>
    public Type Of { get; } = of;
}

/// <summary>Enums as kebab-case words in JSON, made at compile time.</summary>
public sealed class WordConverter<T>() : JsonStringEnumConverter<T>(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false)
    where T : struct, Enum;

/// <summary>The words of contract and database for the members of an enum: NotSeen is "not-seen".</summary>
public static class Word
{
    /// <summary>The word of a member.</summary>
    public static string Of<T>(T member) where T : struct, Enum => Of(member.ToString());

    /// <summary>The word of a name of code: "NotSeen" is "not-seen".</summary>
    public static string Of(string name) => JsonNamingPolicy.KebabCaseLower.ConvertName(name);

    /// <summary>Every word of an enum.</summary>
    public static IEnumerable<string> All<T>() where T : struct, Enum => Enum.GetValues<T>().Select(Of);

    /// <summary>The member of a word, or null.</summary>
    public static T? Find<T>(string? word) where T : struct, Enum =>
        Enum.GetValues<T>().Where(m => Of(m) == word).Select(m => (T?)m).FirstOrDefault();

    /// <summary>Every word of an enum with its name on screen.</summary>
    public static IReadOnlyList<Named> Table<[DynamicallyAccessedMembers(DynamicallyAccessedMemberTypes.PublicFields)] T>() where T : struct, Enum =>
        [.. typeof(T).GetFields(BindingFlags.Public | BindingFlags.Static).Select(f => new Named(Of(f.Name), f.GetCustomAttribute<SaidAttribute>()?.Name ?? Spoken(f.Name)))];

    /// <summary>The name of a member on screen.</summary>
    public static string Said<[DynamicallyAccessedMembers(DynamicallyAccessedMemberTypes.PublicFields)] T>(T member) where T : struct, Enum =>
        Table<T>().First(n => n.Code == Of(member)).Name;

    /// <summary>The sentence for a word that is missing or not known.</summary>
    /// <param name="what">The field in a technician's words.</param>
    /// <param name="sent">What was sent.</param>
    /// <param name="words">What is known.</param>
    public static string OneOf(string what, string? sent, IEnumerable<string> words) =>
        $"{what} {(string.IsNullOrEmpty(sent) ? "is missing" : $"“{sent[..Math.Min(sent.Length, 40)]}” is not known")}: one of {string.Join(", ", words)}.";

    // NotSeen is said "Not seen".
    private static string Spoken(string name) => Of(name).Replace('-', ' ') is var words ? char.ToUpperInvariant(words[0]) + words[1..] : name;
}
