using System.Text.Json;
using Dapper;
using Grate.Core.Service;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>A call that waits for a day.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Customer">Whose.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Phone">Phone.</param>
/// <param name="Model">The stove's model.</param>
/// <param name="Words">What is wrong, in their words.</param>
/// <param name="Urgent">Whether it cannot wait.</param>
/// <param name="Wish">When they can.</param>
/// <param name="Minutes">How long it will take, min.</param>
/// <param name="Told">What was asked on the telephone, finding to yes or no, JSON.</param>
/// <param name="TakenAt">When they called.</param>
/// <param name="TakenBy">Who took the call.</param>
/// <param name="Emergency">Word of the emergency that was pressed while they called; null where none was.</param>
public sealed record WaitingCall(Guid Id, Guid ApplianceId, string Customer, string Street, string Place, string Phone, string Model, string Words, bool Urgent, string Wish, int Minutes,
    string Told, DateTimeOffset TakenAt, string TakenBy, string? Emergency);

/// <summary>A call as it is taken.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Words">What is wrong, in their words.</param>
/// <param name="Urgent">Whether it cannot wait.</param>
/// <param name="Wish">When they can.</param>
/// <param name="Minutes">How long it will take.</param>
/// <param name="Told">What was asked, JSON.</param>
/// <param name="Emergency">Word of the emergency that was pressed, or null.</param>
public sealed record TakenCall(Guid Id, Guid ApplianceId, string Words, bool Urgent, string Wish, int Minutes, string Told, string? Emergency);

/// <summary>Somebody who would go.</summary>
/// <param name="Name">Name.</param>
/// <param name="Skills">Words of their skills; none where nobody noted any.</param>
public sealed record Goer(string Name, IReadOnlyList<string> Skills);

/// <summary>Somebody who is away.</summary>
/// <param name="Name">Name.</param>
/// <param name="LastDay">Until when.</param>
/// <param name="Why">Why.</param>
public sealed record AwayThen(string Name, DateOnly LastDay, string Why);

/// <summary>What a plan is held against.</summary>
/// <param name="Wish">When the household wants its visits.</param>
/// <param name="Needs">Skills that the stove asks for.</param>
/// <param name="Away">Who of those who would go is away then.</param>
/// <param name="Goers">Who would go.</param>
/// <param name="Latitude">Of its house, °.</param>
/// <param name="Longitude">°.</param>
public sealed record PlanSituation(VisitWish Wish, IEnumerable<Skill> Needs, IReadOnlyList<AwayThen> Away, IReadOnlyList<Goer> Goers, double Latitude, double Longitude)
{
    /// <summary>What is unusual about a time: away, a skill that nobody who goes has, the household's wish.</summary>
    public IEnumerable<string> Against(DateTime start, int minutes)
    {
        foreach (var away in Away)
            yield return $"{away.Name} is away until {away.LastDay:d MMMM}{(away.Why.Length > 0 ? $" ({away.Why})" : "")}.";
        // What one of several can is enough; where nobody noted anybody's skills, nothing is said of them.
        if (Goers.All(g => g.Skills.Count > 0) && Skills.Lacks(string.Join(" and ", Goers.Select(g => g.Name)), [.. Goers.SelectMany(g => g.Skills)], Needs) is { } lacks)
            yield return lacks;
        if (Wish.Against(start, minutes) is { } wished)
            yield return wished;
    }
}

/// <summary>A line of what happened to a visit's plan.</summary>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
/// <param name="What">What.</param>
public sealed record PlanLine(DateTimeOffset At, string By, string What);

/// <summary>What became of a change of a plan.</summary>
public enum PlanChange
{
    /// <summary>Done, or the same had been done before.</summary>
    Done,

    /// <summary>Somebody changed it in between.</summary>
    Stale,

    /// <summary>There is no such visit.</summary>
    Missing,

    /// <summary>It is signed.</summary>
    Signed,

    /// <summary>The technician is elsewhere then.</summary>
    Taken,

    /// <summary>Something is recorded in it already.</summary>
    Recorded,

    /// <summary>The stove has another open visit.</summary>
    PlannedBefore,
}

/// <summary>The week's plan: visits moved, cancelled, planned again, and the calls that wait.</summary>
public sealed class PlanStore(NpgsqlDataSource database)
{
    /// <summary>
    /// Whether something is recorded in a visit of <c>visits v</c>: an entry, a mark, a photo, a note, a step that is done. What is skipped
    /// because it is not due was planned, not recorded.
    /// </summary>
    internal const string Begun = """
        (exists (select from station_entries e where e.visit_id = v.id) or exists (select from findings n where n.visit_id = v.id) or exists (select from photos o where o.visit_id = v.id)
            or exists (select from visit_steps p where p.visit_id = v.id and (p.status = 'done' or p.note <> '')))
        """;

    private const string WaitingColumns = """
        select w.id, w.appliance_id, c.name as customer, s.street, s.place, c.phone, a.model, w.words, w.urgent, w.wish, w.minutes, w.told::text as told, w.taken_at, p.name as taken_by, w.emergency
        from calls w join appliances a on a.id = w.appliance_id join sites s on s.id = a.site_id join customers c on c.id = s.customer_id join people p on p.id = w.taken_by
        """;

    private sealed record Plan(Guid TechnicianId, Guid[] Helpers, DateTimeOffset PlannedStart, DateTimeOffset PlannedEnd, string State, int PlanVersion);

    private sealed record LookedAt(string Wish, string Kind, bool Combustor, bool Liner, bool Screen, string Away, string Goers, double Latitude, double Longitude);

    /// <summary>What a plan at a stove on a day is held against, or null where there is no such stove.</summary>
    /// <param name="stoveId">The stove.</param>
    /// <param name="people">Who would go.</param>
    /// <param name="day">When.</param>
    public async Task<PlanSituation?> SituationAsync(Guid stoveId, Guid[] people, DateOnly day)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<LookedAt>($"""
            select c.wish::text as wish, a.kind, a.combustor, {HistoryStore.Liner}, f.screen,
                (select coalesce(json_agg(json_build_object('name', p.name, 'lastDay', e.last_day, 'why', e.why) order by p.name), '[]') from absences e join people p on p.id = e.person_id
                    where e.person_id = any(@people) and @day between e.first_day and e.last_day)::text as away,
                (select coalesce(json_agg(json_build_object('name', p.name, 'skills', p.skills) order by p.name), '[]') from people p where p.id = any(@people))::text as goers, s.latitude, s.longitude
            from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
            join lateral (select v.id, v.screen from flue_versions v where v.appliance_id = a.id order by v.number desc limit 1) f on true
            where a.id = @stoveId
            """, new { stoveId, people, day, liners = Skills.Liners.ToArray() }) is { } row
            ? new PlanSituation(Read<VisitWish>(row.Wish), Skills.Of(row.Kind, row.Combustor, row.Liner, row.Screen), Read<List<AwayThen>>(row.Away), Read<List<Goer>>(row.Goers), row.Latitude, row.Longitude) : null;
    }

    private static T Read<T>(string json) => JsonSerializer.Deserialize<T>(json, HistoryStore.Json)!;

    /// <summary>Moves a visit to another time, length, technician or helpers; a cancelled one is planned again.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="baseVersion">Version of the plan that was looked at.</param>
    /// <param name="technicianId">Who goes, and holds the visit.</param>
    /// <param name="helpers">Who goes with them.</param>
    /// <param name="start">UTC.</param>
    /// <param name="end">UTC.</param>
    /// <param name="what">What is written in its log.</param>
    /// <param name="by">Who plans.</param>
    /// <param name="at">When.</param>
    public Task<PlanChange> MoveAsync(Guid id, int baseVersion, Guid technicianId, Guid[] helpers, DateTimeOffset start, DateTimeOffset end, string what, Guid by, DateTimeOffset at) =>
        ChangeAsync(id, baseVersion, p => p is { State: "open" } && (p.TechnicianId, p.PlannedStart, p.PlannedEnd) == (technicianId, start, end) && p.Helpers.ToHashSet().SetEquals(helpers), what, by, at, async connection =>
        {
            try
            {
                await connection.ExecuteAsync("""
                    update visits set technician_id = @technicianId, helpers = @helpers, planned_start = @start, planned_end = @end, state = 'open', cancelled_why = '', asked = '', plan_version = plan_version + 1 where id = @id
                    """, new { id, technicianId, helpers, start, end });
                await PlacedAsync(connection, id, at);
                return PlanChange.Done;
            }
            catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.ExclusionViolation)
            {
                return PlanChange.Taken;
            }
        });

    /// <summary>Cancels a visit in which nothing is recorded; its row and its reason stay.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="baseVersion">Version of the plan that was looked at.</param>
    /// <param name="why">Why.</param>
    /// <param name="by">Who cancels, or made the link by which the household does.</param>
    /// <param name="at">When.</param>
    /// <param name="household">Whether the household does: the office is told.</param>
    public Task<PlanChange> CancelAsync(Guid id, int baseVersion, string why, Guid by, DateTimeOffset at, bool household = false) =>
        ChangeAsync(id, baseVersion, p => p.State == "cancelled", $"Cancelled: {why}", by, at, async connection =>
        {
            if (await connection.QuerySingleAsync<bool>($"select {Begun} from visits v where v.id = @id", new { id }))
                return PlanChange.Recorded;
            await connection.ExecuteAsync("update visits set state = 'cancelled', cancelled_why = @why, plan_version = plan_version + 1 where id = @id", new { id, why });
            if (household)
                await InboxStore.AddAsync(connection, InboxKind.Cancelled, await connection.QuerySingleAsync<Guid>("select appliance_id from visits where id = @id", new { id }), id, "", at);
            return PlanChange.Done;
        });

    private async Task<PlanChange> ChangeAsync(Guid id, int baseVersion, Func<Plan, bool> same, string what, Guid by, DateTimeOffset at, Func<NpgsqlConnection, Task<PlanChange>> write)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // In the order of everybody: the stove first, then its visit.
        if (await connection.QuerySingleOrDefaultAsync<Guid?>("select a.id from appliances a join visits v on v.appliance_id = a.id where v.id = @id for no key update of a", new { id }) is not { } stove)
            return PlanChange.Missing;
        var plan = await connection.QuerySingleAsync<Plan>("select technician_id, helpers, planned_start, planned_end, state, plan_version from visits where id = @id for update", new { id });
        if (plan.State == "signed")
            return PlanChange.Signed;
        if (same(plan))
            return PlanChange.Done;
        if (plan.PlanVersion != baseVersion)
            return PlanChange.Stale;
        if (plan.State == "cancelled" && await connection.QuerySingleAsync<bool>("select exists (select from visits where appliance_id = @stove and state = 'open')", new { stove }))
            return PlanChange.PlannedBefore;
        if (await write(connection) is not PlanChange.Done and var refused)
            return refused;
        await LogAsync(connection, id, by, at, what);
        await transaction.CommitAsync();
        return PlanChange.Done;
    }

    /// <summary>Takes a visit in which nothing is recorded off its day, onto the list of what waits: its card ends with the stove's next visit.</summary>
    internal static async Task LoosenAsync(NpgsqlConnection connection, Guid visitId, string why, Guid by, DateTimeOffset at)
    {
        await connection.ExecuteAsync("""
            insert into calls (id, appliance_id, words, urgent, wish, minutes, told, taken_at, taken_by, of_visit, emergency)
            select @call, v.appliance_id, left(coalesce(nullif(v.complaint, ''), v.purpose), 1000), exists (select from calls k where k.visit_id = v.id and k.urgent), '', greatest(15, least(600, extract(epoch from v.planned_end - v.planned_start)::int / 60)),
                coalesce((select e.entry::jsonb->'told' from station_entries e where e.visit_id = v.id and e.station = 'suspects' and jsonb_typeof(e.entry::jsonb->'told') = 'object' limit 1), '{}'), @at, @by, v.id,
                (select k.emergency from calls k where k.visit_id = v.id and k.emergency is not null limit 1)
            from visits v where v.id = @visitId;
            update visits set state = 'cancelled', cancelled_why = @why, plan_version = plan_version + 1 where id = @visitId;
            """, new { call = Guid.CreateVersion7(), visitId, why, at, by });
        await LogAsync(connection, visitId, by, at, $"Cancelled: {why}");
    }

    /// <summary>Cards of visits of a stove that lost their place end with its next one.</summary>
    internal static Task PlacedAsync(NpgsqlConnection connection, Guid visitId, DateTimeOffset at) => connection.ExecuteAsync("""
        update calls k set visit_id = v.id, closed_at = @at from visits v
        where v.id = @visitId and k.appliance_id = v.appliance_id and k.of_visit is not null and k.visit_id is null and k.closed_at is null
        """, new { visitId, at });

    internal static Task LogAsync(NpgsqlConnection connection, Guid visitId, Guid by, DateTimeOffset at, string what) => connection.ExecuteAsync(
        "insert into visit_log (id, visit_id, at, by, what) values (@id, @visitId, @at, @by, @what)", new { id = Guid.CreateVersion7(), visitId, at, by, what });

    /// <summary>What happened to a visit's plan, oldest first.</summary>
    public async Task<IReadOnlyList<PlanLine>> LogAsync(Guid visitId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<PlanLine>("select l.at, p.name as by, l.what from visit_log l join people p on p.id = l.by where l.visit_id = @visitId order by l.at, l.id", new { visitId })];
    }

    /// <summary>Takes a call down. The same one sent twice is one.</summary>
    /// <returns>False where its id is that of another call, or there is no such stove.</returns>
    public async Task<bool> TakeCallAsync(TakenCall call, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into calls (id, appliance_id, words, urgent, wish, minutes, told, emergency, taken_at, taken_by)
            select @Id, a.id, @Words, @Urgent, @Wish, @Minutes, @Told::jsonb, @Emergency, @at, @by from appliances a where a.id = @ApplianceId and a.out_at is null
            on conflict (id) do nothing
            """, new { call.Id, call.ApplianceId, call.Words, call.Urgent, call.Wish, call.Minutes, call.Told, call.Emergency, at, by });
        return await connection.QuerySingleAsync<bool>("select exists (select from calls where id = @Id and appliance_id = @ApplianceId and words = @Words)", call);
    }

    /// <summary>Calls that wait: by their danger, then those that cannot wait, then the longest waiting.</summary>
    public async Task<IReadOnlyList<WaitingCall>> WaitingAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<WaitingCall>($"{WaitingColumns} where w.visit_id is null and w.closed_at is null order by array_position(@dangers, w.emergency) nulls last, w.urgent desc, w.taken_at limit 200", new { dangers = Core.Word.All<EmergencyKind>().ToArray() })];
    }

    /// <summary>A call that waits, or null.</summary>
    public async Task<WaitingCall?> CallAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<WaitingCall>($"{WaitingColumns} where w.id = @id and w.visit_id is null and w.closed_at is null", new { id });
    }

    /// <summary>Calls that were solved by telephone and are to be looked back at by a day, the longest waiting first.</summary>
    public async Task<IReadOnlyList<WaitingCall>> LookBacksAsync(DateOnly today)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<WaitingCall>($"{WaitingColumns} where w.look_back <= @today and w.looked_back_at is null order by w.look_back, w.taken_at limit 50", new { today })];
    }

    /// <summary>A call was solved by telephone: it is looked back at on a day.</summary>
    /// <returns>False if it waits no more.</returns>
    public async Task<bool> SolveAsync(Guid id, string why, DateOnly lookBack, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update calls set closed_at = @at, closed_why = @why, solved = true, look_back = @lookBack where id = @id and closed_at is null", new { id, why, lookBack, at }) == 1;
    }

    /// <summary>A call was looked back at: it helped, or it waits for a day again.</summary>
    /// <returns>False if nobody has to look back at it.</returns>
    public async Task<bool> LookedBackAsync(Guid id, bool helped, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync($"""
            update calls set looked_back_at = @at{(helped ? "" : ", closed_at = null, closed_why = '', solved = false")} where id = @id and look_back is not null and looked_back_at is null
            """, new { id, at }) == 1;
    }

    /// <summary>Version of a visit's plan.</summary>
    public async Task<int> VersionAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<int>("select plan_version from visits where id = @id", new { id });
    }

    /// <summary>Whether a call became this visit before: a plan whose answer was lost.</summary>
    public async Task<bool> BecameAsync(Guid id, Guid visitId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select from calls where id = @id and visit_id = @visitId)", new { id, visitId });
    }

    /// <summary>A call joins a visit that its stove has open already: what they said stands in it, and the call waits no more.</summary>
    /// <returns>False if it waits no more, or the visit is not open.</returns>
    public async Task<bool> JoinAsync(Guid id, Guid visitId, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<string?>("""
            update calls w set visit_id = v.id, closed_at = @at, closed_why = '' from visits v
            where w.id = @id and w.closed_at is null and v.id = @visitId and v.appliance_id = w.appliance_id and v.state = 'open' returning w.words
            """, new { id, visitId, at }) is not { } words)
        {
            return false;
        }
        await connection.ExecuteAsync("update visits set complaint = left(concat_ws(' / ', nullif(complaint, ''), @words), 2000), plan_version = plan_version + 1 where id = @visitId", new { visitId, words });
        await LogAsync(connection, visitId, by, at, "A call joined this visit.");
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>A call became a visit, or needs none.</summary>
    /// <returns>False if it waits no more.</returns>
    public async Task<bool> SettleAsync(Guid id, Guid? visitId, string why, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("update calls set visit_id = @visitId, closed_at = @at, closed_why = @why where id = @id and closed_at is null", new { id, visitId, why, at }) == 1;
    }
}
