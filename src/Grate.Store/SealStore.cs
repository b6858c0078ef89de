using System.Data;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Dapper;
using Grate.Core;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>What a signed visit showed when it was signed.</summary>
/// <param name="Steps">Its steps.</param>
/// <param name="Stations">Its stations.</param>
/// <param name="Findings">Its findings.</param>
/// <param name="Stops">Stops it left standing.</param>
/// <param name="Dates">What was due from then on; null where it was not kept.</param>
/// <param name="Photos">Its photos, each with the hash of its picture; null in a seal of before there were photos.</param>
public sealed record ShownVisit(IReadOnlyList<StepRow> Steps, IReadOnlyList<StationRow> Stations, IReadOnlyList<FindingRow> Findings, IReadOnlyList<StopRow> Stops, IReadOnlyList<DueTask>? Dates,
    IReadOnlyList<PhotoRow>? Photos = null);

/// <summary>A signed visit's seal.</summary>
/// <param name="Number">Its place in the stove's chain, from 1.</param>
/// <param name="Hash">SHA-256 over what it showed and the seal before, 64 hexadecimal digits.</param>
/// <param name="Shown">What it showed.</param>
public sealed record VisitSeal(int Number, string Hash, ShownVisit Shown);

/// <summary>What is wrong with a signed visit.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Stove">Street and place.</param>
/// <param name="What">What is wrong.</param>
public sealed record BrokenSeal(Guid VisitId, string Stove, string What);

/// <summary>Seals of signed visits: what they showed, chained by stove. A later version of Grate reads what an earlier one kept: new fields need defaults.</summary>
public sealed class SealStore(NpgsqlDataSource database)
{
    private static readonly JsonSerializerOptions _json = new(JsonSerializerDefaults.Web)
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
        TypeInfoResolver = new DefaultJsonTypeInfoResolver(),
    };

    // Everything that belongs to a visit, as rows are read elsewhere.
    private const string Rows = $"""
        'steps', (select coalesce(jsonb_agg(to_jsonb(r) order by r.step), '[]') from ({VisitStore.StepColumns} where s.visit_id = asked.id) r),
        'stations', (select coalesce(jsonb_agg(to_jsonb(r) order by r.step, r.station), '[]') from ({StationStore.StationColumns} where e.visit_id = asked.id) r),
        'findings', (select coalesce(jsonb_agg(to_jsonb(r) order by r.part, r.step), '[]') from ({VisitStore.FindingColumns} where f.visit_id = asked.id) r),
        'photos', (select coalesce(jsonb_agg(to_jsonb(r) order by r.id), '[]') from ({PhotoStore.PhotoColumns} where f.visit_id = asked.id) r)
        """;

    /// <summary>Seals of signed visits, by visit.</summary>
    public async Task<IReadOnlyDictionary<Guid, VisitSeal>> OfAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(Guid Visit, int Number, string Hash, string Rows, string? Dates)>("""
            select visit_id, number, encode(hash, 'hex'), (shown::jsonb - 'record' - 'dates')::text, shown::jsonb->>'dates' from signed_visits where visit_id = any(@visitIds)
            """, new { visitIds })).ToDictionary(f => f.Visit, f => new VisitSeal(f.Number, f.Hash,
                JsonSerializer.Deserialize<ShownVisit>(f.Rows, _json)! with { Dates = f.Dates is null ? null : JsonSerializer.Deserialize(f.Dates, CoreJson.Default.DueTaskArray) }));
    }

    /// <summary>
    /// Seals what was signed before there were seals, in the order in which it was signed: all of it, or nothing where it is
    /// interrupted. Once there is a seal, only signing makes another: a signed visit without one stays without, and is told.
    /// </summary>
    public async Task SealEarlierAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var open = await connection.QueryAsync<(Guid Visit, int Turn)>("""
            select v.id, row_number() over (partition by v.appliance_id order by v.signed_at, v.id)::int
            from visits v where v.state = 'signed' and not exists (select from signed_visits)
            """);
        // One visit of every stove at a time: a seal holds the one before.
        foreach (var turn in open.GroupBy(v => v.Turn, v => v.Visit).OrderBy(t => t.Key))
        {
            await LockStovesAsync(connection, [.. turn]);
            await SealAsync(connection, [.. turn], null);
        }
        await transaction.CommitAsync();
    }

    /// <summary>
    /// Looks through every seal: its hash, its place in the chain, whether the rows are still what was shown, and whether its visit is still the
    /// signed one that it was: by whom, when, for which day, with which next inspection. A seal without a signed visit is told, too.
    /// </summary>
    /// <returns>How many visits are signed, and what is wrong.</returns>
    public async Task<(int Signed, IReadOnlyList<BrokenSeal> Broken)> VerifyAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        var signed = await connection.QuerySingleAsync<int>("select count(*)::int from visits where state = 'signed'");
        var broken = await connection.QueryAsync<BrokenSeal>($"""
            with looked_at as (
                select v.id as visit_id, a.street || ', ' || a.place as stove, case
                    when w.visit_id is null then 'has no seal'
                    when v.state <> 'signed' then 'has a seal and is signed no more'
                    when w.appliance_id <> v.appliance_id then 'is another stove''s'
                    when w.hash <> sha256(convert_to(coalesce(encode(w.previous, 'hex'), '') || w.shown, 'UTF8')) then 'does not have the hash of what it showed'
                    when w.previous is distinct from lag(w.hash) over (partition by w.appliance_id order by w.number)
                      or w.number <> row_number() over (partition by w.appliance_id order by w.number) then 'does not follow the visit before in the chain'
                    when {Differ("steps")} or {Differ("stations")} or {Differ("findings")} or {Differ("photos")} or {Facts("w.shown::jsonb->'record'->'facts'")} is distinct from {Facts("now.facts")} then 'is not in the tables as it was shown'
                    when {_instants.Select(k => $"(w.shown::jsonb->'record'->'visit'->>'{k}')::timestamptz is distinct from (now.visit->>'{k}')::timestamptz").Aggregate((a, b) => $"{a} or {b}")} then 'was planned or signed at another time'
                    when exists (select from jsonb_each(w.shown::jsonb->'record'->'visit') k where k.key <> all(@unlike) and now.visit->k.key is distinct from k.value) then 'was signed otherwise: by whom, for what, or until when' end as what
                from visits v
                join lateral (select s.street, s.place from appliances p join sites s on s.id = p.site_id where p.id = v.appliance_id) a on true
                left join signed_visits w on w.visit_id = v.id
                join lateral (select jsonb_build_object({Rows}) as rows, {HistoryStore.VisitJson}::jsonb as visit,
                    (select coalesce(jsonb_agg(jsonb_build_object('step', x.step, 'station', x.station, 'name', x.name, 'value', x.value, 'word', x.word)), '[]') from station_facts x where x.visit_id = asked.id) as facts
                    from (select v.id) asked) now on true
                where v.state = 'signed' or w.visit_id is not null)
            select visit_id, stove, what from looked_at where what is not null order by stove, visit_id
            """, new { unlike = _instants.Concat(["technician", "signedBy"]).ToArray() }, commandTimeout: 0);
        return (signed, [.. broken]);
    }

    // The same instant may be written in another zone.
    private static readonly string[] _instants = ["plannedStart", "plannedEnd", "signedAt"];

    private static string Facts(string facts) => $"(select jsonb_agg(f - 'savedAt' order by f->>'step', f->>'station', f->>'name') from jsonb_array_elements({facts}) f)";

    // Names may change: who saved what is kept by name in the seal, by id in the tables.
    private static string Differ(string kind) => $"{Nameless($"coalesce(w.shown::jsonb->'{kind}', '[]')")} is distinct from {Nameless($"now.rows->'{kind}'")}";

    private static string Nameless(string rows) =>
        $"(select jsonb_agg(r - 'saved_by' order by r->>'step', r->>'station', r->>'part', r->>'id') from jsonb_array_elements({rows}) r)";

    /// <summary>One seal at a time per stove, before the visit itself is locked; a save that sets a stop, and with it refers to the stove, does not wait for it.</summary>
    internal static Task LockStovesAsync(IDbConnection connection, Guid[] visits) => connection.ExecuteAsync(
        "select from appliances a join visits v on v.appliance_id = a.id where v.id = any(@visits) order by a.id for no key update of a", new { visits });

    // What is shown is written once and kept as written ("materialized"): the same rows read twice may come in another order.
    /// <summary>Keeps what visits that were just signed show; of a stove, one at a time.</summary>
    /// <param name="connection">In the transaction that signs them.</param>
    /// <param name="visits">The visits.</param>
    /// <param name="dates">What is due from now on, JSON; null where it is not known.</param>
    internal static Task SealAsync(IDbConnection connection, Guid[] visits, string? dates) => connection.ExecuteAsync($"""
        with asked as ({HistoryStore.AskedVisits} where v.id = any(@visits)),
        shown as materialized (
            select asked.id, asked.stove, jsonb_build_object('record', {HistoryStore.Visit}), {Rows},
                'stops', (select coalesce(jsonb_agg(to_jsonb(r) order by r.set_at), '[]') from ({StopStore.StopColumns} where t.visit_id = asked.id and t.cleared_at is null) r),
                'dates', @dates::jsonb)::text as shown
            from asked {HistoryStore.Sources})
        insert into signed_visits (visit_id, appliance_id, number, shown, previous, hash)
        select s.id, s.stove, coalesce(p.number, 0) + 1, s.shown, p.hash, sha256(convert_to(coalesce(encode(p.hash, 'hex'), '') || s.shown, 'UTF8'))
        from shown s left join lateral (select b.number, b.hash from signed_visits b where b.appliance_id = s.stove order by b.number desc limit 1) p on true
        on conflict (visit_id) do nothing
        """, new { visits, dates, learns = Array.Empty<string>(), steps = HistoryStore.StepsInOrder });
}
