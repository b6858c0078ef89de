using System.Text.Json;

namespace Grate.Core;

/// <summary>The words of contract and database for the members of an enum: NotSeen is "not-seen".</summary>
public static class Word
{
    /// <summary>The word of a member.</summary>
    public static string Of<T>(T member) where T : struct, Enum =>
        JsonNamingPolicy.KebabCaseLower.ConvertName(member.ToString());

    /// <summary>Every word of an enum.</summary>
    public static IEnumerable<string> All<T>() where T : struct, Enum => Enum.GetValues<T>().Select(Of);

    /// <summary>The member of a word, or null.</summary>
    public static T? Find<T>(string? word) where T : struct, Enum =>
        Enum.GetValues<T>().Where(m => Of(m) == word).Select(m => (T?)m).FirstOrDefault();

    /// <summary>The sentence for a word that is missing or not known.</summary>
    /// <param name="what">The field in a technician's words.</param>
    /// <param name="sent">What was sent.</param>
    /// <param name="words">What is known.</param>
    internal static string OneOf(string what, string? sent, IEnumerable<string> words) =>
        $"{what} {(string.IsNullOrEmpty(sent) ? "is missing" : $"“{sent[..Math.Min(sent.Length, 40)]}” is not known")}: one of {string.Join(", ", words)}.";
}
