using System.Security.Cryptography;
using System.Text;
using Grate.Core;
using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>What is done with people who sign in: passwords, and their leaving. Sessions that rest on it end within a minute.</summary>
public sealed class Staff(UserManager<Person> people, PersonStore store, SessionStore sessions, IPasswordHasher<Person> hasher, TimeProvider clock)
{
    /// <summary>What somebody can be in a firm.</summary>
    public static IReadOnlyList<string> Roles { get; } = ["technician", "office", "owner"];

    // Of no person: an unknown address takes as long as a known one.
    private static readonly Lazy<string> _nobodys = new(() => new PasswordHasher<Person>().HashPassword(new Person(), Guid.NewGuid().ToString()));

    /// <summary>Who an address and a password belong to; null where they do not fit.</summary>
    /// <param name="address">Where the try comes from.</param>
    /// <param name="email">Sign-in address.</param>
    /// <param name="password">Password.</param>
    /// <returns>The person, and how long to wait before the next look where there were too many tries.</returns>
    public async Task<(Person? Person, TimeSpan Wait)> KnowAsync(string address, string email, string password)
    {
        var account = Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(people.NormalizeEmail(email.Trim()) ?? "")));
        var now = clock.GetUtcNow();
        if (await sessions.TakeTryAsync(address, account, now) is var wait && wait > TimeSpan.Zero)
            return (null, wait);
        var person = await people.FindByEmailAsync(email.Trim());
        var known = person is { PasswordHash: not null, DisabledAt: null };
        var fits = hasher.VerifyHashedPassword(person ?? new Person(), known ? person!.PasswordHash! : _nobodys.Value, password) != PasswordVerificationResult.Failed;
        if (!known || !fits)
            return (null, TimeSpan.Zero);
        await sessions.ForgetTriesAsync(address, account, now);
        return (person, TimeSpan.Zero);
    }

    /// <summary>Gives a person another password; every older session of theirs ends.</summary>
    /// <param name="person">Whose.</param>
    /// <param name="password">The password.</param>
    /// <param name="errors">Takes the refusals.</param>
    public async Task SetPasswordAsync(Person person, string password, EntryErrors errors)
    {
        await HashAsync(person, password, errors);
        if (!errors.Any)
            await people.UpdateSecurityStampAsync(person);
    }

    /// <summary>Somebody who is to be of the firm, not kept yet.</summary>
    /// <param name="name">Name, 1 to 200 characters.</param>
    /// <param name="email">Sign-in address, 3 to 254 characters.</param>
    /// <param name="role">technician, office or owner.</param>
    /// <param name="errors">Takes the refusals.</param>
    public Person New(string name, string email, string role, EntryErrors errors)
    {
        errors.CheckLine("name", name, "Name", 200, needed: true);
        if (errors.CheckText("email", email, "Address", 254, needed: true))
            MailAddresses.Check("email", email.Trim(), "Address", errors);
        if (!Roles.Contains(role))
            errors.Add("role", $"A role is one of {string.Join(", ", Roles)}.");
        return new Person { Name = name.Trim(), Email = email.Trim(), NormalizedEmail = people.NormalizeEmail(email.Trim())!, Role = role };
    }

    /// <summary>Gives a person the hash of a password that is good enough; why it is not stands under "password".</summary>
    public async Task HashAsync(Person person, string password, EntryErrors errors)
    {
        if (password.Length > SessionEndpoints.LongestPassword)
            errors.Add("password", $"A password has at most {SessionEndpoints.LongestPassword} characters.");
        else
        {
            foreach (var validator in people.PasswordValidators)
            {
                foreach (var refusal in (await validator.ValidateAsync(people, person, password)).Errors)
                    errors.Add("password", refusal.Description);
            }
        }
        if (!errors.Any)
            person.PasswordHash = hasher.HashPassword(person, password);
    }

    /// <summary>Ends a person's access; their name stays under what they signed.</summary>
    /// <param name="person">Who leaves.</param>
    /// <param name="visitsTo">Who takes their open visits; null where there is nobody.</param>
    /// <param name="by">Who ends it.</param>
    /// <param name="errors">Takes the refusal.</param>
    public async Task RemoveAsync(Person person, Guid? visitsTo, Guid by, EntryErrors errors)
    {
        if (visitsTo is { } successor && (successor == person.Id || !await store.IsTechnicianAsync(successor)))
        {
            errors.Add("visitsTo", "The visits go to another technician of the firm.");
            return;
        }
        switch (await store.RemoveAsync(person.Id, visitsTo, by, clock.GetUtcNow()))
        {
            case RemoveState.LastOwner:
                errors.Add("person", "The firm's last owner stays: make another person owner first.");
                break;
            case RemoveState.HasVisits:
                errors.Add("visitsTo", $"{person.Name} has open visits: say who takes them.");
                break;
            case RemoveState.Taken:
                errors.Add("visitsTo", "Something is recorded in one of the visits, and they have another one at that time: move one of the two first, or say who else takes them.");
                break;
        }
    }
}
