using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>The first people of a firm, from the command line: add-person ROLE ADDRESS NAME, password in GRATE_PASSWORD.</summary>
public static class AddPerson
{
    private static readonly string[] _roles = ["technician", "office", "owner"];

    /// <summary>Adds a person.</summary>
    /// <param name="services">The server's services.</param>
    /// <param name="arguments">Role, address, name.</param>
    /// <param name="answer">Takes one sentence a line.</param>
    /// <returns>0 if added; 1 with sentences otherwise.</returns>
    public static async Task<int> AddPersonAsync(this IServiceProvider services, string[] arguments, TextWriter answer)
    {
        if (arguments is not [var role, var email, var name] || !_roles.Contains(role))
        {
            await answer.WriteLineAsync("Usage: add-person technician|office|owner ADDRESS NAME, with the password in GRATE_PASSWORD.");
            return 1;
        }
        await using var scope = services.CreateAsyncScope();
        var people = scope.ServiceProvider.GetRequiredService<UserManager<Person>>();
        if (await people.FindByEmailAsync(email) is not null)
        {
            await answer.WriteLineAsync($"{email} is there already.");
            return 1;
        }
        var result = await people.CreateAsync(new Person { Email = email, Name = name, Role = role }, Environment.GetEnvironmentVariable("GRATE_PASSWORD") ?? "");
        foreach (var error in result.Errors)
            await answer.WriteLineAsync(error.Description);
        if (result.Succeeded)
            await answer.WriteLineAsync($"{name} can sign in as {email}.");
        return result.Succeeded ? 0 : 1;
    }
}
