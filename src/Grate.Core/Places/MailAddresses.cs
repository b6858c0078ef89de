using System.Text.RegularExpressions;

namespace Grate.Core.Places;

/// <summary>
/// Mail addresses as they are typed: what is kept can be written to. Dots and letters of any language, no quoted or bracketed forms
/// (a part of RFC 5322 section 3.4.1 and RFC 6531; a test holds everything that is accepted against a mail library).
/// </summary>
public static partial class MailAddresses
{
    /// <summary>Most addresses in a field that takes several.</summary>
    public const int Most = 3;

    private const int Longest = 254;

    /// <summary>The addresses of a field, parted by commas or semicolons; "a@b.example; c@d.example" are two.</summary>
    public static IReadOnlyList<string> Of(string typed) => typed.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    /// <summary>Refuses what nobody can be written to.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="typed">What was typed; null and empty are none.</param>
    /// <param name="name">The field in a technician's words.</param>
    /// <param name="errors">Takes the refusal.</param>
    /// <param name="most">Most addresses.</param>
    public static void Check(string field, string? typed, string name, EntryErrors errors, int most = 1)
    {
        if (string.IsNullOrEmpty(typed) || !errors.CheckLine(field, typed, name, Longest))
            return;
        var addresses = Of(typed);
        if (addresses.Count > most)
            errors.Add(field, most == 1 ? $"{name} is one address; {addresses.Count} were entered." : $"{name}: at most {most} addresses; {addresses.Count} were entered.");
        if (addresses.FirstOrDefault(a => !Address().IsMatch(a)) is { } bad)
            errors.Add(field, $"“{bad[..Math.Min(bad.Length, 40)]}” is no mail address: one looks like name@place.example.");
        else if (addresses.Count == 0)
            errors.Add(field, $"{name} is no mail address: one looks like name@place.example.");
    }

    [GeneratedRegex(@"^[\p{L}\p{N}!#$%&'*+/=?^_`{|}~-]+(\.[\p{L}\p{N}!#$%&'*+/=?^_`{|}~-]+)*@[\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?(\.[\p{L}\p{N}]([\p{L}\p{N}-]*[\p{L}\p{N}])?)+\z", RegexOptions.CultureInvariant)]
    private static partial Regex Address();
}
