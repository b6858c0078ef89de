using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Which due visits are asked for; null asks for all.</summary>
/// <param name="Place">Place of the household.</param>
/// <param name="Kind">Kind of stove.</param>
/// <param name="Task">A task that is among them.</param>
/// <param name="TechnicianId">Who was there last.</param>
public sealed record DueFilter(string? Place = null, string? Kind = null, string? Task = null, Guid? TechnicianId = null);

/// <summary>Time due or planned in a week.</summary>
public sealed record WeekRow(DateOnly Monday, int Visits, int Minutes);

/// <summary>A due visit with where it is.</summary>
public sealed record DueLine(
    Guid ApplianceId, int Number, DateOnly Earliest, DateOnly ByDay, DateOnly Latest, bool Urgent, int Minutes, string Tasks, double WoodKg,
    string Customer, string Street, string Place, string Phone, string Kind, bool Combustor, string Model, string? LastTechnician, Guid? LastTechnicianId);

/// <summary>A planned visit as a calendar shows it.</summary>
public sealed record PlannedLine(
    Guid VisitId, DateTimeOffset PlannedStart, DateTimeOffset PlannedEnd, string Purpose, string Complaint, string Technician,
    string Customer, string Street, string Place, string Phone, double Latitude, double Longitude, int PlanVersion);

/// <summary>The season: what is due by weeks, against what is planned.</summary>
public sealed class SeasonStore(NpgsqlDataSource database)
{
    /// <summary>Most rows of a page.</summary>
    public const int PageSize = 50;

    // The first visit of a stove that has an open one is planned already.
    private const string Unplanned = "(d.number > 1 or d.appliance_id not in (select appliance_id from visits where state = 'open'))";

    private const string LastTechnician = """
        left join lateral (
            select v.technician_id, p.name from visits v join people p on p.id = v.technician_id
            where v.appliance_id = d.appliance_id and v.state = 'signed' order by v.planned_start desc limit 1) last on true
        """;

    private const string Columns = $"""
        select d.appliance_id, d.number, d.earliest, d.by_day, d.latest, d.urgent, d.minutes, d.tasks::text as tasks, w.wood_kg,
               c.name as customer, s.street, s.place, c.phone, a.kind, a.combustor, a.model, last.name as last_technician, last.technician_id as last_technician_id
        from due_visits d
        join due_stoves w on w.appliance_id = d.appliance_id
        join appliances a on a.id = d.appliance_id
        join sites s on s.id = a.site_id
        join customers c on c.id = s.customer_id
        {LastTechnician}
        """;

    /// <summary>Visits that are due and not planned, by the week they are wanted in; what is overdue is in the week of today.</summary>
    public async Task<IReadOnlyList<WeekRow>> DueWeeksAsync(DateOnly today, DateOnly end, DueFilter filter)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<WeekRow>($"""
            select date_trunc('week', greatest(d.by_day, @today)::timestamp)::date as monday, count(*)::int as visits, sum(d.minutes)::int as minutes
            from due_visits d {Joins(filter)}
            where {Unplanned} and d.by_day < @end {Conditions(filter)}
            group by 1 order by 1
            """, Values(filter, new { today, end }))];
    }

    /// <summary>Open visits by week, of one technician or of all.</summary>
    public async Task<IReadOnlyList<WeekRow>> PlannedWeeksAsync(DateOnly from, DateOnly end, string zone, Guid? technicianId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<WeekRow>("""
            select date_trunc('week', v.planned_start at time zone @zone)::date as monday, count(*)::int as visits,
                   (sum(extract(epoch from v.planned_end - v.planned_start)) / 60)::int as minutes
            from visits v
            where v.state = 'open' and v.planned_start >= @from::timestamp at time zone @zone and v.planned_start < @end::timestamp at time zone @zone
              and (@technicianId::uuid is null or v.technician_id = @technicianId)
            group by 1 order by 1
            """, new { from, end, zone, technicianId })];
    }

    /// <summary>Visits that are overdue and not planned.</summary>
    public async Task<WeekRow> OverdueAsync(DateOnly today, DueFilter filter)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<WeekRow>($"""
            select @today as monday, count(*)::int as visits, coalesce(sum(d.minutes), 0)::int as minutes
            from due_visits d {Joins(filter)} where {Unplanned} and d.by_day < @today {Conditions(filter)}
            """, Values(filter, new { today }));
    }

    /// <summary>A page of what is due and not planned, stops first, or low use first.</summary>
    /// <param name="from">Wanted from this day on; null for all before.</param>
    /// <param name="end">Wanted before this day.</param>
    /// <param name="filter">Which.</param>
    /// <param name="lowUseFirst">Whether the households that burn least come first.</param>
    /// <param name="offset">Rows to pass over.</param>
    public async Task<IReadOnlyList<DueLine>> PageAsync(DateOnly? from, DateOnly end, DueFilter filter, bool lowUseFirst, int offset)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<DueLine>($"""
            {Columns}
            where {Unplanned} and d.by_day < @end {(from is null ? "" : "and d.by_day >= @from")} {Conditions(filter)}
            order by {(lowUseFirst ? "w.wood_kg, d.by_day" : "d.urgent desc, d.by_day")}, d.appliance_id, d.number
            limit @PageSize offset @offset
            """, Values(filter, new { from, end, PageSize, offset }))];
    }

    /// <summary>Everything due and not planned before a day, row by row.</summary>
    public async IAsyncEnumerable<DueLine> AllAsync(DateOnly end, DueFilter filter)
    {
        await using var connection = await database.OpenConnectionAsync();
        await foreach (var line in connection.QueryUnbufferedAsync<DueLine>($"""
            {Columns}
            where {Unplanned} and d.by_day < @end {Conditions(filter)}
            order by d.urgent desc, d.by_day, d.appliance_id, d.number
            """, Values(filter, new { end })))
        {
            yield return line;
        }
    }

    /// <summary>Places that have stoves.</summary>
    public async Task<IReadOnlyList<string>> PlacesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<string>("select place from sites group by place order by place limit 200")];
    }

    /// <summary>Open visits from a moment on, of one technician or of all, for a calendar.</summary>
    public async Task<IReadOnlyList<PlannedLine>> PlannedAsync(DateTimeOffset from, Guid? technicianId, int most)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<PlannedLine>("""
            select v.id as visit_id, v.planned_start, v.planned_end, v.purpose, v.complaint, t.name as technician,
                   c.name as customer, s.street, s.place, c.phone, s.latitude, s.longitude, v.plan_version
            from visits v
            join people t on t.id = v.technician_id
            join appliances a on a.id = v.appliance_id
            join sites s on s.id = a.site_id
            join customers c on c.id = s.customer_id
            where v.state = 'open' and v.planned_start >= @from and (@technicianId::uuid is null or @technicianId = any(v.technician_id || v.helpers))
            order by v.planned_start limit @most
            """, new { from, technicianId, most })];
    }

    private static string Joins(DueFilter filter) =>
        (filter.Place is null && filter.Kind is null ? "" : "join appliances a on a.id = d.appliance_id join sites s on s.id = a.site_id ")
        + (filter.TechnicianId is null ? "" : LastTechnician);

    private static string Conditions(DueFilter filter) =>
        (filter.Place is null ? "" : " and s.place = @Place") + (filter.Kind is null ? "" : " and a.kind = @Kind")
        + (filter.Task is null ? "" : " and d.kinds @> array[@Task]") + (filter.TechnicianId is null ? "" : " and last.technician_id = @TechnicianId");

    private static DynamicParameters Values(DueFilter filter, object others)
    {
        var values = new DynamicParameters(others);
        values.AddDynamicParams(filter);
        return values;
    }
}
