using Dapper;
using Grate.Core.Diagnosis;
using Npgsql;

namespace Grate.Store;

/// <summary>Something that was said of a number in the table of troubles.</summary>
/// <param name="What">Its name there.</param>
/// <param name="Value">The firm's own number; null as shipped.</param>
/// <param name="At">When it was said.</param>
/// <param name="By">Who said it.</param>
public sealed record TroubleTune(string What, double? Value, DateTimeOffset At, string By);

/// <summary>The firm's troubles: what they were, and its own numbers in their table.</summary>
public sealed class TroubleStore(NpgsqlDataSource database)
{
    private sealed record Row(Guid VisitId, DateTimeOffset PlannedStart, string Kind, bool Combustor, string[] Causes, string? First, double? FirstPercent, double? Minutes, double? Expected);

    /// <summary>Every trouble that a signed visit closed.</summary>
    /// <param name="firm">The firm, whose days they are.</param>
    public async Task<IReadOnlyList<ClosedTrouble>> ClosedAsync(Firm firm)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<Row>($"""
            select v.id as visit_id, v.planned_start, a.kind, a.combustor,
                coalesce(array_agg(substr(x.name, {TroubleFacts.Cause.Length + 1})) filter (where x.name like '{TroubleFacts.Cause}%'), array[]::text[]) as causes,
                max(x.word) filter (where x.name = '{TroubleFacts.First}') as first, max(x.value) filter (where x.name = '{TroubleFacts.FirstPercent}') as first_percent,
                max(x.value) filter (where x.name = '{TroubleFacts.Minutes}') as minutes, max(x.value) filter (where x.name = '{TroubleFacts.Expected}') as expected
            from station_facts x join visits v on v.id = x.visit_id join appliances a on a.id = v.appliance_id
            where x.name like '{TroubleFacts.Begins}%' and v.state = 'signed'
            group by v.id, v.planned_start, a.kind, a.combustor
            """)).Select(r => new ClosedTrouble(r.VisitId, firm.Day(r.PlannedStart), r.Kind, r.Combustor, r.Causes, r.First, r.FirstPercent, r.Minutes, r.Expected))];
    }

    /// <summary>What was said of numbers, newest first, at most 200.</summary>
    public async Task<IReadOnlyList<TroubleTune>> TunesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<TroubleTune>("select t.what, t.value, t.at, p.name as by from trouble_tunes t join people p on p.id = t.by order by t.at desc, t.id desc limit 200")];
    }

    /// <summary>The firm's own numbers.</summary>
    public async Task<IReadOnlyDictionary<string, double>> TunedAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(string What, double Value)>("select what, value from trouble_numbers")).ToDictionary(t => t.What, t => t.Value);
    }

    /// <summary>Sets a number; null as shipped again.</summary>
    public async Task TuneAsync(string what, double? value, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into trouble_tunes (id, what, value, at, by) values (@id, @what, @value, @at, @by)", new { id = Guid.CreateVersion7(), what, value, at, by });
    }
}
