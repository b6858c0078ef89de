using Grate.Core.Fuel;

namespace Grate.Core.Tests.Fuel;

/// <summary>Nights: handbook 07 section 4.</summary>
public class OvernightTests
{
    private static OvernightAnswer Ask(OvernightEntry entry) => Calculation.Answered(e => OvernightAnswer.To(entry, e));

    private static NightEntry Night(double loadKg, double hours = 8.5, string coals = "some", params double[] inAndOut) => new(loadKg, 0.18, "hardwood", null, hours, coals,
        inAndOut.Length > 0 ? inAndOut[0] : null, inAndOut.Length > 1 ? inAndOut[1] : null, inAndOut.Length > 2 ? inAndOut[2] : null, inAndOut.Length > 3 ? inAndOut[3] : null);

    // Handbook 07 section 7.
    [Fact]
    public void Worked_cases_of_the_handbook()
    {
        var nights = Ask(new([Night(10, coals: "none"), Night(10, coals: "plenty")])).Nights;
        Assert.Equal([3.57, 3.03], nights.Select(n => Math.Round(n.OutputKw, 2)));
        Assert.Equal([8.5, 10], nights.Select(n => Math.Round(n.HoursToEmbers, 6)));
    }

    // A house of 180 W/K and 12 MJ/K, marched through two nights in steps of a minute: what the nights give back is the house.
    [Fact]
    public void Two_nights_of_a_known_house_give_the_house_back()
    {
        NightEntry Marched(double loadKg, double inStart, double outStart, double outEnd)
        {
            var watts = 1000 * Ask(new([Night(loadKg)])).Nights[0].OutputKw;
            const int steps = (int)(8.5 * 60);
            var room = inStart;
            for (var i = 0; i < steps; i++)
                room += 60 * (watts - 180 * (room - (outStart + (outEnd - outStart) * (i + 0.5) / steps))) / 12e6;
            return Night(loadKg, 8.5, "some", inStart, room, outStart, outEnd);
        }
        var house = Ask(new([Marched(7, 21.5, -1, -3), Marched(15, 19.5, -4, -8)], null)).House!;
        Assert.False(house.TooAlike);
        // Means of start and end stand for the curve between them: good to some per cent.
        Assert.Equal(180, house.UaWK!.Value, 5.0);
        Assert.Equal(12, house.CapacityMjK!.Value, 1.0);
    }

    [Fact]
    public void Nights_too_alike_tell_no_house()
    {
        var night = Night(10, 8.5, "some", 21, 19, -2, -4);
        Assert.Equal(new HouseFromNights(true, null, null), Ask(new([night, night])).House);
        Assert.Null(Ask(new([night, Night(10)])).House);
        // Colder outside, and warmer after less wood: no house does that.
        Assert.True(Ask(new([Night(14, 8.5, "some", 21, 19, 0, 0), Night(4, 8.5, "some", 20, 22, -15, -15)])).House!.TooAlike);
        // The last two that have all temperatures count.
        Assert.Equal(Ask(new([Night(8.5, 8.5, "some", 21.7, 18.9, -1, -3), Night(14, 8.5, "some", 20, 20.5, -4, -8)])).House,
            Ask(new([night, Night(8.5, 8.5, "some", 21.7, 18.9, -1, -3), Night(14, 8.5, "some", 20, 20.5, -4, -8), Night(9)])).House);
    }

    [Fact]
    public void The_load_for_a_night_is_the_output_turned_round()
    {
        var load = Ask(new(null, new(9, 20, -12, 0.18, "hardwood", 0.75, "some", 180))).Wanted!;
        Assert.Equal(180 * 32 / 1000.0, load.OutputKw!.Value, 9);
        Assert.Equal(load.OutputKw.Value, Ask(new([Night(load.LoadKg!.Value, 9)])).Nights[0].OutputKw, 9);
        Assert.Equal((0, 0), (Ask(new(null, new(9, 20, 25, UaWK: 180))).Wanted!.OutputKw, Ask(new(null, new(9, 20, 25, UaWK: 180))).Wanted!.LoadKg));
        var unknown = Ask(new(null, new(9, 20, -12)));
        Assert.Equal(new WantedLoad(null, null), unknown.Wanted);
        Assert.Empty(unknown.Assumed);
    }

    [Fact]
    public void Bad_input_is_named() =>
        Assert.Equal(["nights[0].coals", "nights[0].hours", "nights[0].loadKg", "nights[1]", "wanted.hours", "wanted.inC", "wanted.outC", "wanted.species"],
            Calculation.Refusals(e => OvernightAnswer.To(new([new(0, Coals: "few"), null!], new(Species: "oak")), e)).Keys.Order(StringComparer.Ordinal));
}
