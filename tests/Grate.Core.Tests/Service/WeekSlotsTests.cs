using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>Times of a week's visits: near what is planned, by wish, skill and light.</summary>
public class WeekSlotsTests
{
    private static readonly DateOnly _monday = new(2027, 3, 1);
    private static readonly Guid _ann = Guid.NewGuid(), _ben = Guid.NewGuid();

    private static WeekSlots Slots(params DayVan[] vans) => new(FirmWays.Ordinary with { Home = new(47.1, 10.2, 600) }, [.. Enumerable.Range(0, 7).Select(_monday.AddDays)],
        _ => vans.Length > 0 ? vans : [new(_ann, "Ann", ["roof"], false), new(_ben, "Ben", ["combustor"], false)], day => (day.ToDateTime(new(9, 0)), day.ToDateTime(new(16, 0))), Road.Minutes);

    private static WantingVisit Visit(double latitude = 47.1, int minutes = 60, VisitWish? wish = null, params Skill[] needs) => new(latitude, 10.2, minutes, needs, wish ?? VisitWish.Any);

    [Fact]
    public void A_visit_lies_beside_the_one_in_its_town()
    {
        var slots = Slots();
        var wednesday = _monday.AddDays(2).ToDateTime(new(13, 0));
        slots.Take(new(_ben, wednesday, wednesday.AddHours(1), 47.4, 10.2));
        var found = slots.Find(Visit(47.4))!;
        Assert.Equal((_ben, _monday.AddDays(2)), (found.TechnicianId, DateOnly.FromDateTime(found.Start)));
        // And the next beside both, never on top of them.
        var next = slots.Find(Visit(47.4))!;
        Assert.True(next.End <= found.Start || next.Start >= found.End);
        Assert.True(next.End <= wednesday || next.Start >= wednesday.AddHours(1));
    }

    [Fact]
    public void Wish_skill_light_and_noon_are_kept()
    {
        var found = Slots().Find(Visit(wish: new VisitWish("afternoons", ["monday", "tuesday"])))!;
        Assert.True(found.Start.TimeOfDay >= TimeSpan.FromHours(12.5) && found.Start.DayOfWeek == DayOfWeek.Wednesday);
        var roof = Slots().Find(Visit(needs: Skill.Roof))!;
        Assert.Equal((_ann, new TimeSpan(9, 0, 0)), (roof.TechnicianId, roof.Start.TimeOfDay));
        Assert.Null(Slots().Find(Visit(needs: Skill.MasonryHeater)));
        Assert.NotNull(Slots(new DayVan(_ann, "Ann", [], false)).Find(Visit(needs: Skill.MasonryHeater)));
        Assert.Null(Slots(new DayVan(_ann, "Ann", [], true)).Find(Visit()));
        // Half past eight to eleven, then noon: the second of 90 min begins after it.
        var slots = Slots(new DayVan(_ann, "Ann", [], false));
        Assert.Equal(new TimeSpan(8, 0, 0), slots.Find(Visit(minutes: 150))!.Start.TimeOfDay);
        Assert.Equal(new TimeSpan(12, 30, 0), slots.Find(Visit(minutes: 120))!.Start.TimeOfDay);
    }

    [Fact]
    public void A_week_that_is_full_has_no_time()
    {
        var slots = Slots(new DayVan(_ann, "Ann", [], false));
        // Two of 240 min a day, around noon, on five working days.
        Assert.All(Enumerable.Range(0, 10), _ => Assert.NotNull(slots.Find(Visit(minutes: 240))));
        Assert.Null(slots.Find(Visit(minutes: 240)));
    }

    // The next free time, of anybody: the earliest that has its drive, whatever costs less later in the week.
    [Fact]
    public void The_first_free_time_leaves_the_drive_and_takes_whoever_is_free()
    {
        var slots = Slots();
        var eight = _monday.ToDateTime(new(8, 0));
        slots.Take(new(_ann, eight, eight.AddHours(1), 47.4, 10.2));
        slots.Take(new(_ben, eight, eight.AddHours(2), 47.1, 10.2));
        var found = slots.First(Visit(47.1))!;
        // Ann drives 40 km from nine on; Ben is there at ten.
        var drive = Road.Minutes(47.4, 10.2, 47.1, 10.2);
        Assert.True(drive > 45);
        Assert.Equal((_ben, eight.AddHours(2)), (found.TechnicianId, found.Start));
        Assert.True(slots.First(Visit(47.4))! is { TechnicianId: var ann, Start: var next } && ann == _ann && next == eight.AddHours(1));
        // A wish and a skill count here as everywhere.
        Assert.Equal((_ann, new TimeSpan(9, 0, 0)), (slots.First(Visit(47.4, needs: Skill.Roof))!.TechnicianId, slots.First(Visit(47.4, needs: Skill.Roof))!.Start.TimeOfDay));
        Assert.True(slots.First(Visit(wish: new VisitWish("afternoons", ["monday"])))!.Start >= _monday.AddDays(1).ToDateTime(new(12, 30)));
    }
}
