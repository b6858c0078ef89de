using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Service;
using Npgsql;

namespace Grate.Store;

/// <summary>A week of the season's plan.</summary>
/// <param name="Monday">Its first day.</param>
/// <param name="Visits">Visits that it proposes and that are not planned yet.</param>
/// <param name="Minutes">Their time, min.</param>
/// <param name="Early">How many come earlier than wanted.</param>
/// <param name="Late">How many later.</param>
/// <param name="Asks">How many households could be asked to come before their time.</param>
public sealed record SeasonPlanWeek(DateOnly Monday, int Visits, int Minutes, int Early, int Late, int Asks);

/// <summary>The season's plan as kept.</summary>
/// <param name="MadeAt">When it was made.</param>
/// <param name="Sentences">What it came to.</param>
public sealed record KeptSeason(DateTimeOffset MadeAt, IReadOnlyList<Sentence> Sentences);

/// <summary>A visit of a week's proposal.</summary>
public sealed record BrickLine(Guid ApplianceId, int Number, DateOnly Monday, int WeeksOff, double PriceMin, DateOnly? AskMonday, DateOnly ByDay, bool Urgent, int Minutes, string Tasks, double WoodKg, string Customer, string Email, string Street, string Place,
    double Latitude, double Longitude, string Kind, bool Combustor, bool Liner, bool Screen, string Wish)
{
    /// <summary>What its stove asks for.</summary>
    public IReadOnlyList<Skill> Needs => [.. Skills.Of(Kind, Combustor, Liner, Screen)];

    /// <summary>When the household can.</summary>
    public VisitWish Wishes => JsonSerializer.Deserialize<VisitWish>(Wish, HistoryStore.Json)!;
}

/// <summary>The season's plan: what it rests on, and the plan itself.</summary>
public sealed class SeasonPlanStore(NpgsqlDataSource database)
{
    /// <summary>Most visits of a week that are shown or accepted at once.</summary>
    public const int MostBricks = 200;

    private sealed record DueRow(Guid ApplianceId, int Number, DateOnly Earliest, DateOnly ByDay, DateOnly Latest, bool Urgent, int Minutes, double WoodKg, string Place, double Latitude, double Longitude, string Kind, bool Combustor, bool Liner, bool Screen);

    private const string Newest = "join lateral (select f.id, f.screen from flue_versions f where f.appliance_id = a.id order by f.number desc limit 1) f on true";

    private static readonly string[] _liners = [.. Skills.Liners];

    // The first visit of a stove that has an open one is planned already.
    private const string Unplanned = "(d.number > 1 or not exists (select from visits v where v.appliance_id = d.appliance_id and v.state = 'open'))";

    /// <summary>Everything due and not planned before a day.</summary>
    public async Task<IReadOnlyList<SeasonVisit>> DueAsync(DateOnly end)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<DueRow>($"""
            select d.appliance_id, d.number, d.earliest, d.by_day, d.latest, d.urgent, d.minutes, w.wood_kg, s.place, s.latitude, s.longitude, a.kind, a.combustor, {HistoryStore.Liner}, f.screen
            from due_visits d join due_stoves w on w.appliance_id = d.appliance_id join appliances a on a.id = d.appliance_id join sites s on s.id = a.site_id {Newest}
            where {Unplanned} and d.by_day < @end order by d.by_day, d.appliance_id, d.number
            """, new { end, liners = _liners }, commandTimeout: 120))
            .Select(r => new SeasonVisit(r.ApplianceId, r.Number, r.Place, r.Latitude, r.Longitude, r.Earliest, r.ByDay, r.Latest, r.Urgent, r.Minutes, r.WoodKg, [.. Skills.Of(r.Kind, r.Combustor, r.Liner, r.Screen)]))];
    }

    /// <summary>Minutes of open visits by technician and week.</summary>
    public async Task<IReadOnlyDictionary<(Guid TechnicianId, DateOnly Monday), int>> PlannedAsync(Firm firm, DateOnly from, DateOnly end)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(Guid Technician, DateOnly Monday, int Minutes)>("""
            select t.person_id, date_trunc('week', lower(t.during) at time zone @zone)::date, (sum(extract(epoch from upper(t.during) - lower(t.during))) / 60)::int
            from visit_times t where lower(t.during) >= @from and lower(t.during) < @before group by 1, 2
            """, new { zone = firm.TimeZone, from = firm.Span(from).From, before = firm.Span(end).From })).ToDictionary(r => (r.Technician, r.Monday), r => r.Minutes);
    }

    /// <summary>Keeps a plan in the place of the one before.</summary>
    public async Task KeepAsync(DateOnly monday, SeasonPlan plan, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Two that are done at the same moment take turns.
        await connection.ExecuteAsync("""
            insert into season_plans (monday, made_at, made_by, sentences) values (@monday, @at, @by, @sentences::jsonb)
            on conflict (one) do update set monday = excluded.monday, made_at = excluded.made_at, made_by = excluded.made_by, sentences = excluded.sentences
            """, new { monday, at, by, sentences = JsonSerializer.Serialize([.. plan.Sentences], CoreJson.Default.SentenceArray) });
        await connection.ExecuteAsync("delete from season_bricks");
        await using (var copy = await connection.BeginBinaryImportAsync("copy season_bricks (appliance_id, number, monday, weeks_off, price_min, ask_monday) from stdin (format binary)"))
        {
            foreach (var brick in plan.Bricks)
            {
                await copy.StartRowAsync();
                await copy.WriteAsync(brick.ApplianceId);
                await copy.WriteAsync(brick.Number);
                await copy.WriteAsync(brick.Monday);
                await copy.WriteAsync(brick.WeeksOff);
                await copy.WriteAsync(brick.PriceMin);
                if (brick.AskMonday is { } ask)
                    await copy.WriteAsync(ask);
                else
                    await copy.WriteNullAsync();
            }
            await copy.CompleteAsync();
        }
        await transaction.CommitAsync();
    }

    /// <summary>The plan that is kept; null where none was made.</summary>
    public async Task<KeptSeason?> FindAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<(DateTimeOffset MadeAt, string Sentences)?>("select made_at, sentences::text from season_plans") is { } kept
            ? new(kept.MadeAt, JsonSerializer.Deserialize(kept.Sentences, CoreJson.Default.SentenceArray)!) : null;
    }

    /// <summary>Its weeks, without what was planned since or is due no more.</summary>
    public async Task<IReadOnlyList<SeasonPlanWeek>> WeeksAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<SeasonPlanWeek>($"""
            select b.monday, count(*)::int as visits, sum(d.minutes)::int as minutes, count(*) filter (where b.weeks_off < 0)::int as early, count(*) filter (where b.weeks_off > 0)::int as late, count(b.ask_monday)::int as asks
            from season_bricks b join due_visits d on d.appliance_id = b.appliance_id and d.number = b.number where {Unplanned} group by b.monday order by b.monday
            """)];
    }

    /// <summary>Visits of a week: stops first, then town by town.</summary>
    /// <param name="monday">The week.</param>
    public async Task<IReadOnlyList<BrickLine>> BricksAsync(DateOnly monday)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<BrickLine>($"""
            select b.appliance_id, b.number, b.monday, b.weeks_off, b.price_min, b.ask_monday, d.by_day, d.urgent, d.minutes, d.tasks::text as tasks, w.wood_kg, c.name as customer, c.email, s.street, s.place, s.latitude, s.longitude,
                   a.kind, a.combustor, {HistoryStore.Liner}, f.screen, c.wish::text as wish
            from season_bricks b join due_visits d on d.appliance_id = b.appliance_id and d.number = b.number join due_stoves w on w.appliance_id = b.appliance_id
            join appliances a on a.id = b.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id {Newest}
            where b.monday = @monday and {Unplanned} order by d.urgent desc, s.place, s.street, b.appliance_id limit @MostBricks
            """, new { monday, MostBricks, liners = _liners })];
    }

    /// <summary>Times of a week that are taken, with where.</summary>
    public async Task<IReadOnlyList<TakenTime>> TakenAsync(Firm firm, DateOnly monday)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<(Guid Person, DateTimeOffset Start, DateTimeOffset End, double Latitude, double Longitude)>("""
            select p.id, v.planned_start, v.planned_end, s.latitude, s.longitude
            from visits v cross join lateral unnest(v.technician_id || v.helpers) as p(id) join appliances a on a.id = v.appliance_id join sites s on s.id = a.site_id
            where v.state <> 'cancelled' and v.planned_start >= @from and v.planned_start < @before
            """, new { from = firm.Span(monday).From, before = firm.Span(monday.AddDays(7)).From })).Select(t => new TakenTime(t.Person, firm.Local(t.Start), firm.Local(t.End), t.Latitude, t.Longitude))];
    }
}
