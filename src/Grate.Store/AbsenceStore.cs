using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Days on which somebody does not go out.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="PersonId">Who.</param>
/// <param name="FirstDay">From.</param>
/// <param name="LastDay">To, that day included; at most 400 days on.</param>
/// <param name="Why">Why, up to 200 characters.</param>
public sealed record Absence(Guid Id, Guid PersonId, DateOnly FirstDay, DateOnly LastDay, string Why = "")
{
    /// <summary>Whether it is on a day.</summary>
    public bool On(DateOnly day) => day >= FirstDay && day <= LastDay;
}

/// <summary>When people are away.</summary>
public sealed class AbsenceStore(NpgsqlDataSource database)
{
    /// <summary>Absences that touch some days, by their first.</summary>
    public async Task<IReadOnlyList<Absence>> BetweenAsync(DateOnly from, DateOnly to)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Absence>("select id, person_id, first_day, last_day, why from absences where first_day <= @to and last_day >= @from order by first_day, id", new { from, to })];
    }

    /// <summary>Writes one down. The same one sent twice is one.</summary>
    /// <returns>False where its id is that of another.</returns>
    public async Task<bool> AddAsync(Absence absence, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into absences (id, person_id, first_day, last_day, why, made_at, made_by) values (@Id, @PersonId, @FirstDay, @LastDay, @Why, @at, @by) on conflict (id) do nothing
            """, new { absence.Id, absence.PersonId, absence.FirstDay, absence.LastDay, absence.Why, at, by });
        return await connection.QuerySingleAsync<bool>("select exists (select from absences where id = @Id and person_id = @PersonId and first_day = @FirstDay and last_day = @LastDay)", absence);
    }

    /// <summary>Takes one away.</summary>
    /// <returns>False where there is none.</returns>
    public async Task<bool> EndAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("delete from absences where id = @id", new { id }) == 1;
    }
}
