using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Features.Service;
using Grate.Store;
using Microsoft.Extensions.Logging.Abstractions;
using Npgsql;

namespace Grate.Benchmarks;

/// <summary>
/// A firm that grows to 5 000, 20 000 and 50 000 stoves of six visits each: the nightly run (goal: under 60 s with
/// bounded memory), the Season page over HTTP (goal: p95 under 300 ms), and the season's plan for 40 technicians (goal: under 60 s). In a scratch database that already holds the
/// demo; the server runs over it.
/// </summary>
internal static class SeasonScale
{
    private const int Visits = 6, WarmUp = 30, Pages = 240, Technicians = 40;

    private static readonly int[] _sizes = [5_000, 20_000, 50_000];

    private static readonly string[] _questions =
        ["/api/season", "/api/season/due", "/api/season/due?lowUseFirst=true", "/api/season?place=Oxlow", "/api/season/due?task=stop", "/api/season/due?kind=insert&offset=50"];

    public static async Task<int> RunAsync(string connectionString, string address)
    {
        Database.MapTypes();
        await using var database = NpgsqlDataSource.Create(connectionString);
        using var client = await SignedIn.ClientAsync(address, "office");
        var keeper = new DueKeeper(new DueStore(database), new HistoryStore(database, Parts.All), new Due(Parts.All), TimeProvider.System, NullLogger<DueKeeper>.Instance);
        foreach (var size in _sizes)
        {
            await GrowAsync(database, size);
            var (seconds, megaBytes) = await NightAsync(keeper);
            // What a database of this size gets from its autovacuum some time later.
            await using (var connection = await database.OpenConnectionAsync())
            {
                await connection.ExecuteAsync("vacuum analyze due_visits", commandTimeout: 600);
                await connection.ExecuteAsync("vacuum analyze due_stoves", commandTimeout: 600);
            }
            var times = await Timed.AskAsync(WarmUp, Pages, i => client.GetAsync(new Uri(_questions[i % _questions.Length], UriKind.Relative)));
            Console.WriteLine($"season: {size} stoves of {Visits} visits, nightly run {seconds:0.0} s ({1000 * seconds / size:0.00} ms a stove), at most {megaBytes:0} MB; "
                + $"page {Timed.Say(times)}");
            Console.WriteLine($"season's plan: {size} stoves, {Technicians} technicians, {await PlanAsync(database, client):0.0} s; "
                + $"its page {Timed.Say(await Timed.AskAsync(WarmUp, Pages, i => client.GetAsync(new Uri("/api/season/plan", UriKind.Relative))))}");
        }
        return 0;
    }

    // From the button to the kept plan, by an office that looks ten times a second.
    private static async Task<double> PlanAsync(NpgsqlDataSource database, HttpClient client)
    {
        await using (var connection = await database.OpenConnectionAsync())
        {
            await connection.ExecuteAsync("""
                insert into people select (jsonb_populate_record(p, jsonb_build_object('id', gen_random_uuid(), 'name', 'Hand ' || n, 'email', 'hand' || n || '@demo.example', 'normalized_email', 'hand' || n || '@demo.example'))).*
                from generate_series(1, @Technicians - (select count(*)::int from people where role = 'technician')) n join people p on p.id = (select id from people where role = 'technician' order by id limit 1)
                """, new { Technicians });
        }
        var clock = Stopwatch.StartNew();
        (await client.PostAsJsonAsync("/api/season/plan", new { })).EnsureSuccessStatusCode();
        JsonElement plan;
        do
        {
            await Task.Delay(100);
            plan = await client.GetFromJsonAsync<JsonElement>("/api/season/plan");
        }
        while (plan.GetProperty("percent").ValueKind != JsonValueKind.Null);
        if (plan.GetProperty("failed").ValueKind != JsonValueKind.Null)
            throw new InvalidOperationException(plan.GetProperty("failed").GetString());
        return clock.Elapsed.TotalSeconds;
    }

    private static async Task<(double Seconds, double MegaBytes)> NightAsync(DueKeeper keeper)
    {
        using var own = Process.GetCurrentProcess();
        using var done = new CancellationTokenSource();
        var most = 0.0;
        var watch = Task.Run(async () =>
        {
            while (!done.IsCancellationRequested)
            {
                own.Refresh();
                most = Math.Max(most, own.WorkingSet64 / 1048576.0);
                await Task.Delay(100);
            }
        });
        var clock = Stopwatch.StartNew();
        await keeper.AllAsync(DateOnly.FromDateTime(DateTime.UtcNow), CancellationToken.None);
        var seconds = clock.Elapsed.TotalSeconds;
        await done.CancelAsync();
        await watch;
        return (seconds, most);
    }

    // Copies of the demo's stoves with their signed visits: sweeps, wood, findings.
    private static async Task GrowAsync(NpgsqlDataSource database, int size)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            set session_replication_role = replica;
            create temp table copies on commit drop as
            select row_number() over () as n, gen_random_uuid() as customer, gen_random_uuid() as site, gen_random_uuid() as stove, gen_random_uuid() as flue,
                   a.site_id as of_site, a.id as of_stove, f.id as of_flue
            from generate_series(1, @size / 36 + 1), appliances a join flue_versions f on f.appliance_id = a.id
            where exists (select 1 from visits v where v.appliance_id = a.id) and a.id in (select id from appliances order by id limit 36)
            limit greatest(0, @size - (select count(*) from appliances));
            insert into customers (id, name) select customer, 'Household ' || n from copies;
            insert into sites select (jsonb_populate_record(s, jsonb_build_object('id', c.site, 'customer_id', c.customer))).* from copies c join sites s on s.id = c.of_site;
            insert into appliances select (jsonb_populate_record(a, jsonb_build_object('id', c.stove, 'site_id', c.site))).* from copies c join appliances a on a.id = c.of_stove;
            insert into flue_versions select (jsonb_populate_record(f, jsonb_build_object('id', c.flue, 'appliance_id', c.stove))).* from copies c join flue_versions f on f.id = c.of_flue;
            insert into flue_segments select (jsonb_populate_record(s, jsonb_build_object('version_id', c.flue))).* from copies c join flue_segments s on s.version_id = c.of_flue;
            create temp table past on commit drop as
            select gen_random_uuid() as visit, c.stove, c.flue, c.n, v.id as of_visit, k
            from copies c cross join generate_series(1, @Visits) k
            join lateral (select id from visits v where v.appliance_id = c.of_stove and v.state = 'signed' order by planned_start desc offset k % 4 limit 1) v on true;
            insert into visits select (jsonb_populate_record(v, jsonb_build_object('id', p.visit, 'appliance_id', p.stove, 'flue_version_id', p.flue,
                'planned_start', now() - make_interval(days => 365 * p.k - (p.n % 330)::int), 'planned_end', now() - make_interval(days => 365 * p.k - (p.n % 330)::int) + interval '90 minutes',
                'next_inspection', (now() - make_interval(days => 365 * (p.k - 1) - (p.n % 330)::int))::date))).* from past p join visits v on v.id = p.of_visit;
            insert into visit_steps select (jsonb_populate_record(s, jsonb_build_object('visit_id', p.visit))).* from past p join visit_steps s on s.visit_id = p.of_visit;
            insert into station_entries select (jsonb_populate_record(e, jsonb_build_object('visit_id', p.visit))).* from past p join station_entries e on e.visit_id = p.of_visit;
            insert into station_facts select (jsonb_populate_record(f, jsonb_build_object('visit_id', p.visit))).* from past p join station_facts f on f.visit_id = p.of_visit;
            insert into findings select (jsonb_populate_record(f, jsonb_build_object('id', gen_random_uuid(), 'visit_id', p.visit))).* from past p join findings f on f.visit_id = p.of_visit;
            """, new { size, Visits }, commandTimeout: 3600);
        await connection.ExecuteAsync("set session_replication_role = default", commandTimeout: 600);
        // What autovacuum does after so many rows, some time later.
        await connection.ExecuteAsync("vacuum analyze", commandTimeout: 3600);
    }
}
