using Dapper;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Grate.Store;

/// <summary>Someone of the firm who can sign in.</summary>
public sealed class Person
{
    /// <summary>UUIDv7.</summary>
    public Guid Id { get; set; } = Guid.CreateVersion7();

    /// <summary>Sign-in address.</summary>
    public string Email { get; set; } = "";

    /// <summary>The address as compared.</summary>
    public string NormalizedEmail { get; set; } = "";

    /// <summary>Name as shown and signed.</summary>
    public string Name { get; set; } = "";

    /// <summary>technician, office or owner.</summary>
    public string Role { get; set; } = "";

    /// <summary>Hash by ASP.NET Core Identity; null for someone without sign-in.</summary>
    public string? PasswordHash { get; set; }

    /// <summary>Changes when the password does; ends older sessions.</summary>
    public string SecurityStamp { get; set; } = Guid.NewGuid().ToString("N");

    /// <summary>Since when they may sign in no more; null while they may.</summary>
    public DateTimeOffset? DisabledAt { get; set; }
}

/// <summary>Someone who goes out.</summary>
public sealed record Technician(Guid Id, string Name);

/// <summary>Someone who goes out, with words of their skills; none where nobody noted any.</summary>
public sealed record SkilledTechnician(Guid Id, string Name, string[] Skills);

/// <summary>Someone of the firm in a list.</summary>
/// <param name="Id">Their id.</param>
/// <param name="Name">Name.</param>
/// <param name="Email">Sign-in address.</param>
/// <param name="Role">technician, office or owner.</param>
/// <param name="DisabledAt">Since when they may sign in no more; null while they may.</param>
/// <param name="OpenVisits">Visits they hold.</param>
/// <param name="Skills">Words of what they can do that not everybody can.</param>
public sealed record PersonLine(Guid Id, string Name, string Email, string Role, DateTimeOffset? DisabledAt, int OpenVisits, string[] Skills);

/// <summary>What became of a removal.</summary>
public enum RemoveState
{
    /// <summary>Their access has ended.</summary>
    Removed,

    /// <summary>Nobody would be left to own the firm.</summary>
    LastOwner,

    /// <summary>They hold open visits, and nobody was named for them.</summary>
    HasVisits,

    /// <summary>Who was named is elsewhere at one of those times.</summary>
    Taken,
}

/// <summary>The people of the firm, as ASP.NET Core Identity's managers ask for them.</summary>
public sealed class PersonStore(NpgsqlDataSource database) :
    IUserPasswordStore<Person>, IUserSecurityStampStore<Person>, IUserEmailStore<Person>, IUserRoleStore<Person>
{
    private const string Columns = """
        select id, email, normalized_email, name, role, password_hash, security_stamp, disabled_at
        from people
        """;

    /// <summary>Whether there is such a technician.</summary>
    public async Task<bool> IsTechnicianAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select 1 from people where id = @id and role = 'technician' and disabled_at is null)", new { id });
    }

    /// <summary>Whether there is anybody yet.</summary>
    public async Task<bool> AnyAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select from people)");
    }

    /// <summary>Everyone who goes out, by name.</summary>
    public async Task<IReadOnlyList<Technician>> TechniciansAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Technician>("select id, name from people where role = 'technician' and disabled_at is null order by name")];
    }

    /// <summary>Everyone who goes out, by name, with what they are down for.</summary>
    public async Task<IReadOnlyList<SkilledTechnician>> SkillsAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<SkilledTechnician>("select id, name, skills from people where role = 'technician' and disabled_at is null order by name")];
    }

    /// <summary>Everybody of the firm, by name; those who left last.</summary>
    public async Task<IReadOnlyList<PersonLine>> ListAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<PersonLine>("""
            select p.id, p.name, p.email, p.role, p.disabled_at, (select count(*)::int from visits v where v.technician_id = p.id and v.state = 'open') as open_visits, p.skills
            from people p order by p.disabled_at is not null, p.name
            """)];
    }

    /// <summary>Sets what somebody can do that not everybody can.</summary>
    /// <returns>False where there is no such person.</returns>
    public async Task<bool> SetSkillsAsync(Guid id, string[] skills)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update people set skills = @skills where id = @id and disabled_at is null", new { id, skills }) == 1;
    }

    /// <summary>Gives oneself another name; it stands under what is signed from now on.</summary>
    public async Task RenameAsync(Guid id, string name)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("update people set name = @name where id = @id", new { id, name });
    }

    /// <summary>Ends a person's access, with their sessions and calendars; open visits pass to another technician.</summary>
    /// <param name="id">Who leaves.</param>
    /// <param name="visitsTo">Who takes their open visits; one that overlaps another of theirs waits for a new time.</param>
    /// <param name="by">Who ends it.</param>
    /// <param name="at">When.</param>
    public async Task<RemoveState> RemoveAsync(Guid id, Guid? visitsTo, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // One at a time: two owners who remove each other leave one.
        var owners = (await connection.QueryAsync<Guid>("select id from people where role = 'owner' and disabled_at is null order by id for update")).ToList();
        if (owners is [var last] && last == id)
            return RemoveState.LastOwner;
        if (visitsTo is { } taker && await HandOverAsync(connection, id, taker, by, at) is { } refused)
            return refused;
        await connection.ExecuteAsync("update visits set helpers = array_remove(helpers, @id), plan_version = plan_version + 1 where @id = any(helpers) and state = 'open'", new { id });
        if (await connection.QuerySingleAsync<bool>("select exists (select from visits where technician_id = @id and state = 'open')", new { id }))
            return RemoveState.HasVisits;
        await connection.ExecuteAsync("update people set disabled_at = @at, password_hash = null, security_stamp = @stamp where id = @id", new { id, at, stamp = Guid.NewGuid().ToString("N") });
        await connection.ExecuteAsync("update sessions set ended_at = @at where person_id = @id and ended_at is null", new { id, at });
        await connection.ExecuteAsync("update calendar_feeds set revoked_at = @at where revoked_at is null and (created_by = @id or person_id = @id)", new { id, at });
        await transaction.CommitAsync();
        return RemoveState.Removed;
    }

    // Each with its log and its version, so that whoever looks at the old plan is told.
    private static async Task<RemoveState?> HandOverAsync(NpgsqlConnection connection, Guid id, Guid taker, Guid by, DateTimeOffset at)
    {
        var open = (await connection.QueryAsync<(Guid Visit, bool Begun, string From, string To)>($"""
            select v.id, {PlanStore.Begun}, t.name, n.name from visits v join people t on t.id = v.technician_id join people n on n.id = @taker
            where v.technician_id = @id and v.state = 'open' order by v.id for update of v
            """, new { id, taker })).ToList();
        foreach (var (visit, begun, from, to) in open)
        {
            if (await connection.QuerySingleAsync<bool>("""
                select exists (select from visit_times mine join visit_times theirs on theirs.person_id = @taker and theirs.during && mine.during and theirs.visit_id <> mine.visit_id where mine.visit_id = @visit and mine.person_id = @id)
                """, new { visit, taker, id }))
            {
                if (begun)
                    return RemoveState.Taken;
                await PlanStore.LoosenAsync(connection, visit, $"{from} left, and {to} has another visit then; it waits for another time.", by, at);
                continue;
            }
            await connection.ExecuteAsync("update visits set technician_id = @taker, helpers = array_remove(helpers, @taker), plan_version = plan_version + 1 where id = @visit", new { visit, taker });
            await PlanStore.LogAsync(connection, visit, by, at, $"Handed over from {from} to {to}.");
        }
        return null;
    }

    /// <inheritdoc/>
    public async Task<IdentityResult> CreateAsync(Person user, CancellationToken cancellationToken)
    {
        await using var connection = await database.OpenConnectionAsync(cancellationToken);
        await AddAsync(connection, user);
        return IdentityResult.Success;
    }

    internal static Task AddAsync(NpgsqlConnection connection, Person person) => connection.ExecuteAsync("""
        insert into people (id, email, normalized_email, name, role, password_hash, security_stamp)
        values (@Id, @Email, @NormalizedEmail, @Name, @Role, @PasswordHash, @SecurityStamp)
        """, person);

    /// <inheritdoc/>
    public async Task<IdentityResult> UpdateAsync(Person user, CancellationToken cancellationToken)
    {
        await using var connection = await database.OpenConnectionAsync(cancellationToken);
        await connection.ExecuteAsync("""
            update people set email = @Email, normalized_email = @NormalizedEmail, name = @Name, role = @Role,
                password_hash = @PasswordHash, security_stamp = @SecurityStamp
            where id = @Id
            """, user);
        return IdentityResult.Success;
    }

    /// <summary>People stay: their names stand under signed visits.</summary>
    public Task<IdentityResult> DeleteAsync(Person user, CancellationToken cancellationToken) =>
        Task.FromResult(IdentityResult.Failed(new IdentityError { Description = "People are not deleted: their names stand under signed visits." }));

    /// <inheritdoc/>
    public async Task<Person?> FindByIdAsync(string userId, CancellationToken cancellationToken) =>
        Guid.TryParse(userId, out var id) ? await OneAsync("id = @id", new { id }, cancellationToken) : null;

    /// <inheritdoc/>
    public Task<Person?> FindByNameAsync(string normalizedUserName, CancellationToken cancellationToken) =>
        FindByEmailAsync(normalizedUserName, cancellationToken);

    /// <inheritdoc/>
    public Task<Person?> FindByEmailAsync(string normalizedEmail, CancellationToken cancellationToken) =>
        OneAsync("normalized_email = @normalizedEmail", new { normalizedEmail }, cancellationToken);

    /// <inheritdoc/>
    public async Task<IList<Person>> GetUsersInRoleAsync(string roleName, CancellationToken cancellationToken)
    {
        await using var connection = await database.OpenConnectionAsync(cancellationToken);
        return [.. await connection.QueryAsync<Person>($"{Columns} where role = lower(@roleName) order by name", new { roleName })];
    }

    /// <inheritdoc/>
    public Task<string> GetUserIdAsync(Person user, CancellationToken cancellationToken) => Task.FromResult(user.Id.ToString());

    /// <inheritdoc/>
    public Task<string?> GetUserNameAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Email);

    /// <inheritdoc/>
    public Task SetUserNameAsync(Person user, string? userName, CancellationToken cancellationToken) => Done(() => user.Email = userName ?? "");

    /// <inheritdoc/>
    public Task<string?> GetNormalizedUserNameAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.NormalizedEmail);

    /// <inheritdoc/>
    public Task SetNormalizedUserNameAsync(Person user, string? normalizedName, CancellationToken cancellationToken) =>
        Done(() => user.NormalizedEmail = normalizedName ?? "");

    /// <inheritdoc/>
    public Task SetPasswordHashAsync(Person user, string? passwordHash, CancellationToken cancellationToken) => Done(() => user.PasswordHash = passwordHash);

    /// <inheritdoc/>
    public Task<string?> GetPasswordHashAsync(Person user, CancellationToken cancellationToken) => Task.FromResult(user.PasswordHash);

    /// <inheritdoc/>
    public Task<bool> HasPasswordAsync(Person user, CancellationToken cancellationToken) => Task.FromResult(user.PasswordHash is not null);

    /// <inheritdoc/>
    public Task SetSecurityStampAsync(Person user, string stamp, CancellationToken cancellationToken) => Done(() => user.SecurityStamp = stamp);

    /// <inheritdoc/>
    public Task<string?> GetSecurityStampAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.SecurityStamp);

    /// <inheritdoc/>
    public Task SetEmailAsync(Person user, string? email, CancellationToken cancellationToken) => Done(() => user.Email = email ?? "");

    /// <inheritdoc/>
    public Task<string?> GetEmailAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Email);

    /// <summary>The owner gives the address: it needs no confirmation.</summary>
    public Task<bool> GetEmailConfirmedAsync(Person user, CancellationToken cancellationToken) => Task.FromResult(true);

    /// <summary>The owner gives the address: there is nothing to set.</summary>
    public Task SetEmailConfirmedAsync(Person user, bool confirmed, CancellationToken cancellationToken) => Task.CompletedTask;

    /// <inheritdoc/>
    public Task<string?> GetNormalizedEmailAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.NormalizedEmail);

    /// <inheritdoc/>
    public Task SetNormalizedEmailAsync(Person user, string? normalizedEmail, CancellationToken cancellationToken) =>
        Done(() => user.NormalizedEmail = normalizedEmail ?? "");

    /// <summary>One role a person.</summary>
    public Task AddToRoleAsync(Person user, string roleName, CancellationToken cancellationToken) => Done(() => user.Role = roleName);

    /// <summary>One role a person: it is replaced, not removed.</summary>
    public Task RemoveFromRoleAsync(Person user, string roleName, CancellationToken cancellationToken) => Task.CompletedTask;

    /// <inheritdoc/>
    public Task<IList<string>> GetRolesAsync(Person user, CancellationToken cancellationToken) => Task.FromResult<IList<string>>([user.Role]);

    /// <inheritdoc/>
    public Task<bool> IsInRoleAsync(Person user, string roleName, CancellationToken cancellationToken) =>
        Task.FromResult(string.Equals(user.Role, roleName, StringComparison.OrdinalIgnoreCase));

    /// <summary>Nothing is held.</summary>
    public void Dispose()
    {
    }

    private async Task<Person?> OneAsync(string where, object parameters, CancellationToken cancellationToken)
    {
        await using var connection = await database.OpenConnectionAsync(cancellationToken);
        return await connection.QuerySingleOrDefaultAsync<Person>($"{Columns} where {where}", parameters);
    }

    private static Task Done(Action change)
    {
        change();
        return Task.CompletedTask;
    }
}
