using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Places;

/// <summary>Customer, house and stove refuse what cannot be, field by field; and what a stove's output makes of its fires.</summary>
public class PlacesTests
{
    private static IReadOnlyList<string> Refused(Action<EntryErrors> check)
    {
        var errors = new EntryErrors();
        check(errors);
        return [.. errors.ByField.Keys.Order()];
    }

    [Fact]
    public void Ordinary_places_are_accepted()
    {
        Assert.Empty(Refused(new Customer(Guid.CreateVersion7(), "Anwick household", "0512 555 017", "a@demo.example").Check));
        Assert.Empty(Refused(Histories.House.Check));
        Assert.Empty(Refused(e => Histories.Stove.Check(Histories.House, e)));
    }

    [Fact]
    public void Customer_is_refused_field_by_field() =>
        Assert.Equal(["email", "name", "note", "phone"], Refused(new Customer(Guid.CreateVersion7(), " ", new string('1', 61), "nobody", "bell\u0007").Check));

    [Fact]
    public void House_is_refused_field_by_field() =>
        Assert.Equal(["ach50", "altitudeM", "groundM", "latitude", "longitude", "monthlyC", "monthlyC[0]", "obstacles[0].name", "obstacles[0].topM", "obstacles[0].widthM", "obstacles[1]", "place", "roofPitchDeg", "storeyHeightsM[0]", "storeyNames", "street", "volumeM3", "widthM"],
            Refused((Histories.House with
            {
                Street = "",
                Place = new string('x', 201),
                Latitude = 91,
                Longitude = -181,
                AltitudeM = 9000,
                VolumeM3 = 1,
                Ach50 = 0,
                MonthlyC = [99],
                StoreyNames = [],
                StoreyHeightsM = [1],
                WidthM = double.NaN,
                RoofPitchDeg = 80,
                GroundM = -1,
                Obstacles = [new Obstacle("", 0, 0, 99), null!],
            }).Check));

    [Fact]
    public void Era_stands_in_for_a_blower_door_test_and_is_one_of_four() =>
        Assert.Equal(["builtEra"], Refused((Histories.House with { Ach50 = null, BuiltEra = "old" }).Check));

    [Fact]
    public void Stove_is_refused_field_by_field() =>
        Assert.Equal(["collarHeightM", "kind", "labelMaxPa", "model", "nominalKw", "storey", "year"],
            Refused(e => (Histories.Stove with { Kind = "rocket", Model = "", Year = 1500, NominalKw = 0, LabelMinPa = 20, LabelMaxPa = 12, Storey = 2, CollarHeightM = 9 }).Check(Histories.House, e)));

    // Handbook 01 section 2: P/(0.75 q), half and 1.75 times; q = 14.73 MJ/kg is mixed wood at 18 %. A masonry heater burns 6, 8, 12 kg/h.
    [Theory]
    [InlineData("steel", 8, 1.30, 2.61, 4.56)]
    [InlineData("cast-iron", 4, 0.65, 1.30, 2.28)]
    [InlineData("masonry-heater", 12, 6, 8, 12)]
    [InlineData("masonry-heater", 3, 6, 8, 12)]
    public void Fires_follow_the_nominal_output(string kind, double kw, double low, double normal, double high)
    {
        var fires = StoveFires.Of(kind, kw, 14.73);
        Assert.Equal((low, normal, high), (Math.Round(fires.LowKgH, 2), Math.Round(fires.NormalKgH, 2), Math.Round(fires.HighKgH, 2)));
        Assert.Equal(fires.NormalKgH, fires.Burn(FiringLevel.Normal).Value);
    }
}
