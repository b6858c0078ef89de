using Grate.Core.Firebox;

namespace Grate.Core.Tests.Firebox;

/// <summary>Lining, baffle and ash: handbook 04.</summary>
public class LiningTests
{
    // Handbook 04 section 6: castable 480 × 380 × 32 mm, 13.5 kg, one bag; section 1: a dense slab 610 × 380 × 25 mm weighs 11 to 13 kg.
    [Fact]
    public void Worked_weights_of_the_handbook()
    {
        var answer = Calculation.Answered(e => LiningAnswer.To(new(new([new(480, 380, 32)], PlacedAt: "2026-09-14T16:00"), [new("top", 610, 380, 25)]), e));
        Assert.Equal((13.483, 1, "2026-09-16T16:00", null), (Math.Round(answer.Castable!.MixKg, 3), answer.Castable.Bags, answer.Castable.FirstFire, answer.Castable.MaterialCost));
        Assert.Equal((11.88, 11.01, 12.75, true), (Math.Round(answer.Slabs[0].MassKg, 2), Math.Round(answer.Slabs[0].LowKg, 2), Math.Round(answer.Slabs[0].HighKg, 2), answer.Slabs[0].TwoHands));
        Assert.Equal(["castable.densityKgM3", "castable.allowanceShare", "castable.bagKg", "slabs[0].kind"], answer.Assumed.Select(a => a.Field));
        Assert.Equal(new LiningHeat(60, 10_800, 3), Calculation.Answered(e => LiningAnswer.To(new(Heat: new(60, 220)), e)).Heat);
    }

    // Medium-duty and dense fireclay shapes and castables of the trade's data sheets: 1 900 to 2 300 kg/m³ set and dried; from memory.
    [Theory]
    [InlineData(SlabKind.Dense, 1900, 2300)]
    [InlineData(SlabKind.Vermiculite, 600, 1000)]
    [InlineData(SlabKind.Fibre, 230, 450)]
    public void Densities_lie_where_the_trade_s_data_sheets_put_them(SlabKind kind, double from, double to)
    {
        var (usual, low, high) = Lining.Density(kind);
        Assert.True(from <= low && low < usual && usual < high && high <= to);
        Assert.InRange(Lining.CastDensity.Value, 1900, 2300);
    }

    [Fact]
    public void Whole_bags_have_a_hair_of_grace_and_volume_wins_over_panels()
    {
        CastableAnswer Cast(double volume) => Calculation.Answered(e => LiningAnswer.To(new(new([new(999, 999, 99)], volume, 2000, 0, 25, 10)), e)).Castable!;
        Assert.Equal((2, 20.0), (Cast(0.025).Bags, Cast(0.025).MaterialCost));
        Assert.Equal(2, Cast(0.025 + 1e-14).Bags);
        Assert.Equal(3, Cast(0.02501).Bags);
        // A given density gives all three figures.
        var slab = Calculation.Answered(e => LiningAnswer.To(new(Slabs: [new("x", 1000, 1000, 10, "fibre", 1000)]), e)).Slabs[0];
        Assert.Equal((10.0, 10.0, 10.0, true), (slab.MassKg, slab.LowKg, slab.HighKg, slab.TwoHands));
        // Without a mass the lining's own counts.
        Assert.Equal(50 + 10, Calculation.Answered(e => LiningAnswer.To(new(new(VolumeM3: 0.025, DensityKgM3: 2000), [new("x", 1000, 1000, 10, null, 1000)], new(HotC: 350)), e)).Heat!.MassKg, 9);
    }

    private static readonly LaidEntry _layout = new(12, [new([.. Enumerable.Repeat(new LaidPieceEntry(229, 114), 10), new(229, 55), new(55, 229)])]);

    // Minutes and money worked by hand from handbook 04 section 1: 2 a piece; 3 a cut and 2 a piece; 45 and 20 a bag.
    [Fact]
    public void Three_ways_in_money_minutes_and_days()
    {
        var entry = new LiningCompareEntry(new(9, 118), new(new(229, 114, null, 3.2), _layout), new([new(480, 380, 32), new(480, 300, 32), new(380, 300, 32)], BagPrice: 34));
        var answer = Calculation.Answered(e => LiningCompareAnswer.To(entry, e));
        Assert.Equal(new CutSetWay(9, 118, 18, 0, 0, 118), answer.CutSet);
        Assert.Equal((2, 12, 30.0, 0), (answer.StandardBricks!.Cuts, answer.StandardBricks.Pieces, answer.StandardBricks.Minutes, answer.StandardBricks.DaysWithoutFire));
        Assert.Equal((2, 85.0, 2), (answer.Castable!.Bags, answer.Castable.Minutes, answer.Castable.DaysWithoutFire));
        Assert.Equal((LiningWay.StandardBricks, LiningWay.CutSet, LiningWay.StandardBricks), (answer.Cheapest!.Value, answer.Quickest!.Value, answer.SoonestFire!.Value));
        var labour = Calculation.Answered(e => LiningCompareAnswer.To(entry with { LabourPerHour = 72 }, e));
        Assert.Equal((139.6, 74.4, 170.0), (Math.Round(labour.CutSet!.TotalCost, 9), Math.Round(labour.StandardBricks!.TotalCost, 9), Math.Round(labour.Castable!.TotalCost, 9)));
        // Two stoves alike, two sets: twice the pieces to set, and twice the minutes.
        Assert.Equal(new CutSetWay(18, 236, 36, 0, 0, 236), Calculation.Answered(e => LiningCompareAnswer.To(new(new(9, 118, 2)), e)).CutSet);
        // Only what was sent; ties go in the order of the ways.
        Assert.Null(Calculation.Answered(e => LiningCompareAnswer.To(new(), e)).Cheapest);
        Assert.Equal(LiningWay.CutSet, Calculation.Answered(e => LiningCompareAnswer.To(new(new(15, 38.4), new(new(229, 114, null, 3.2), _layout)), e)).Cheapest);
    }

    [Theory]
    [InlineData(229, 114, 0)]
    [InlineData(114, 229, 0)]
    [InlineData(228.5, 114.5, 0)]
    [InlineData(228.4, 114, 1)]
    [InlineData(60, 114, 1)]
    [InlineData(114, 30, 1)]
    [InlineData(100, 60, 2)]
    public void Cuts_of_a_piece(double width, double height, int cuts) => Assert.Equal(cuts, LiningCompareAnswer.Cuts(width, height, 229, 114));

    [Fact]
    public void Bad_linings_are_named()
    {
        var lining = Calculation.Refusals(e => LiningAnswer.To(new(new([new(0, 380, 32)], PlacedAt: "tomorrow"), [new(Kind: "wood"), null!], new(HotC: 350)), e));
        Assert.Contains("between 1 and 3000 mm", lining["castable.panels[0].widthMm"][0], StringComparison.Ordinal);
        Assert.Contains("2026-09-14T16:00", lining["castable.placedAt"][0], StringComparison.Ordinal);
        Assert.Contains("one of dense, vermiculite, fibre", lining["slabs[0].kind"][0], StringComparison.Ordinal);
        Assert.Contains("Entry 2 of the slabs is empty", lining["slabs[1]"][0], StringComparison.Ordinal);
        Assert.Contains("Mass is missing", Calculation.Refusals(e => LiningAnswer.To(new(Heat: new(HotC: 350)), e))["heat.massKg"][0], StringComparison.Ordinal);
        Assert.Contains("What is cast is missing", Calculation.Refusals(e => LiningAnswer.To(new(new()), e))["castable.panels"][0], StringComparison.Ordinal);
        var compare = Calculation.Refusals(e => LiningCompareAnswer.To(new(new(), new(), new([new(480, 380, 32)])), e));
        Assert.Equal(["castable.bagPrice", "cutSet.pieces", "cutSet.pricePerSet", "standardBricks.brick.lengthMm", "standardBricks.brick.price", "standardBricks.brick.widthMm", "standardBricks.layout.bricks", "standardBricks.layout.panels"],
            compare.Keys.Order(StringComparer.Ordinal));
    }

    // Handbook 04 section 2 by hand: 6 of 420 mm are 1.43 %; half a year after 31 August is the last of February.
    [Theory]
    [InlineData("dense-slab", 30.0, 420.0, 6.0, "", Condition.Wearing, "sag", "TurnOver")]
    [InlineData("dense-slab", 24.0, 420.0, 6.0, "", Condition.Wearing, "sag", "")]
    [InlineData("dense-slab", 30.0, 420.0, 6.0, "hairline", Condition.Wearing, "sag", "")]
    [InlineData("stone", 30.0, 420.0, 6.0, "", Condition.Wearing, "sag", "")]
    [InlineData("dense-slab", 30.0, 500.0, 5.0, "", Condition.Wearing, "sag", "TurnOver")]
    [InlineData("dense-slab", 30.0, 500.0, 10.0, "", Condition.Wearing, "sag", "TurnOver")]
    [InlineData("dense-slab", 30.0, 500.0, 4.9, "debris-on-top", Condition.Sound, "", "ClearTop")]
    [InlineData("dense-slab", 30.0, 500.0, -10.1, "finger-gap", Condition.Spent, "sag", "Reseat Renew")]
    [InlineData("fibre-board", null, 380.0, 1.0, "hole", Condition.Spent, "hole", "Renew")]
    [InlineData("steel-plate", null, null, null, "hole", Condition.Unsafe, "hole", "Renew NoFire")]
    [InlineData("steel-plate", null, null, null, "displaced debris-on-top", Condition.Unsafe, "displaced", "ClearTop Reseat NoFire")]
    [InlineData("cast", null, null, null, "missing crack-through", Condition.Unsafe, "missing", "Renew NoFire")]
    [InlineData("cast", null, null, null, "finger-gap hairline", Condition.Wearing, "finger-gap", "Reseat")]
    [InlineData("cast", null, null, null, "", Condition.NotSeen, "", "")]
    public void Baffle_is_judged_by_its_sag_and_what_is_seen(string kind, double? thickness, double? span, double? deflection, string flags, Condition condition, string reasons, string advice)
    {
        var answer = Calculation.Answered(e => BaffleAnswer.To(new(kind, thickness, span, deflection, flags.Split(' ', StringSplitOptions.RemoveEmptyEntries), new(2026, 8, 31)), e));
        Assert.Equal((condition, reasons, advice, advice.Contains("TurnOver", StringComparison.Ordinal)), (answer.Condition, string.Join(' ', answer.Reasons), string.Join(' ', answer.Advice), answer.TurnOver));
        Assert.Equal(condition switch { Condition.Sound => new DateOnly(2027, 8, 31), Condition.Wearing => new DateOnly(2027, 2, 28), _ => null }, answer.RecheckOn);
    }

    [Fact]
    public void Thickness_is_assumed_only_where_it_decides_and_bad_baffles_are_named()
    {
        Assert.Equal(["thicknessMm"], Calculation.Answered(e => BaffleAnswer.To(new("dense-slab", null, 420, 6), e)).Assumed.Select(a => a.Field));
        Assert.Empty(Calculation.Answered(e => BaffleAnswer.To(new("stone", null, 420, 6), e)).Assumed);
        var refused = Calculation.Refusals(e => BaffleAnswer.To(new("paper", 0, null, 6, ["bent"]), e));
        Assert.Equal(["flags", "kind", "spanMm", "thicknessMm"], refused.Keys.Order());
        Assert.Contains("“bent” is not known", refused["flags"][0], StringComparison.Ordinal);
    }

    // Handbook 04 section 6: a pan of 6 L at 15 kg a day of hardwood at 18 % is full after 22.3 days. Section 5: a cord leaves about 11 kg.
    [Fact]
    public void Pan_fills_by_what_is_burnt()
    {
        var answer = Calculation.Answered(e => AshAnswer.To(new(6, 15, "hardwood", MoistureWet: 0.18), e));
        Assert.Equal((22.3, 22, 17.22, 8.969), (Math.Round(answer.DaysToFill!.Value, 1), answer.EmptyEveryDays, Math.Round(answer.AshKgYear, 2), Math.Round(answer.EmptyingsPerYear, 3)));
        Assert.Equal(["ashShare", "usableShare", "bulkKgL", "heatingDays"], answer.Assumed.Select(a => a.Field));
        Assert.Equal((null, null, 0.0), (Calculation.Answered(e => AshAnswer.To(new(6, 0), e)).DaysToFill, Calculation.Answered(e => AshAnswer.To(new(6, 0), e)).EmptyEveryDays, Calculation.Answered(e => AshAnswer.To(new(6, 0), e)).AshKgDay));
        // Coal is as bought: no moisture is taken off; a pan that is too small is emptied every day.
        Assert.Equal((7.0, 1), (Math.Round(Calculation.Answered(e => AshAnswer.To(new(1, 100, "coal"), e)).AshKgDay, 9), Calculation.Answered(e => AshAnswer.To(new(1, 100, "coal"), e)).EmptyEveryDays));
        // 128 ft³ of hardwood, two thirds solid at 625 kg/m³ dry.
        Assert.InRange(3.6246 * 0.675 * 625 * AshAnswer.ShareOf(AshFuel.Hardwood).Value, 10, 12);
        Assert.Equal(["burnKgDay", "fuel", "panL"], Calculation.Refusals(e => AshAnswer.To(new(0, -1, "paper"), e)).Keys.Order());
    }
}
