using System.Collections.Concurrent;
using Grate.Core.Places;
using Grate.Core.Service;
using Grate.Instruments;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Reads rounds together: visits, who goes out, daylight and roads.</summary>
public sealed class RoundDesk(FirmStore firms, PersonStore people, AbsenceStore absences, RoundStore rounds, Stock.PartsDesk parts, IRoads roads, TimeProvider clock)
{
    /// <summary>Which days can be looked at.</summary>
    public const string Days = "A round lies between ten years ago and two years from now.";

    /// <summary>A day's round, read.</summary>
    /// <param name="Day">The day.</param>
    /// <param name="Round">The round.</param>
    /// <param name="Visits">Its visits.</param>
    /// <param name="Roads">Where minutes come from.</param>
    /// <param name="ToCome">Whether it is not over.</param>
    public sealed record Read(DateOnly Day, DayRound Round, IReadOnlyList<RoundVisit> Visits, string Roads, bool ToCome);

    /// <summary>Reads a day, today's without one; null where it is too far away.</summary>
    public async Task<Read?> ReadAsync(DateOnly? asked)
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var day = asked ?? today;
        return day < today.AddYears(-10) || day > today.AddYears(2) ? null : (await ReadAsync(firm, [day]))[0];
    }

    /// <summary>What is to come of a day, or of its whole week: of today the rest; null where it is over or too far away.</summary>
    public async Task<IReadOnlyList<DayRound>?> ToComeAsync(DateOnly day, bool wholeWeek)
    {
        var (firm, now) = (await firms.GetAsync(), clock.GetUtcNow());
        var today = firm.Day(now);
        if (day < today || day > today.AddYears(2))
            return null;
        var monday = Planning.MondayOf(day);
        List<DateOnly> days = wholeWeek ? [.. Enumerable.Range(0, 7).Select(monday.AddDays).Where(d => d >= today)] : [day];
        return [.. (await ReadAsync(firm, days, await parts.WantingAsync())).Where(r => days.Count == 1 || r.Visits.Count > 0 || firm.Works.WorksOn(r.Day))
            .Select(r => r.Day == today ? r.Round.Rest(firm.Time(now).ToTimeSpan().TotalMinutes) : r.Round)];
    }

    private async Task<IReadOnlyList<Read>> ReadAsync(Firm firm, IReadOnlyList<DateOnly> days, IReadOnlySet<Guid>? wanting = null)
    {
        var (today, visits) = (firm.Day(clock.GetUtcNow()), await rounds.BetweenAsync(firm, days[0], days[^1], wanting));
        var (away, goers) = (await absences.BetweenAsync(days[0], days[^1]), await people.SkillsAsync());
        // A firm that did not say where it is starts at its first house.
        var home = firm.Works.Home ?? (visits.Count > 0 ? new(visits[0].Visit.Latitude, visits[0].Visit.Longitude, 0) : new(0, 0, 0));
        var times = await roads.BetweenAsync(visits.Select(v => new RoadPlace(v.Visit.Latitude, v.Visit.Longitude)).Append(new(home.Latitude, home.Longitude)), CancellationToken.None);
        return [.. days.Select(day =>
        {
            // Where the sun does not set, or does not rise, a roof waits for nobody's clock.
            var light = Daylight.Of(day, home.Latitude, home.Longitude);
            double Minute(DateTime utc) => (firm.Local(new DateTimeOffset(utc, TimeSpan.Zero)) - day.ToDateTime(TimeOnly.MinValue)).TotalMinutes;
            List<RoundVisit> own = [.. visits.Where(v => v.Day == day)];
            var round = new DayRound(day, firm.Works, home, light is null ? 0 : Minute(light.Rise), light is null ? 1440 : Minute(light.Set), [.. own.Select(v => v.Visit)],
                [.. goers.Select(p => new DayVan(p.Id, p.Name, p.Skills, away.Any(a => a.PersonId == p.Id && a.On(day))))], times.Between);
            return new Read(day, round, own, times.Said, day >= today);
        })];
    }
}

/// <summary>Looks for better rounds in the background, for each person one at a time: who asks again ends what they asked before.</summary>
public sealed class RoundSearches(IRoundSolver solver, ILogger<RoundSearches> log)
{
    // After so long the best that was found is taken; a small day is found before anybody has to ask how far it is.
    private static readonly TimeSpan _time = TimeSpan.FromSeconds(20), _atOnce = TimeSpan.FromSeconds(1);

    private readonly ConcurrentDictionary<Guid, Search> _searches = new();

    // A source without timer or link holds nothing that had to be given back.
    private sealed class Search(RoundWish wish, RoundProgress at, CancellationTokenSource halt)
    {
        private volatile RoundProgress _at = at;

        public Task<BetterRounds?> Done { get; private set; } = Task.FromResult<BetterRounds?>(null);

        public void Run(IRoundSolver solver, IReadOnlyList<DayRound> days, ILogger log) => Done = Task.Run(() =>
        {
            try
            {
                return new RoundSearch(days, wish.KeepTold, wish.Without ?? []).Find(solver, _time, now => _at = now, halt.Token);
            }
            catch (Exception fault)
            {
                log.LogError(fault, "The search for a better round failed");
                return null;
            }
        }, CancellationToken.None);

        public Task HaltAsync()
        {
            halt.Cancel();
            return Done;
        }

        public RoundSearchAnswer Answer() => Done.IsCompleted ? new(wish, null, Done.Result, Done.Result is null ? "The search failed: look for it again." : null) : new(wish, _at, null, null);
    }

    /// <summary>Begins a search, and waits a moment for it.</summary>
    public async Task<RoundSearchAnswer> StartAsync(Guid person, RoundWish wish, IReadOnlyList<DayRound> days)
    {
        var (search, before) = (new Search(wish, new(0, days.Sum(d => d.AsPlanned().Sum(r => r.DriveMin)), 0), new()), (Search?)null);
        _searches.AddOrUpdate(person, search, (_, other) =>
        {
            before = other;
            return search;
        });
        before?.HaltAsync();
        search.Run(solver, days, log);
        await Task.WhenAny(search.Done, Task.Delay(_atOnce));
        return search.Answer();
    }

    /// <summary>How far somebody's search is, or what it found.</summary>
    public RoundSearchAnswer Answer(Guid person) => _searches.TryGetValue(person, out var search) ? search.Answer() : new(null, null, null, null);

    /// <summary>Ends somebody's search: what it has by then is what it found.</summary>
    public async Task<RoundSearchAnswer> HaltAsync(Guid person)
    {
        if (_searches.TryGetValue(person, out var search))
            await search.HaltAsync();
        return Answer(person);
    }

    /// <summary>Ends somebody's search, and drops what it found.</summary>
    public void Forget(Guid person)
    {
        if (_searches.TryRemove(person, out var search))
            _ = search.HaltAsync();
    }
}
