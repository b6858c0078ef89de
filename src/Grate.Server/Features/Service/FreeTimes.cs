using Grate.Core;
using Grate.Core.Service;
using Grate.Instruments;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Free times by the season's own finder: drives, wishes, skills, lunch, daylight and everybody's day count; a signed visit's hour is taken.</summary>
public sealed class FreeTimes(FirmStore firms, PersonStore people, AbsenceStore absences, SeasonPlanStore seasons, PlanStore plans, IRoads roads, TimeProvider clock)
{
    private const int WeeksAhead = 9;

    /// <summary>The first free time for a visit, from a day on; null where none is within two months.</summary>
    /// <param name="stoveId">Its stove, whose place, skills and wishes count; null where nobody knows it yet.</param>
    /// <param name="technicianId">Who goes; null for whoever is free first.</param>
    /// <param name="from">Not before this day.</param>
    /// <param name="minutes">How long it takes.</param>
    public async Task<SlotAnswer?> FirstAsync(Guid? stoveId, Guid? technicianId, DateOnly from, int minutes)
    {
        var firm = await firms.GetAsync();
        var now = firm.Local(clock.GetUtcNow());
        var technicians = (await people.SkillsAsync()).Where(p => technicianId is null || p.Id == technicianId).ToList();
        var stove = stoveId is { } id ? await plans.SituationAsync(id, [], from) : null;
        var (latitude, longitude) = stove is not null ? (stove.Latitude, stove.Longitude) : firm.Works.Home is { } home ? (home.Latitude, home.Longitude) : (0, 0);
        var wanting = new WantingVisit(latitude, longitude, minutes, [.. stove?.Needs ?? []], stove?.Wish ?? VisitWish.Any);
        for (var monday = Planning.MondayOf(from); monday < from.AddDays(7 * WeeksAhead); monday = monday.AddDays(7))
        {
            var days = Enumerable.Range(0, 7).Select(monday.AddDays).Where(d => d >= from && d >= DateOnly.FromDateTime(now)).ToList();
            var (taken, away) = (await seasons.TakenAsync(firm, monday), await absences.BetweenAsync(monday, monday.AddDays(6)));
            var ways = stove is null ? null : await roads.BetweenAsync([new(latitude, longitude), .. taken.Select(t => new RoadPlace(t.Latitude, t.Longitude)), .. firm.Works.Home is { } from0 ? [new RoadPlace(from0.Latitude, from0.Longitude)] : Array.Empty<RoadPlace>()], CancellationToken.None);
            var slots = new WeekSlots(firm.Works, days, d => [.. technicians.Select(p => new DayVan(p.Id, p.Name, p.Skills, away.Any(a => a.PersonId == p.Id && a.On(d))))],
                d => SeasonPlanDesk.Light(firm, d), (a, b, c, d) => ways?.Between(a, b, c, d) ?? 0);
            foreach (var time in taken)
                slots.Take(time);
            // Of today what is over is over.
            foreach (var person in technicians.Where(_ => days.Contains(DateOnly.FromDateTime(now))))
                slots.Take(new(person.Id, now.Date, now, firm.Works.Home?.Latitude ?? latitude, firm.Works.Home?.Longitude ?? longitude));
            if (slots.First(wanting) is { } free)
                return new(DateOnly.FromDateTime(free.Start), TimeOnly.FromDateTime(free.Start), free.TechnicianId);
        }
        return null;
    }

    /// <summary>What a time costs that has no room for its drives, in a sentence; null where they have.</summary>
    /// <param name="wanted">The plan.</param>
    /// <param name="latitude">Of the house, °.</param>
    /// <param name="longitude">°.</param>
    public async Task<string?> DriveAgainstAsync(WantedTime wanted, double latitude, double longitude)
    {
        var firm = await firms.GetAsync();
        var (start, end) = (wanted.Day.ToDateTime(wanted.Time), wanted.Day.ToDateTime(wanted.Time).AddMinutes(wanted.Minutes));
        var day = (await seasons.TakenAsync(firm, Planning.MondayOf(wanted.Day))).Where(t => t.TechnicianId == wanted.TechnicianId && DateOnly.FromDateTime(t.Start) == wanted.Day && !(t.Latitude == latitude && t.Longitude == longitude)).ToList();
        if (day.Count == 0)
            return null;
        var ways = await roads.BetweenAsync([new(latitude, longitude), .. day.Select(t => new RoadPlace(t.Latitude, t.Longitude))], CancellationToken.None);
        if (day.Where(t => t.End <= start).MaxBy(t => t.End) is { } before && ways.Between(before.Latitude, before.Longitude, latitude, longitude) is var there && before.End.AddMinutes(there) > start)
            return $"The drive from the visit before takes {there:0} min, and {(start - before.End).TotalMinutes:0} min are there.";
        if (day.Where(t => t.Start >= end).MinBy(t => t.Start) is { } after && ways.Between(latitude, longitude, after.Latitude, after.Longitude) is var on && end.AddMinutes(on) > after.Start)
            return $"The drive to the visit after takes {on:0} min, and {(after.Start - end).TotalMinutes:0} min are there.";
        return null;
    }
}
