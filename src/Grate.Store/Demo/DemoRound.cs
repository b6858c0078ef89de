using Dapper;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>Keeps the demo's rounds dated today and tomorrow.</summary>
public sealed class DemoRound(NpgsqlDataSource database)
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
        var zone = DemoValley.TimeZone;
        // The latest day goes first, so that no two visits of a technician meet on the way.
        var days = (await connection.QueryAsync<DateOnly>(
            "select distinct (planned_start at time zone @zone)::date from visits where state = 'open' order by 1 desc", new { zone })).ToList();
        if (days.Count > 0 && days[^1] < today)
        {
            foreach (var day in days)
            {
                await connection.ExecuteAsync("""
                    update visits set
                        planned_start = (@to + (planned_start at time zone @zone)::time) at time zone @zone,
                        planned_end = (@to + (planned_end at time zone @zone)::time) at time zone @zone
                    where state = 'open' and (planned_start at time zone @zone)::date = @day
                    """, new { day, to = day.AddDays(today.DayNumber - days[^1].DayNumber), zone });
            }
        }
        foreach (var day in new[] { today, today.AddDays(1) })
        {
            if (!await connection.QuerySingleAsync<bool>(
                "select exists (select 1 from visits where (planned_start at time zone @zone)::date = @day)", new { day, zone }))
            {
                await PlanAsync(connection, day, zone, day == today ? _stops.Length : _stops.Length / 2);
            }
        }
        await transaction.CommitAsync();
    }

    private static async Task PlanAsync(NpgsqlConnection connection, DateOnly day, string zone, int stopsEach)
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
            await connection.ExecuteAsync("""
                insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose, complaint)
                values (@id, @Stove, @Flue, @technician, (@day + @start::time) at time zone @zone,
                        (@day + @start::time) at time zone @zone + make_interval(mins => @Minutes), @Purpose, @Complaint)
                """, new
            {
                id = Guid.CreateVersion7(),
                stoves[i].Stove,
                stoves[i].Flue,
                technician = technicians[i % technicians.Count],
                day,
                start = stop.Start.ToString("HH:mm"),
                zone,
                stop.Minutes,
                stop.Purpose,
                stop.Complaint,
            });
        }
    }
}
