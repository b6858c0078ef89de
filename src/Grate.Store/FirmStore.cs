using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>The firm.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Place">Its place.</param>
/// <param name="TimeZone">IANA time zone in which its days begin.</param>
/// <param name="InspectionMonths">Months between inspections, 1..60.</param>
/// <param name="ServiceHoursWeek">Hours a week each technician has for due visits, 0..80.</param>
/// <param name="Demo">Whether demo data is loaded.</param>
public sealed record Firm(string Name, string Place, string TimeZone, int InspectionMonths, double ServiceHoursWeek, bool Demo)
{
    private TimeZoneInfo Zone => TimeZoneInfo.FindSystemTimeZoneById(TimeZone);

    /// <summary>The day at the firm's place.</summary>
    public DateOnly Day(DateTimeOffset now) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(now, Zone).DateTime);

    /// <summary>The hour of the day at the firm's place, 0..24.</summary>
    public double Hour(DateTime utc) => Local(utc).TimeOfDay.TotalHours;

    /// <summary>An instant as it reads at the firm's place.</summary>
    public DateTime Local(DateTime utc) => TimeZoneInfo.ConvertTimeFromUtc(DateTime.SpecifyKind(utc, DateTimeKind.Utc), Zone);

    /// <summary>A time of day at the firm's place as an instant, UTC.</summary>
    public DateTime At(DateOnly day, TimeOnly time) => TimeZoneInfo.ConvertTimeToUtc(day.ToDateTime(time), Zone);
}

/// <summary>The firm's row.</summary>
public sealed class FirmStore(NpgsqlDataSource database)
{
    /// <summary>The firm, or null in an empty database.</summary>
    public async Task<Firm?> FindAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Firm>("select name, place, time_zone, inspection_months, service_hours_week, demo from firm");
    }

    /// <summary>The firm.</summary>
    /// <exception cref="InvalidOperationException">No firm was set up yet.</exception>
    public async Task<Firm> GetAsync() => await FindAsync() ?? throw new InvalidOperationException("No firm was set up yet.");
}
