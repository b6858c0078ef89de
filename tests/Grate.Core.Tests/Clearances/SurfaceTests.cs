using Grate.Core.Clearances;

namespace Grate.Core.Tests.Clearances;

/// <summary>Surfaces round a stove: handbook 08.</summary>
public class SurfaceTests
{
    private static SurfaceAnswer Ask(SurfaceEntry entry) => Calculation.Answered(e => SurfaceAnswer.To(entry, e));

    // Handbook 08, worked cases.
    [Fact]
    public void Worked_cases_of_the_handbook()
    {
        var mantel = Ask(new(23.9, GasNowC: 200, GasHighC: 330, Spots: [new("mantel", 59.4)]));
        Assert.Equal((35.5, 61.7, SurfaceVerdict.Pass), (Math.Round(mantel.Spots[0].RiseK, 1), Math.Round(mantel.Spots[0].RiseHighK, 1), mantel.Verdict));
        Assert.Equal(["gaugeEmissivity", "spots[0].emissivity", "spots[0].kind"], mantel.Assumed.Select(a => a.Field));
        Assert.Equal(76.6, Math.Round(Ask(new(24, Spots: [new("plate", 60, 0.6)])).Spots[0].TrueC, 1));
        var practice = Ask(new(23.9, Spots: [new("mantel", 59.4), new("floor", 28.9), new("furniture", 29.4)]));
        Assert.Equal(("mantel", 1.0, SurfaceVerdict.Pass), (practice.Closest, practice.Factor, practice.Verdict));
    }

    // By the law of Stefan and Boltzmann: what leaves the plate toward the gauge, own radiation and the room's reflected, is what the gauge takes it for.
    [Theory]
    [InlineData(60, 24, 0.95, 0.6)]
    [InlineData(300, 20, 0.95, 0.3)]
    [InlineData(10, 22, 0.95, 0.8)]
    public void Radiation_of_the_true_surface_is_what_the_gauge_saw(double read, double room, double gauge, double own)
    {
        const double sigma = 5.670374419e-8;
        double Leaves(double celsius, double emissivity) => sigma * (emissivity * Math.Pow(celsius + 273.15, 4) + (1 - emissivity) * Math.Pow(room + 273.15, 4));
        Assert.Equal(Leaves(read, gauge), Leaves(SurfaceAnswer.TrueC(read, room, gauge, own), own), 6);
    }

    [Fact]
    public void Hidden_wood_may_rise_less_and_a_weaker_fire_is_never_taken_for_the_worst()
    {
        Assert.Equal(SurfaceVerdict.Fail, Ask(new(20, Spots: [new("stud", 72, Kind: "hidden")])).Verdict);
        Assert.Equal(SurfaceVerdict.Pass, Ask(new(20, Spots: [new("shelf", 72, Kind: "exposed")])).Verdict);
        // Hotter now than at high fire: as read.
        Assert.Equal(1, Ask(new(20, GasNowC: 400, Spots: [new("shelf", 72)])).Factor);
        // At its limit it passes; a hair above it does not.
        Assert.True(Ask(new(20, Spots: [new("shelf", 85)])).Spots[0].Passes);
        Assert.False(Ask(new(20, Spots: [new("shelf", 85.01)])).Spots[0].Passes);
        Assert.Equal(-273.15, SurfaceAnswer.TrueC(-50, 20, 0.95, 0.05));
    }

    [Fact]
    public void Bad_input_is_named()
    {
        var errors = new EntryErrors();
        Assert.Null(SurfaceAnswer.To(new(GasNowC: 2000, Spots: [new("", 700, 0), null!, new("a", 20, Kind: "open")]), errors));
        Assert.Equal(["gasNowC", "roomC", "spots[0].emissivity", "spots[0].label", "spots[0].readC", "spots[1]", "spots[2].kind"], errors.ByField.Keys.Order(StringComparer.Ordinal));
        errors = new EntryErrors();
        Assert.Null(SurfaceAnswer.To(new(20, GasNowC: 20), errors));
        Assert.Contains("no warmer than the room", errors.ByField["gasNowC"][0], StringComparison.Ordinal);
        Assert.Contains("at least one", errors.ByField["spots"][0], StringComparison.Ordinal);
    }
}
