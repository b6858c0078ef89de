using Grate.Core;
using Grate.Core.Visits;
using Grate.Instruments;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Features.Visits;

/// <summary>Visits with everything their answers rest on, the weather of their day with it.</summary>
public sealed class VisitRecords(HistoryStore histories, Parts parts, IWeather weather, TimeProvider clock)
{
    /// <summary>A visit, or null.</summary>
    public async Task<VisitRecord?> FindAsync(Guid id, UnitSystem units) =>
        await histories.VisitsAsync([id], units, clock.GetUtcNow(), parts.Learns) is [var found] ? WithWeather(found) : null;

    /// <summary>The same, in a transaction.</summary>
    public async Task<VisitRecord?> FindAsync(NpgsqlConnection connection, Guid id, UnitSystem units) =>
        await HistoryStore.VisitsAsync(connection, [id], units, clock.GetUtcNow(), parts.Learns) is [var found] ? WithWeather(found) : null;

    /// <summary>Visits by their start, without what the firm learned.</summary>
    public async Task<IReadOnlyList<VisitRecord>> ManyAsync(Guid[] ids, UnitSystem units) =>
        [.. (await histories.VisitsAsync(ids, units, clock.GetUtcNow(), [])).Select(WithWeather)];

    private VisitRecord WithWeather(VisitRecord record)
    {
        var (at, time) = (record.Context, record.Firm.Time(record.Visit.PlannedStart));
        var then = weather.OfDay(at.Day, at.House.Latitude, at.House.Longitude, at.House.MonthlyC);
        return record with { Context = at with { Weather = new WeatherThen(time, Math.Round(then.AtHour(time.ToTimeSpan().TotalHours), 1), then.OvernightLowC) } };
    }
}
