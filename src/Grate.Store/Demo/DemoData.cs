using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Burning;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Core.Visits;
using Microsoft.AspNetCore.Identity;
using Npgsql;

namespace Grate.Store.Demo;

/// <summary>A demo account, shown on the sign-in page only while demo data is loaded.</summary>
/// <param name="Email">Address.</param>
/// <param name="Password">Password.</param>
/// <param name="Role">Role.</param>
public sealed record DemoAccount(string Email, string Password, string Role);

/// <summary>Loads the demo firm into an empty database. The same seed gives the same valley; only today's date moves.</summary>
public sealed class DemoData(NpgsqlDataSource database)
{
    private const int Seed = 1847;
    private const int YearsBack = 4;

    private readonly Random _random = new(Seed);

    /// <summary>Accounts that can sign in.</summary>
    public static IReadOnlyList<DemoAccount> Accounts() =>
        [.. DemoValley.People.Where(p => p.SignsIn).Select(p => new DemoAccount(p.Email, DemoValley.Password, p.Role))];

    /// <summary>Loads everything in one transaction.</summary>
    /// <param name="now">Now: the demo is dated by the day at its firm's place.</param>
    public async Task LoadAsync(DateTimeOffset now)
    {
        var today = DemoValley.OurFirm.Day(now);
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("insert into firm (name, place, time_zone, service_hours_week, demo, contact) values (@FirmName, @Place, @TimeZone, @ServiceHoursWeek, true, @contact::jsonb)",
            new { DemoValley.FirmName, DemoValley.Place, DemoValley.TimeZone, DemoValley.ServiceHoursWeek, contact = JsonSerializer.Serialize(DemoValley.OurFirm.Reached, CoreJson.Default.FirmContact) });
        var people = await PeopleAsync(connection);
        var technicians = people.Take(3).ToArray();

        for (var number = 0; number < DemoStoves.Count; number++)
        {
            // Four households have two stoves.
            var house = DemoValley.House(number % 32, new Random(Seed + number % 32));
            var siteId = number < 32 ? await HouseAsync(connection, house) : await SiteOfAsync(connection, house);
            var stove = DemoStoves.Build(number, house, _random);
            var known = new StoveHistory(house.House, stove.Stove(house), new FlueVersion(Guid.CreateVersion7(), 1, today.AddYears(-YearsBack - 1), stove.StoveXM, stove.Flue), [], [], []);
            Refuse(known);
            await StoveAsync(connection, siteId, known);
            var past = new DemoHistory(stove, house, number, _random);
            for (var yearsAgo = YearsBack; yearsAgo >= 1; yearsAgo--)
            {
                var earlier = await VisitAsync(connection, known, technicians[number % 3], VisitedOn(today, number, yearsAgo), yearsAgo, past, stove);
                known = known with { Earlier = [.. known.Earlier, earlier] };
            }
        }
        await DemoStock.LoadAsync(connection, technicians, now);
        await WaysAsync(connection, technicians, people[^1], today, now);
        await transaction.CommitAsync();
        await new DemoRound(database, DemoValley.OurFirm).KeepTodayAsync(today);
    }

    // Who can do what, who called, who is away in three weeks, and what some households ask for.
    private static async Task WaysAsync(NpgsqlConnection connection, Guid[] technicians, Guid by, DateOnly today, DateTimeOffset now)
    {
        string[][] skills = [[.. Word.All<Skill>()], ["roof", "liner", "combustor"], ["roof", "masonry-heater", "combustor"]];
        await connection.ExecuteAsync("update people set skills = @skills where id = @id", technicians.Select((id, i) => new { id, skills = skills[i] }));
        var monday = today.AddDays(21 - ((int)today.DayOfWeek + 6) % 7);
        await connection.ExecuteAsync("insert into absences (id, person_id, first_day, last_day, why, made_at, made_by) values (@id, @who, @monday, @friday, 'course on masonry heaters', @now, @by)",
            new { id = Guid.CreateVersion7(), who = technicians[1], monday, friday = monday.AddDays(4), now, by });
        await connection.ExecuteAsync("update firm set ways = @ways::jsonb", new { ways = System.Text.Json.JsonSerializer.Serialize(FirmWays.Ordinary with { Home = DemoValley.Home }, CoreJson.Default.FirmWays) });
        var calling = (await connection.QueryAsync<Guid>("select a.id from appliances a where not exists (select from safety_stops t where t.appliance_id = a.id) order by a.id desc limit 3")).ToList();
        (string Words, bool Urgent, string Wish, string Told)[] calls =
        [
            ("Smoke comes into the room since yesterday, at every opening of the door", true, "any time", "{\"smoke-reload\": true}"),
            ("The glass goes black overnight, and there is no holding the fire until morning", false, "mornings", "{\"glass-black\": true}"),
            ("A brick at the back is broken in two", false, "not on a Friday", "{}"),
        ];
        await connection.ExecuteAsync("""
            insert into calls (id, appliance_id, words, urgent, wish, minutes, told, taken_at, taken_by) values (@id, @stove, @Words, @Urgent, @Wish, 60, @Told::jsonb, @at, @by)
            """, calls.Zip(calling, (call, stove) => new { id = Guid.CreateVersion7(), stove, call.Words, call.Urgent, call.Wish, call.Told, at = now.AddMinutes(-40), by }));
        await connection.ExecuteAsync("""
            update customers set contacts = '[{"whose": "neighbour with the key", "phone": "0555 0177 12", "email": ""}]', note = 'Dog in the yard; ring twice.', wish = '{"when": "mornings", "notOn": ["tuesday"], "coldFrom": null}'
            where id in (select customer_id from sites order by street desc limit 3)
            """);
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
            await PersonStore.AddAsync(connection, row);
            ids.Add(row.Id);
        }
        return ids;
    }

    // The demo is entered like anybody's records: what is refused there is refused here.
    private static void Refuse(StoveHistory known)
    {
        var errors = new EntryErrors();
        known.House.Check(errors);
        known.Stove.Check(known.House, errors);
        if (errors.Any)
            throw new InvalidOperationException($"{known.House.Street}: {string.Join(" ", errors.ByField.SelectMany(e => e.Value))}");
    }

    private static async Task<Guid> HouseAsync(NpgsqlConnection connection, DemoHouse demo)
    {
        var customerId = Guid.CreateVersion7();
        var house = demo.House;
        await BookStore.AddCustomerAsync(connection, new Customer(customerId, demo.Customer, demo.Phone, $"{string.Concat(demo.Phone.Where(char.IsAsciiDigit))}@valley.example"));
        await BookStore.AddHouseAsync(connection, customerId, house, []);
        return house.Id;
    }

    private static Task<Guid> SiteOfAsync(NpgsqlConnection connection, DemoHouse house) =>
        connection.QuerySingleAsync<Guid>("select s.id from sites s join customers c on c.id = s.customer_id where c.name = @Customer", house);

    private static async Task StoveAsync(NpgsqlConnection connection, Guid siteId, StoveHistory known)
    {
        await BookStore.AddStoveAsync(connection, siteId, known.Stove, "", known.Flue, []);
    }

    private async Task<EarlierVisit> VisitAsync(NpgsqlConnection connection, StoveHistory known, Guid technician, DateOnly day, int yearsAgo, DemoHistory past, DemoStove stove)
    {
        var visitId = Guid.CreateVersion7();
        // The hour leaves room for every stove of a technician on one day.
        var start = DemoValley.OurFirm.At(day, new TimeOnly(8 + _random.Next(8), 0));
        // Unsafe things were found last year and still stand; the others were found two years ago.
        var lasting = stove.Fault is DemoFault.Glaze or DemoFault.BaffleGone;
        var faulty = stove.Fault != DemoFault.None && yearsAgo == (lasting ? 1 : 2);
        await connection.ExecuteAsync("""
            insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose)
            values (@visitId, @Stove, @Flue, @technician, @start, @end, 'yearly service')
            """, new { visitId, Stove = known.Stove.Id, Flue = known.Flue.Id, technician, start, end = start.AddMinutes(90) });
        await connection.ExecuteAsync("""
            insert into visit_steps (visit_id, step, status, version, save_id, saved_at, saved_by)
            values (@visitId, @Code, 'done', 1, @saveId, @start, @technician)
            """, VisitSteps.All.Select(step => new { visitId, step.Code, saveId = Guid.CreateVersion7(), start, technician }));

        // Every station answers as it would have then: the wood first, the others rest on it.
        var at = known.On(day, UnitSystem.Metric);
        var readings = past.Readings(HotPlace.Of(known), day, faulty).ToList();
        async Task RecordAsync<TEntry, TAnswer>(Station<TEntry, TAnswer> station, TEntry entry)
            where TEntry : class
            where TAnswer : class, IReckoned
        {
            var (step, errors) = (station.Steps[0], new EntryErrors());
            var kept = station.Reckon(entry, at, errors)
                ?? throw new InvalidOperationException($"{known.House.Street} on {day}, {station.Code}: {string.Join(" ", errors.ByField.SelectMany(e => e.Value))}");
            await StationStore.WriteStationAsync(connection, StationRow.Of(visitId, step, station, kept, 0, Guid.CreateVersion7(), start, ""), kept.Facts, technician, start);
            at = at with { Facts = [.. at.Facts, .. kept.Facts.Select(f => new VisitFact(step, station.Code, f.Name, f.Value, f.Word, DemoValley.OurFirm.Time(start)))] };
        }
        // What was hidden showed in some way, and was named once it was found.
        var trouble = faulty ? DemoHistory.Trouble(stove.Fault) : null;
        if (trouble is var (told, _))
            await RecordAsync(new SuspectsStation(), new Suspects(told.ToDictionary(t => t, _ => true)));
        await RecordAsync(new WoodStation(), past.Wood());
        await RecordAsync(new DepositsStation(), past.Sweep());
        if (past.Lining(known, yearsAgo) is { } lining)
            await RecordAsync(new LiningStation(), lining);
        if (past.Combustor(known, day, yearsAgo) is { } combustor)
            await RecordAsync(new CombustorStation(), combustor);
        await RecordAsync(new HotDraftStation(), new HotTest(readings));
        await RecordAsync(new HotRunStation(), DemoHistory.Run(start, day));
        var cause = new CauseFound(trouble is var (_, was) ? [was] : [], Minutes: 10 + 5 * (known.House.Street.Length % 4));
        // Not every kind of stove can have every cause.
        if (trouble is not null && new CauseStation().Reckon(cause, at, new EntryErrors()) is not null)
            await RecordAsync(new CauseStation(), cause);

        var found = past.Findings(yearsAgo, faulty).ToList();
        foreach (var finding in found)
            await FindingAsync(connection, visitId, known.Stove.Id, finding, technician, start);
        var next = Due.NextInspection(day, (int)Due.Inspection.Value);
        await connection.ExecuteAsync("""
            update visits set state = 'signed', signed_at = @signed, signed_by = @technician, next_inspection = @next where id = @visitId
            """, new { visitId, technician, signed = start.AddMinutes(90), next });
        return new EarlierVisit(visitId, day, true, next, [.. at.Facts.Select(f => new Fact(f.Name, f.Value, f.Word))],
            [.. found.Select(f => new PartFound(f.Step, f.Part, f.Condition))]);
    }

    private static async Task FindingAsync(NpgsqlConnection connection, Guid visitId, Guid stoveId, DemoFinding finding, Guid technician, DateTimeOffset at)
    {
        var values = new
        {
            id = Guid.CreateVersion7(),
            stopId = Guid.CreateVersion7(),
            visitId,
            stoveId,
            finding.Step,
            finding.Part,
            condition = Word.Of(finding.Condition),
            finding.Note,
            finding.StopCode,
            saveId = Guid.CreateVersion7(),
            technician,
            at,
        };
        await connection.ExecuteAsync("""
            insert into findings (id, visit_id, step, part, condition, note, stop_code, version, save_id, saved_at, saved_by)
            values (@id, @visitId, @Step, @Part, @condition, @Note, @StopCode, 1, @saveId, @at, @technician)
            """, values);
        if (finding.StopCode is null)
            return;
        await connection.ExecuteAsync("""
            insert into safety_stops (id, appliance_id, visit_id, step, part, code, why, awaits, set_at, set_by)
            values (@stopId, @stoveId, @visitId, @Step, @Part, @StopCode, @Note, array[@StopCode], @at, @technician)
            """, values);
    }
}
