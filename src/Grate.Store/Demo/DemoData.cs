using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Service;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>A demo account, shown on the sign-in page only while demo data is loaded.</summary>
/// <param name="Email">Address.</param>
/// <param name="Password">Password.</param>
/// <param name="Role">Role.</param>
public sealed record DemoAccount(string Email, string Password, string Role);

/// <summary>Loads the demo firm into an empty database. The same seed gives the same valley; only today's date moves.</summary>
public sealed class DemoData(NpgsqlDataSource database, JsonSerializerOptions json)
{
    private const int Seed = 1847;
    private const int YearsBack = 4;

    private readonly Random _random = new(Seed);

    /// <summary>Accounts that can sign in.</summary>
    public static IReadOnlyList<DemoAccount> Accounts() =>
        [.. DemoValley.People.Where(p => p.SignsIn).Select(p => new DemoAccount(p.Email, DemoValley.Password, p.Role))];

    /// <summary>Loads everything in one transaction.</summary>
    /// <param name="today">The day at the firm's place.</param>
    public async Task LoadAsync(DateOnly today)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("insert into firm (name, place, time_zone, service_hours_week, demo) values (@Firm, @Place, @TimeZone, @ServiceHoursWeek, true)",
            new { DemoValley.Firm, DemoValley.Place, DemoValley.TimeZone, DemoValley.ServiceHoursWeek });
        var people = await PeopleAsync(connection);
        var technicians = people.Take(3).ToArray();

        for (var number = 0; number < DemoStoves.Count; number++)
        {
            // Four households have two stoves.
            var house = DemoValley.House(number % 32, new Random(Seed + number % 32));
            var siteId = number < 32 ? await HouseAsync(connection, house) : await SiteOfAsync(connection, house);
            var stove = DemoStoves.Build(number, house, _random);
            var (stoveId, flueId) = await StoveAsync(connection, siteId, stove, house, today);
            var history = new DemoHistory(stove, house, _random);
            for (var yearsAgo = YearsBack; yearsAgo >= 1; yearsAgo--)
            {
                var day = VisitedOn(today, number, yearsAgo);
                await VisitAsync(connection, stoveId, flueId, technicians[number % 3], day, yearsAgo, history, stove);
            }
        }
        await transaction.CommitAsync();
        await new DemoRound(database).KeepTodayAsync(today);
    }

    // Every third household has its chimney swept in autumn, with everybody else's; the others come round by and by.
    private static DateOnly VisitedOn(DateOnly today, int number, int yearsAgo) => number / 3 % 3 == 2
        ? today.AddYears(1 - yearsAgo).AddDays(-35 - 2 * number / 3)
        : today.AddYears(-yearsAgo).AddDays(3 * number - 50);

    private static async Task<List<Guid>> PeopleAsync(NpgsqlConnection connection)
    {
        var hash = new PasswordHasher<Person>().HashPassword(new Person(), DemoValley.Password);
        var ids = new List<Guid>();
        foreach (var person in DemoValley.People)
        {
            var row = new Person
            {
                Email = person.Email,
                NormalizedEmail = person.Email.ToUpperInvariant(),
                Name = person.Name,
                Role = person.Role,
                PasswordHash = person.SignsIn ? hash : null,
            };
            await connection.ExecuteAsync("""
                insert into people (id, email, normalized_email, name, role, password_hash, security_stamp)
                values (@Id, @Email, @NormalizedEmail, @Name, @Role, @PasswordHash, @SecurityStamp)
                """, row);
            ids.Add(row.Id);
        }
        return ids;
    }

    private static async Task<Guid> HouseAsync(NpgsqlConnection connection, DemoHouse house)
    {
        var (customerId, siteId) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await connection.ExecuteAsync("insert into customers (id, name, phone) values (@customerId, @Customer, @Phone)",
            new { customerId, house.Customer, house.Phone });
        await connection.ExecuteAsync("""
            insert into sites (id, customer_id, street, place, latitude, longitude, altitude_m, house_volume_m3, built_era, monthly_c,
                               storey_names, storey_heights_m, house_width_m, roof_pitch_deg, ground_m)
            values (@siteId, @customerId, @Street, @Place, @Latitude, @Longitude, @AltitudeM, @volume, @Era, @MonthlyC,
                    @Storeys, @heights, @WidthM, @PitchDeg, @GroundM)
            """, new
        {
            siteId,
            customerId,
            house.Street,
            house.Place,
            house.Latitude,
            house.Longitude,
            house.AltitudeM,
            volume = house.WidthM * house.WidthM * house.EavesM,
            house.Era,
            house.MonthlyC,
            house.Storeys,
            heights = house.Storeys.Select(_ => DemoHouse.StoreyM).ToArray(),
            house.WidthM,
            house.PitchDeg,
            house.GroundM,
        });
        await connection.ExecuteAsync("insert into site_obstacles (site_id, position, name, across_m, width_m, top_m) values (@siteId, @position, @Name, @AcrossM, @WidthM, @TopM)",
            house.Obstacles.Select((o, position) => new { siteId, position, o.Name, o.AcrossM, o.WidthM, o.TopM }));
        return siteId;
    }

    private static Task<Guid> SiteOfAsync(NpgsqlConnection connection, DemoHouse house) =>
        connection.QuerySingleAsync<Guid>("select s.id from sites s join customers c on c.id = s.customer_id where c.name = @Customer", house);

    private static async Task<(Guid Stove, Guid Flue)> StoveAsync(NpgsqlConnection connection, Guid siteId, DemoStove stove, DemoHouse house, DateOnly today)
    {
        var (stoveId, flueId) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await connection.ExecuteAsync("""
            insert into appliances (id, site_id, kind, combustor, model, year, room, nominal_kw, label_min_pa, label_max_pa, storey, collar_height_m)
            values (@stoveId, @siteId, @Kind, @Combustor, @Model, @Year, @room, @Kw, @MinPa, @MaxPa, @Storey, @CollarM)
            """, new
        {
            stoveId,
            siteId,
            stove.Kind,
            stove.Combustor,
            stove.Model,
            stove.Year,
            room = house.Storeys[stove.Storey],
            stove.Kw,
            stove.MinPa,
            MaxPa = stove.MinPa is null ? null : stove.MaxPa,
            stove.Storey,
            stove.CollarM,
        });
        await StoveStore.InsertFlueAsync(connection, stoveId, new FlueVersion(flueId, 1, today.AddYears(-YearsBack - 1), stove.StoveXM, stove.Flue));
        return (stoveId, flueId);
    }

    private async Task VisitAsync(NpgsqlConnection connection, Guid stoveId, Guid flueId, Guid technician, DateOnly day,
        int yearsAgo, DemoHistory history, DemoStove stove)
    {
        var visitId = Guid.CreateVersion7();
        // The hour leaves room for every stove of a technician on one day.
        var start = day.ToDateTime(new TimeOnly(8 + _random.Next(8), 0), DateTimeKind.Utc);
        // Unsafe things were found last year and still stand; the others were found two years ago.
        var lasting = stove.Fault is DemoFault.Glaze or DemoFault.BaffleGone;
        var faulty = stove.Fault != DemoFault.None && yearsAgo == (lasting ? 1 : 2);
        await connection.ExecuteAsync("""
            insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose)
            values (@visitId, @stoveId, @flueId, @technician, @start, @end, 'yearly service')
            """, new { visitId, stoveId, flueId, technician, start, end = start.AddMinutes(90) });

        var hotTest = new List<object>();
        foreach (var (reading, answer) in history.Readings(day, faulty))
        {
            hotTest.Add(reading);
            await connection.ExecuteAsync("""
                insert into readings (visit_id, level, draft_pa, entered, computed, expected_pa, low_pa, high_pa, verdict, rules_version)
                values (@visitId, @Level, @DraftPa, @entered::jsonb, @computed::jsonb, @ExpectedPa, @LowPa, @HighPa, @verdict, @Version)
                """, new
            {
                visitId,
                reading.Level,
                reading.DraftPa,
                entered = JsonSerializer.Serialize(reading, json),
                computed = JsonSerializer.Serialize(answer, json),
                answer.ExpectedPa,
                answer.LowPa,
                answer.HighPa,
                verdict = Word.Of(answer.Verdict!.Value),
                Rules.Version,
            });
        }
        var swept = new { record = history.Sweep() };
        var wood = history.Wood();
        await connection.ExecuteAsync("""
            insert into visit_steps (visit_id, step, status, entries, version, save_id, saved_at, saved_by)
            values (@visitId, @Code, 'done', @entries::jsonb, 1, @saveId, @start, @technician)
            """, VisitSteps.All.Select(step => new
        {
            visitId,
            step.Code,
            saveId = Guid.CreateVersion7(),
            start,
            technician,
            entries = step.Code switch
            {
                "hot-test" => JsonSerializer.Serialize(new { readings = hotTest }, json),
                "arrive" => JsonSerializer.Serialize(wood, json),
                "sweep" => JsonSerializer.Serialize(swept, json),
                _ => null,
            },
        }));
        foreach (var finding in history.Findings(yearsAgo, faulty))
            await FindingAsync(connection, visitId, stoveId, finding, technician, start);
        await connection.ExecuteAsync("""
            update visits set state = 'signed', signed_at = @signed, signed_by = @technician, next_inspection = @next where id = @visitId
            """, new { visitId, technician, signed = start.AddMinutes(90), next = Intervals.NextInspection(day, (int)Intervals.Inspection.Value) });
    }

    private static async Task FindingAsync(NpgsqlConnection connection, Guid visitId, Guid stoveId, DemoFinding finding, Guid technician, DateTime at)
    {
        var values = new
        {
            id = Guid.CreateVersion7(),
            stopId = Guid.CreateVersion7(),
            visitId,
            stoveId,
            finding.Part,
            finding.Condition,
            finding.Note,
            finding.StopCode,
            saveId = Guid.CreateVersion7(),
            technician,
            at,
        };
        await connection.ExecuteAsync("""
            insert into findings (id, visit_id, part, condition, note, stop_code, version, save_id, saved_at, saved_by)
            values (@id, @visitId, @Part, @Condition, @Note, @StopCode, 1, @saveId, @at, @technician)
            """, values);
        if (finding.StopCode is null)
            return;
        await connection.ExecuteAsync("""
            insert into safety_stops (id, appliance_id, visit_id, finding_id, code, set_at, set_by)
            values (@stopId, @stoveId, @visitId, @id, @StopCode, @at, @technician)
            """, values);
    }
}
