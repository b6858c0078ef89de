using Dapper;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>Keeps the demo's rounds dated today and tomorrow.</summary>
public sealed class DemoRound(NpgsqlDataSource database, Firm firm)
{
    private static readonly (TimeOnly Start, int Minutes, string Purpose, string Complaint)[] _stops =
    [
        (new(8, 0), 90, "yearly service", ""),
        (new(10, 0), 75, "smokes on reloading", "Smoke in the room on opening, worse since October."),
        (new(13, 0), 90, "yearly service and sweep", ""),
        (new(15, 0), 90, "will not turn down", "Burns on with the air shut."),
    ];

    /// <summary>
    /// Keeps a round on today and one on tomorrow: moves the open visits on by whole days when a day went by, and plans
    /// a new round where none is left.
    /// </summary>
    /// <param name="today">The day at the firm's place.</param>
    public async Task KeepTodayAsync(DateOnly today)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var open = (await connection.QueryAsync<(Guid Id, DateTimeOffset Start, DateTimeOffset End)>(
            "select id, planned_start, planned_end from visits where state = 'open'")).Select(v => (v.Id, v.Start, v.End, Day: firm.Day(v.Start))).ToList();
        if (open.Count > 0 && open.Min(v => v.Day) is var first && first < today)
        {
            var by = today.DayNumber - first.DayNumber;
            DateTimeOffset Moved(DateTimeOffset at) => firm.At(firm.Day(at).AddDays(by), firm.Time(at));
            // The latest goes first, so that no two visits of a technician meet on the way.
            foreach (var visit in open.OrderByDescending(v => v.Start))
            {
                await connection.ExecuteAsync("update visits set planned_start = @start, planned_end = @end where id = @Id",
                    new { visit.Id, start = Moved(visit.Start), end = Moved(visit.End) });
            }
        }
        foreach (var day in new[] { today, today.AddDays(1) })
        {
            var (from, before) = firm.Span(day);
            if (!await connection.QuerySingleAsync<bool>("select exists (select 1 from visits where planned_start >= @from and planned_start < @before)", new { from, before }))
                await PlanAsync(connection, day, day == today ? _stops.Length : _stops.Length / 2);
        }
        await transaction.CommitAsync();
    }

    private async Task PlanAsync(NpgsqlConnection connection, DateOnly day, int stopsEach)
    {
        var technicians = (await connection.QueryAsync<Guid>("select id from people where role = 'technician' order by email desc")).ToList();
        // Stoves due first; stove 1 of the valley, whose flue was clogged two years ago, is always the first stop. Where a
        // stop stands the household has not decided yet.
        var stoves = (await connection.QueryAsync<(Guid Stove, Guid Flue)>("""
            select a.id, f.id from appliances a
            join lateral (select id from flue_versions f where f.appliance_id = a.id order by number desc limit 1) f on true
            where not exists (select 1 from visits v where v.appliance_id = a.id and v.state = 'open')
              and not exists (select 1 from safety_stops t where t.appliance_id = a.id and t.cleared_at is null)
            order by (select max(planned_start) from visits v where v.appliance_id = a.id), a.id
            limit @count
            """, new { count = technicians.Count * stopsEach })).ToList();
        for (var i = 0; i < stoves.Count; i++)
        {
            var stop = _stops[i / technicians.Count];
            var start = firm.At(day, stop.Start);
            await connection.ExecuteAsync("""
                insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose, complaint)
                values (@id, @Stove, @Flue, @technician, @start, @end, @Purpose, @Complaint)
                """, new
            {
                id = Guid.CreateVersion7(),
                stoves[i].Stove,
                stoves[i].Flue,
                technician = technicians[i % technicians.Count],
                start,
                end = start.AddMinutes(stop.Minutes),
                stop.Purpose,
                stop.Complaint,
            });
        }
    }
}
