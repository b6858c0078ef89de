using Dapper;
using Grate.Core.Diagnosis;
using Npgsql;

namespace Grate.Store;

/// <summary>Something that was said of how often a cause is to be expected.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Prior">How often, 0..1; null as shipped.</param>
/// <param name="At">When it was said.</param>
/// <param name="By">Who said it.</param>
public sealed record TroubleTune(string Cause, double? Prior, DateTimeOffset At, string By);

/// <summary>The firm's troubles: what they were, and how often it expects each cause.</summary>
public sealed class TroubleStore(NpgsqlDataSource database)
{
    private sealed record Row(Guid VisitId, DateTimeOffset PlannedStart, string Kind, bool Combustor, string[] Causes, string? First, double? FirstPercent, double? Minutes);

    /// <summary>Every trouble that a signed visit closed.</summary>
    /// <param name="firm">The firm, whose days they are.</param>
    public async Task<IReadOnlyList<ClosedTrouble>> ClosedAsync(Firm firm)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<Row>($"""
            select v.id as visit_id, v.planned_start, a.kind, a.combustor,
                coalesce(array_agg(substr(x.name, {TroubleFacts.Cause.Length + 1})) filter (where x.name like '{TroubleFacts.Cause}%'), array[]::text[]) as causes,
                max(x.word) filter (where x.name = '{TroubleFacts.First}') as first, max(x.value) filter (where x.name = '{TroubleFacts.FirstPercent}') as first_percent,
                max(x.value) filter (where x.name = '{TroubleFacts.Minutes}') as minutes
            from station_facts x join visits v on v.id = x.visit_id join appliances a on a.id = v.appliance_id
            where x.name like '{TroubleFacts.Begins}%' and v.state = 'signed'
            group by v.id, v.planned_start, a.kind, a.combustor
            """)).Select(r => new ClosedTrouble(r.VisitId, firm.Day(r.PlannedStart), r.Kind, r.Combustor, r.Causes, r.First, r.FirstPercent, r.Minutes))];
    }

    /// <summary>What was said of causes, newest first, at most 200.</summary>
    public async Task<IReadOnlyList<TroubleTune>> TunesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<TroubleTune>("select t.cause, t.prior, t.at, p.name as by from trouble_tunes t join people p on p.id = t.by order by t.at desc, t.id desc limit 200")];
    }

    /// <summary>How often the firm expects a cause, where it says otherwise than the shipped table.</summary>
    public async Task<IReadOnlyDictionary<string, double>> TunedAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(string Cause, double Prior)>("""
            select cause, prior from (select distinct on (cause) cause, prior from trouble_tunes order by cause, at desc, id desc) t where prior is not null
            """)).ToDictionary(t => t.Cause, t => t.Prior);
    }

    /// <summary>Says how often a cause is to be expected; null as shipped again.</summary>
    public async Task TuneAsync(string cause, double? prior, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("insert into trouble_tunes (id, cause, prior, at, by) values (@id, @cause, @prior, @at, @by)", new { id = Guid.CreateVersion7(), cause, prior, at, by });
    }
}
