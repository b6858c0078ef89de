using System.Text.Json;
using Dapper;
using Grate.Core.Service;
using Npgsql;

namespace Grate.Store;

/// <summary>A visit of a day as its round needs it.</summary>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="Visit">As the round sees it; times at the firm's place.</param>
/// <param name="Customer">Whose.</param>
/// <param name="Phone">Their number.</param>
/// <param name="Access">How to get in.</param>
/// <param name="Model">The stove.</param>
/// <param name="Purpose">What for.</param>
/// <param name="State">open or signed.</param>
public sealed record RoundVisit(DateOnly Day, DayVisit Visit, string Customer, string Phone, string Access, string Model, string Purpose, string State);

/// <summary>A visit's plan as a better round has it.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Start">UTC.</param>
/// <param name="End">UTC.</param>
/// <param name="What">What is written in its log.</param>
public sealed record RoundMove(Guid VisitId, int BaseVersion, Guid TechnicianId, DateTimeOffset Start, DateTimeOffset End, string What);

/// <summary>A visit that has no place in its day.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
public sealed record LooseVisit(Guid VisitId, int BaseVersion);

/// <summary>Rounds: the visits of their days, and all of their moves at once.</summary>
public sealed class RoundStore(NpgsqlDataSource database)
{
    private sealed record Row(Guid VisitId, int PlanVersion, string Street, string Place, double Latitude, double Longitude, Guid TechnicianId, DateTimeOffset PlannedStart, DateTimeOffset PlannedEnd, bool Told, bool Stands, bool Urgent, string Wish,
        string Kind, bool Combustor, bool Liner, bool Screen, Guid[] Helpers, Guid ApplianceId, string Customer, string Phone, string Access, string Model, string Purpose, string State);

    private sealed record Locked(Guid Id, int PlanVersion, string State, bool Begun);

    /// <summary>Visits of some days in order of time.</summary>
    /// <param name="firm">Whose days.</param>
    /// <param name="first">The first day.</param>
    /// <param name="last">And the last.</param>
    /// <param name="wanting">Stoves that want parts; null where nobody asks.</param>
    public Task<IReadOnlyList<RoundVisit>> BetweenAsync(Firm firm, DateOnly first, DateOnly last, IReadOnlySet<Guid>? wanting = null) =>
        ReadAsync(firm, "v.planned_start >= @from and v.planned_start < @before", new { firm.Span(first).From, firm.Span(last).Before, liners = Skills.Liners.ToArray() }, wanting);

    /// <summary>Some visits.</summary>
    public Task<IReadOnlyList<RoundVisit>> OfAsync(Firm firm, IReadOnlyList<Guid> ids) => ReadAsync(firm, "v.id = any(@ids)", new { ids, liners = Skills.Liners.ToArray() });

    private async Task<IReadOnlyList<RoundVisit>> ReadAsync(Firm firm, string which, object asked, IReadOnlySet<Guid>? wanting = null)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. (await connection.QueryAsync<Row>($"""
            select v.id as visit_id, v.plan_version, s.street, s.place, s.latitude, s.longitude, v.technician_id, v.planned_start, v.planned_end,
                   exists (select from visit_links l where l.visit_id = v.id) as told,
                   v.state <> 'open' or {PlanStore.Begun} as stands,
                   exists (select from calls k where k.visit_id = v.id and k.urgent) as urgent, c.wish::text as wish, a.kind, a.combustor,
                   {HistoryStore.Liner}, f.screen,
                   v.helpers, a.id as appliance_id, c.name as customer, c.phone, c.note as access, a.model, v.purpose, v.state
            from visits v join flue_versions f on f.id = v.flue_version_id join appliances a on a.id = v.appliance_id
            join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
            where {which} and v.state <> 'cancelled'
            order by v.planned_start, v.id
            """, asked)).Select(r => new RoundVisit(firm.Day(r.PlannedStart),
                new(r.VisitId, r.PlanVersion, r.Street, r.Place, r.Latitude, r.Longitude, r.TechnicianId, firm.Time(r.PlannedStart).ToTimeSpan().TotalMinutes, (r.PlannedEnd - r.PlannedStart).TotalMinutes, r.Told, r.Stands, r.Urgent,
                    [.. Skills.Of(r.Kind, r.Combustor, r.Liner, r.Screen)], JsonSerializer.Deserialize<VisitWish>(r.Wish, HistoryStore.Json)!, r.Helpers, wanting?.Contains(r.ApplianceId) == true),
                r.Customer, r.Phone, r.Access, r.Model, r.Purpose, r.State))];
    }

    /// <summary>Moves several visits at once, each into the place that another leaves too, and takes those without a place off the day, onto the list of what waits: all or none.</summary>
    /// <returns>The visit that stands against it, and why; null where all are moved.</returns>
    public async Task<(Guid VisitId, PlanChange Why)?> MoveAsync(IReadOnlyList<RoundMove> moves, IReadOnlyList<LooseVisit> loose, Guid by, DateTimeOffset at)
    {
        Guid[] ids = [.. moves.Select(m => m.VisitId), .. loose.Select(l => l.VisitId)];
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // In the order of everybody: stoves first, then their visits.
        await connection.ExecuteAsync("select 1 from appliances a where a.id in (select appliance_id from visits where id = any(@ids)) order by a.id for no key update of a", new { ids });
        var visits = (await connection.QueryAsync<Locked>($"""
            select v.id, v.plan_version, v.state, {PlanStore.Begun} as begun from visits v where v.id = any(@ids) order by v.id for update of v
            """, new { ids })).ToDictionary(v => v.Id);
        foreach (var (id, version) in moves.Select(m => (m.VisitId, m.BaseVersion)).Concat(loose.Select(l => (l.VisitId, l.BaseVersion))))
        {
            if (Against(visits.GetValueOrDefault(id), version) is { } why)
                return (id, why);
        }
        // Each leaves its hour before anybody takes one.
        await connection.ExecuteAsync("delete from visit_times where visit_id = any(@ids)", new { ids });
        foreach (var move in moves)
        {
            try
            {
                await connection.ExecuteAsync("update visits set technician_id = @TechnicianId, planned_start = @Start, planned_end = @End, asked = '', plan_version = plan_version + 1 where id = @VisitId", move);
            }
            catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.ExclusionViolation)
            {
                return (move.VisitId, PlanChange.Taken);
            }
            await PlanStore.LogAsync(connection, move.VisitId, by, at, move.What);
        }
        foreach (var visit in loose)
            await PlanStore.LoosenAsync(connection, visit.VisitId, "No place in its day; it waits for another one.", by, at);
        await transaction.CommitAsync();
        return null;
    }

    private static PlanChange? Against(Locked? visit, int version) => visit switch
    {
        null => PlanChange.Missing,
        { State: "signed" } => PlanChange.Signed,
        { State: not "open" } => PlanChange.Stale,
        { Begun: true } => PlanChange.Recorded,
        _ => visit.PlanVersion == version ? null : PlanChange.Stale,
    };
}
