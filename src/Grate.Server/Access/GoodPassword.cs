using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>
/// Refuses passwords that are guessed first: those that hold the person's own name or address, the firm's name, or a word of
/// the shipped list of common ones (from memory). No rule asks for kinds of characters; the length is ASP.NET Core Identity's option.
/// </summary>
public sealed class GoodPassword(FirmStore firms) : IPasswordValidator<Person>
{
    private const int ShortestName = 4;

    private static readonly string[] _common = ReadCommon();

    /// <inheritdoc/>
    public async Task<IdentityResult> ValidateAsync(UserManager<Person> manager, Person user, string? password)
    {
        var firm = await firms.FindAsync();
        var held = Words(user.Name).Concat(Words(user.Email)).Concat(Words(firm?.Name)).Concat(Words(firm?.Place)).Where(w => w.Length >= ShortestName).Concat(_common)
            .FirstOrDefault(word => password?.Contains(word, StringComparison.OrdinalIgnoreCase) == true);
        return held is null ? IdentityResult.Success
            : IdentityResult.Failed(new IdentityError { Code = "Guessed", Description = $"“{held}” in a password is guessed first: take words that nobody connects with you or the firm." });
    }

    private static string[] Words(string? text) => (text ?? "").Split([' ', '-', '.', ',', '@', '_', '\''], StringSplitOptions.RemoveEmptyEntries);

    private static string[] ReadCommon()
    {
        using var reader = new StreamReader(typeof(GoodPassword).Assembly.GetManifestResourceStream("Grate.Server.Access.common-passwords.txt")!);
        return reader.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
    }
}
