using Grate.Core.Air;
using Grate.Core.Flue;

namespace Grate.Core.Tests.Air;

/// <summary>Outside air: handbook 06 sections 1 to 3.</summary>
public class AirDuctTests
{
    private static AirDuctAnswer Ask(AirDuctEntry entry) => Calculation.Answered(e => AirDuctAnswer.To(entry, e));

    // Handbook 06, worked cases.
    [Fact]
    public void Worked_cases_of_the_handbook()
    {
        var rigid = Ask(new(Duct: new("smooth", 3.3)));
        Assert.Equal((30.55, 5.48, 1.60, 100.0), (Math.Round(rigid.AirKgH, 2), Math.Round(rigid.Duct!.Sizes[0].LossPa, 2), Math.Round(rigid.Duct.Sizes[1].LossPa, 2), rigid.Duct.SmallestMm));
        Assert.Equal(2.89, Math.Round(Ask(new(Fire: new FireEntry(BurnKgH: 2.5, MoistureWet: 0.18, ExcessAir: 1.8), Duct: new(LengthM: 3.3))).Duct!.Chosen!.LossPa, 2));
        var flexible = Ask(new(Duct: new("flex", 6, 2, DiameterMm: 100))).Duct!;
        Assert.Equal((4.30, false, 125.0), (Math.Round(flexible.Chosen!.LossPa, 2), flexible.Chosen.Fits, flexible.SmallestMm));
        Assert.Equal(12.5, Math.Round(Ask(new(OutdoorDesignC: -20, Duct: new(LengthM: 2, DiameterMm: 100))).Insulation!.ThicknessMm, 1));
        Assert.Equal(5.7, Math.Round(Ask(new(Humidity: 0.4, Duct: new(LengthM: 2, DiameterMm: 100))).Insulation!.ThicknessMm, 1));
        Assert.Equal(108, Math.Round(Ask(new(RoomC: 20, Heat: new(OutdoorC: 0))).Heat!.LossW!.Value));
    }

    [Fact]
    public void Practice_stands_beside_the_limit_and_does_not_replace_it()
    {
        // By the 4 Pa limit 75 mm over 3.3 m carries fires up to about 2.9 kg/h (handbook 06 section 2).
        AirDuctAnswer At(double burn) => Ask(new(Fire: new FireEntry(BurnKgH: burn), Duct: new(LengthM: 3.3)));
        Assert.Equal((75, 75), (At(2.9).Duct!.SmallestMm, At(2.9).Duct!.PracticeMm));
        Assert.Equal((100, 75), (At(3.0).Duct!.SmallestMm, At(3.0).Duct!.PracticeMm));
        Assert.Equal((6.6, 100), (Ask(new(Duct: new(LengthM: 2, Bends90: 2, Bends45: 2))).Duct!.EquivalentLengthM, Ask(new(Duct: new(LengthM: 2, Bends90: 2, Bends45: 2))).Duct!.PracticeMm));
        // A collar of 125 mm forbids what would do by the loss.
        Assert.Equal(125, Ask(new(Duct: new(LengthM: 1, CollarMm: 125))).Duct!.SmallestMm);
        // Nothing fits: no size, no insulation.
        var none = Ask(new(Fire: new FireEntry(BurnKgH: 40), Duct: new(LengthM: 10)));
        Assert.Null(none.Duct!.Chosen);
        Assert.Null(none.Insulation);
        Assert.DoesNotContain(none.Assumed, a => a.Field is "humidity" or "insulationKWMK" or "filmWM2K");
    }

    [Fact]
    public void A_duct_that_rises_outside_pulls_against_its_flow_and_one_that_falls_does_not()
    {
        // ρ_out − ρ_room at −10 and 21 °C: 1.3413 − 1.2000 kg/m³ by the gas law; times g and 3 m.
        Assert.Equal((1.3413 - 1.2000) * 9.80665 * 3, Ask(new(Duct: new(LengthM: 5, RiseM: 3))).ReverseDraftPa!.Value, 2);
        Assert.Equal(0, Ask(new(Duct: new(LengthM: 5, RiseM: -3))).ReverseDraftPa);
    }

    [Fact]
    public void Dry_air_and_a_warm_duct_need_no_insulation()
    {
        Assert.Equal(0, Ask(new(OutdoorDesignC: 15, Duct: new(LengthM: 2))).Insulation!.ThicknessMm);
        Assert.True(Ask(new(Humidity: 0.9, Duct: new(LengthM: 2))).Insulation!.ThicknessMm > 50);
    }

    [Fact]
    public void Replaced_air_of_a_season_is_that_of_its_wood()
    {
        double[] cold = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0];
        var season = Ask(new(RoomC: 20, Heat: new(WoodKgPerYear: 3000, MonthlyMeanC: cold))).Heat!;
        // 3 000 kg · 0.82 · 2 · 5.913 of air, each kg 20 K.
        Assert.Equal(3000 * 0.82 * 2 * 5.913 * 1006 * 20 / 3.6e6, season.SeasonKwh!.Value, 0);
        Assert.Equal((0, null), (season.SeasonOutdoorC, season.LossW));
        Assert.Equal(0, Ask(new(RoomC: 20, Heat: new(OutdoorC: 30))).Heat!.LossW);
        Assert.Equal(new ReplacedAir(null, null, null), Ask(new(Heat: new())).Heat);
        Assert.DoesNotContain(Ask(new(Heat: new())).Assumed, a => a.Field.StartsWith("heat", StringComparison.Ordinal));
    }

    [Fact]
    public void The_school_follows_the_worst_case_and_the_code()
    {
        Assert.Null(Ask(new()).School);
        Assert.Null(Ask(new(CodeAsks: false)).School);
        Assert.Equal(AirSchool.Direct, Ask(new(CodeAsks: true)).School);
        Assert.Equal(AirSchool.Near, Ask(new(CodeAsks: true, AirCollar: false)).School);
        Assert.Equal(AirSchool.None, Ask(new(WorstCasePa: -4)).School);
        Assert.Equal(AirSchool.Direct, Ask(new(WorstCasePa: -4.01)).School);
        Assert.Equal(AirSchool.Near, Ask(new(WorstCasePa: -6, AirCollar: false)).School);
        Assert.Equal(AirSchool.None, Ask(new(WorstCasePa: 3)).School);
        // 300 m³ at ACH50 4 with 120 L/s: −10.4 Pa (handbook 01); the stove's own air on top of it.
        var house = Ask(new(House: new(300, 4, FansLS: [120], StoveAirLS: 0))).WorstCase!;
        Assert.Equal((-10.4, false), (Math.Round(house.FanPa, 1), house.Within));
        Assert.True(Ask(new(House: new(300, 4, FansLS: [120]))).WorstCase!.FanPa < -10.5);
        Assert.Contains(Ask(new(House: new(300, BuiltEra: "later"))).Assumed, a => a is { Field: "house.ach50", Value: 3.0 });
        // Measured wins over reckoned.
        Assert.Equal(-1, Ask(new(House: new(300, 4, FansLS: [120]), WorstCasePa: -1)).WorstCase!.FanPa);
    }

    [Fact]
    public void Bad_input_is_named()
    {
        var refused = Calculation.Refusals(e => AirDuctAnswer.To(new(RoomC: 80, Humidity: 1, LimitPa: 0, Duct: new("round", Bends90: -1, DiameterMm: 110),
            Heat: new(MonthlyMeanC: [1]), House: new(FansLS: [-1]), WorstCasePa: double.NaN), e));
        Assert.Equal(["duct.bends90", "duct.diameterMm", "duct.kind", "duct.lengthM", "heat.monthlyMeanC", "house.builtEra", "house.fansLS[0]", "house.volumeM3",
            "humidity", "limitPa", "roomC", "worstCasePa"], refused.Keys.Order(StringComparer.Ordinal));
        Assert.Contains("75, 100, 125, 150 mm; 110 was entered", refused["duct.diameterMm"][0], StringComparison.Ordinal);
    }
}
