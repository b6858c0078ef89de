using System.Text.Json;
using Dapper;
using Grate.Core;
using Npgsql;

namespace Grate.Store;

/// <summary>The firm as kept, with the version that a change starts from.</summary>
public sealed record FirmRow(Firm Firm, int Version);

/// <summary>The firm's row.</summary>
public sealed class FirmStore(NpgsqlDataSource database)
{
    private sealed record Row(string Name, string Place, string TimeZone, int InspectionMonths, double ServiceHoursWeek, bool Demo, string? Ways, string? Contact, int Version);

    /// <summary>The firm, or null in an empty database.</summary>
    public async Task<Firm?> FindAsync() => (await RowAsync())?.Firm;

    /// <summary>The firm.</summary>
    /// <exception cref="InvalidOperationException">No firm was set up yet.</exception>
    public async Task<Firm> GetAsync() => await FindAsync() ?? throw new InvalidOperationException("No firm was set up yet.");

    /// <summary>The firm with its version, or null in an empty database.</summary>
    public async Task<FirmRow?> RowAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Row>("select name, place, time_zone, inspection_months, service_hours_week, demo, ways::text as ways, contact::text as contact, version from firm") is { } row
            ? new FirmRow(new Firm(row.Name, row.Place, row.TimeZone, row.InspectionMonths, row.ServiceHoursWeek, row.Demo,
                row.Ways is null ? null : JsonSerializer.Deserialize(row.Ways, CoreJson.Default.FirmWays), row.Contact is null ? null : JsonSerializer.Deserialize(row.Contact, CoreJson.Default.FirmContact)), row.Version)
            : null;
    }

    /// <summary>Writes the firm down, if nobody did since the version that was looked at.</summary>
    /// <returns>Whether it was.</returns>
    public async Task<bool> ChangeAsync(Firm firm, int baseVersion)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.ExecuteAsync("""
            update firm set name = @Name, place = @Place, time_zone = @TimeZone, inspection_months = @InspectionMonths, service_hours_week = @ServiceHoursWeek,
                ways = @ways::jsonb, contact = @contact::jsonb, version = version + 1
            where version = @baseVersion
            """, Values(firm, baseVersion)) == 1;
    }

    /// <summary>Sets a firm up with its first owner, if no person and no firm exist yet.</summary>
    /// <returns>Whether it was.</returns>
    public async Task<bool> SetUpAsync(Firm firm, Person owner)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // Two who try at the same moment take turns here; the second finds somebody.
        await connection.ExecuteAsync("lock table firm, people in exclusive mode");
        if (await connection.QuerySingleAsync<bool>("select exists (select from people) or exists (select from firm)"))
            return false;
        await connection.ExecuteAsync("""
            insert into firm (name, place, time_zone, inspection_months, service_hours_week, ways, contact) values (@Name, @Place, @TimeZone, @InspectionMonths, @ServiceHoursWeek, @ways::jsonb, @contact::jsonb)
            """, Values(firm));
        await PersonStore.AddAsync(connection, owner);
        await transaction.CommitAsync();
        return true;
    }

    private static object Values(Firm firm, int baseVersion = 0) => new
    {
        firm.Name,
        firm.Place,
        firm.TimeZone,
        firm.InspectionMonths,
        firm.ServiceHoursWeek,
        ways = JsonSerializer.Serialize(firm.Works, CoreJson.Default.FirmWays),
        contact = JsonSerializer.Serialize(firm.Reached, CoreJson.Default.FirmContact),
        baseVersion,
    };
}
