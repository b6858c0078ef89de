using Grate.Core.Flue;
using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>A household told of on the telephone: what is usual stands in, is marked so, and can be reckoned with.</summary>
public class NewHouseholdTests
{
    private static readonly DateOnly _today = new(2026, 11, 28);
    private static readonly Whereabouts _valley = new(47.10, 10.20, 640);

    private static (House House, IReadOnlyList<string> Assumed) House(NewHousehold told, Whereabouts? known = null)
    {
        var errors = new EntryErrors();
        var house = told.House(Guid.CreateVersion7(), known ?? _valley, errors);
        Assert.Empty(errors.ByField);
        return house!.Value;
    }

    private static NewHousehold Told(NewStove? stove = null) => new("A household", Street: "1 Weir Bank", Place: "Oxlow", Stove: stove ?? new("steel"));

    [Fact]
    public void Name_street_and_place_are_enough()
    {
        var (house, assumed) = House(Told());
        Assert.Equal((47.10, 640.0, "before-1980", 2), (house.Latitude, house.AltitudeM, house.BuiltEra, house.StoreyNames.Count));
        // Innsbruck's January, 60 m higher.
        Assert.Equal(Math.Round(-2 - 60 * 0.0065, 1), house.MonthlyC[0]);
        Assert.Equal(["altitudeM", "builtEra", "latitude", "monthlyC", "roofPitchDeg", "storeyNames", "volumeM3", "widthM"], assumed.Order());
        Assert.All(assumed, f => Assert.NotEmpty(Unconfirmed.Say(f)));
    }

    [Fact]
    public void What_was_told_is_not_taken_as_usual()
    {
        var told = Told() with { Latitude = 46.5, Longitude = 11.3, AltitudeM = 900, BuiltEra = "later", Storeys = 1 };
        var (house, assumed) = House(told);
        Assert.Equal((46.5, 900.0, "later", 1), (house.Latitude, house.AltitudeM, house.BuiltEra, house.StoreyNames.Count));
        Assert.Equal(["monthlyC", "roofPitchDeg", "volumeM3", "widthM"], assumed.Order());
        var errors = new EntryErrors();
        var stove = new NewStove("insert", true, "Hearth 7", "S-1", 2019, "kitchen", 0, 9, 12, 30, 1.0, 0.18, "liner-bare").In(Guid.CreateVersion7(), house, _today, errors)!.Value;
        Assert.Equal(["flue"], stove.Assumed);
        Assert.Equal(("Hearth 7", 2019, 9.0, 12.0, "kitchen"), (stove.Stove.Model, stove.Stove.Year, stove.Stove.NominalKw, stove.Stove.LabelMinPa!.Value, stove.Stove.Room));
        Assert.Contains("combustor", stove.Stove.Features);
        Assert.Equal(0.18, FlueReading.Stored(stove.Flue).Segments[0].Section.NarrowestM, 1e-9);
    }

    // Whatever somebody tells: the flue can be drawn, and a draft is expected of it.
    [Fact]
    public void Every_kind_in_every_house_can_be_reckoned_with()
    {
        foreach (var kind in StoveKind.All)
        {
            foreach (var storeys in new[] { 1, 2, 3, 4 })
            {
                foreach (var flue in TypicalFlue.Names.Select(n => n.Code).Append(null))
                {
                    var (house, _) = House(Told() with { Storeys = storeys });
                    for (var storey = 0; storey < storeys; storey++)
                    {
                        var errors = new EntryErrors();
                        var stove = new NewStove(kind.Code, Flue: flue, Storey: storey).In(Guid.CreateVersion7(), house, _today, errors);
                        if (stove is null)
                        {
                            // Under a low roof a usual flue may find no room: told, not drawn wrong.
                            Assert.Equal(["storey"], errors.ByField.Keys);
                            Assert.True(storey == storeys - 1);
                            continue;
                        }
                        var place = HotPlace.Of(new StoveHistory(house, stove.Value.Stove, stove.Value.Flue, [], [], []));
                        Assert.InRange(Calculation.Answered(e => place.Answer(new HotReading("normal"), 1, e, UnitSystem.Metric)).ExpectedPa, -5, 80);
                    }
                }
            }
        }
    }

    [Fact]
    public void What_cannot_be_is_named()
    {
        Dictionary<string, string[]> Refused(NewHousehold told, Whereabouts? known)
        {
            var errors = new EntryErrors();
            told.Customer(Guid.CreateVersion7(), errors);
            if (told.House(Guid.CreateVersion7(), known, errors) is { } house)
                (told.Stove ?? new()).In(Guid.CreateVersion7(), house.House, _today, errors);
            return errors.ByField;
        }
        Assert.Equal(["latitude"], Refused(Told(), null).Keys);
        Assert.Equal(["email", "name"], Refused(Told() with { Name = " ", Email = "nobody" }, _valley).Keys.Order());
        Assert.Equal(["place", "street"], Refused(Told() with { Street = null, Place = new string('x', 300) }, _valley).Keys.Order());
        Assert.Equal(["storeys"], Refused(Told() with { Storeys = 0 }, _valley).Keys);
        Assert.Equal(["altitudeM", "latitude"], Refused(Told() with { Latitude = 99, Longitude = 10, AltitudeM = 9000 }, _valley).Keys.Order());
        Assert.Equal(["builtEra"], Refused(Told() with { BuiltEra = "roman" }, _valley).Keys);
        Assert.Equal(["kind"], Refused(Told(new("boiler")), _valley).Keys);
        Assert.Equal(["flue"], Refused(Told(new("steel", Flue: "hole")), _valley).Keys);
        Assert.Equal(["collarM", "labelMaxPa", "serial"], Refused(Told(new("steel", CollarM: 2, LabelMinPa: 20, LabelMaxPa: 10, Serial: new string('x', 101))), _valley).Keys.Order());
    }

    [Fact]
    public void A_firm_is_refused_what_it_cannot_be()
    {
        Dictionary<string, string[]> Refused(Firm firm)
        {
            var errors = new EntryErrors();
            firm.Check(errors);
            return errors.ByField;
        }
        var firm = new Firm("Fellside", "Imst", "Europe/Vienna", 12, 20, false, FirmWays.Ordinary);
        Assert.Empty(Refused(firm));
        // Central European Time is a zone, CET+1 and a plain offset are none that knows summer time.
        Assert.Equal(["timeZone"], Refused(firm with { TimeZone = "UTC+2" }).Keys);
        Assert.Equal(["timeZone"], Refused(firm with { TimeZone = "Europe/Atlantis" }).Keys);
        Assert.Equal(["inspectionMonths", "serviceHoursWeek"], Refused(firm with { InspectionMonths = 61, ServiceHoursWeek = 81 }).Keys.Order());
        var ways = FirmWays.Ordinary;
        Assert.Equal(["ways.to"], Refused(firm with { Ways = ways with { From = new(12, 0), To = new(12, 30) } }).Keys);
        Assert.Equal(["ways.to"], Refused(firm with { Ways = ways with { From = new(17, 0), To = new(8, 0) } }).Keys);
        Assert.Equal(2, Refused(firm with { Ways = ways with { WorkDays = ["someday"] } })["ways.workDays"].Length);
        Assert.Equal(["ways.units", "ways.paper"], Refused(firm with { Ways = ways with { Units = "ells", Paper = "vellum" } }).Keys);
        Assert.Equal(["ways.home.longitude"], Refused(firm with { Ways = ways with { Home = new(47, 181, 600) } }).Keys);
        // Its days begin where it is: 28 November has begun in Auckland when it is still the 27th in Vienna.
        var at = new DateTimeOffset(2026, 11, 27, 12, 0, 0, TimeSpan.Zero);
        Assert.Equal((new DateOnly(2026, 11, 27), new DateOnly(2026, 11, 28)), (firm.Day(at), (firm with { TimeZone = "Pacific/Auckland" }).Day(at)));
    }

    // The week's clock changes: the last Sunday of March and October in Vienna, the first of April and the last of September in Auckland, November in Los Angeles.
    [Theory]
    [InlineData("Europe/Vienna", "2027-03-28", 23)]
    [InlineData("Europe/Vienna", "2027-10-31", 25)]
    [InlineData("Pacific/Auckland", "2027-04-04", 25)]
    [InlineData("Pacific/Auckland", "2027-09-26", 23)]
    [InlineData("America/Los_Angeles", "2027-11-07", 25)]
    public void A_week_with_a_clock_change_keeps_its_hours(string zone, string sunday, int hours)
    {
        var firm = new Firm("Fellside", "Somewhere", zone, 12, 20, false);
        var day = DateOnly.Parse(sunday);
        var (from, before) = firm.Span(day);
        Assert.Equal(hours, (before - from).TotalHours);
        for (var d = -3; d <= 3; d++)
        {
            // Nine o'clock is nine o'clock on the wall on every day of it.
            var nine = firm.At(day.AddDays(d), new(9, 0));
            Assert.Equal((day.AddDays(d), new TimeOnly(9, 0)), (firm.Day(nine), firm.Time(nine)));
        }
    }
}
