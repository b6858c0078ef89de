using Grate.Core;
using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>People of a firm from the command line; passwords come in GRATE_PASSWORD.</summary>
public static class PeopleCommands
{
    private static string Password => Environment.GetEnvironmentVariable("GRATE_PASSWORD") ?? "";

    /// <summary>Whether the arguments are for here.</summary>
    public static bool ArePeopleCommand(this string[] arguments) => arguments is ["add-person" or "set-password" or "remove-person", ..];

    /// <summary>Adds a person, gives another password, or ends a person's access.</summary>
    /// <param name="services">The server's services.</param>
    /// <param name="arguments">add-person ROLE ADDRESS NAME; set-password ADDRESS; remove-person ADDRESS [ADDRESS OF WHO TAKES THEIR VISITS].</param>
    /// <param name="answer">Takes one sentence a line.</param>
    /// <returns>0 if it was done; 1 with sentences otherwise.</returns>
    public static async Task<int> DoForPeopleAsync(this IServiceProvider services, string[] arguments, TextWriter answer)
    {
        await using var scope = services.CreateAsyncScope();
        var (people, staff) = (scope.ServiceProvider.GetRequiredService<UserManager<Person>>(), scope.ServiceProvider.GetRequiredService<Staff>());
        var refused = arguments switch
        {
            ["add-person", var role, var email, var name] when Staff.Roles.Contains(role) => await AddAsync(people, role, email, name),
            ["set-password", var email] => await people.FindByEmailAsync(email) is { } person ? await SetPasswordAsync(staff, person) : Nobody(email),
            ["remove-person", var email] => await RemoveAsync(people, staff, email, null),
            ["remove-person", var email, var visitsTo] => await RemoveAsync(people, staff, email, visitsTo),
            _ => ["Usage: add-person technician|office|owner ADDRESS NAME, set-password ADDRESS (both with the password in GRATE_PASSWORD), or remove-person ADDRESS [ADDRESS OF WHO TAKES THEIR VISITS]."],
        };
        foreach (var sentence in refused)
            await answer.WriteLineAsync(sentence);
        if (refused.Count == 0)
            await answer.WriteLineAsync("Done.");
        return refused.Count == 0 ? 0 : 1;
    }

    private static async Task<IReadOnlyList<string>> AddAsync(UserManager<Person> people, string role, string email, string name)
    {
        if (await people.FindByEmailAsync(email) is not null)
            return [$"{email} is there already."];
        var result = await people.CreateAsync(new Person { Email = email, Name = name, Role = role }, Password);
        return [.. result.Errors.Select(e => e.Description)];
    }

    private static async Task<IReadOnlyList<string>> SetPasswordAsync(Staff staff, Person person)
    {
        var errors = new EntryErrors();
        await staff.SetPasswordAsync(person, Password, errors);
        return [.. errors.ByField.SelectMany(e => e.Value)];
    }

    private static async Task<IReadOnlyList<string>> RemoveAsync(UserManager<Person> people, Staff staff, string email, string? visitsTo)
    {
        if (await people.FindByEmailAsync(email) is not { DisabledAt: null } person)
            return Nobody(email);
        var successor = visitsTo is null ? null : await people.FindByEmailAsync(visitsTo);
        if (visitsTo is not null && successor is null)
            return Nobody(visitsTo);
        var errors = new EntryErrors();
        await staff.RemoveAsync(person, successor?.Id, person.Id, errors);
        return [.. errors.ByField.SelectMany(e => e.Value)];
    }

    private static IReadOnlyList<string> Nobody(string email) => [$"Nobody signs in as {email}."];
}
