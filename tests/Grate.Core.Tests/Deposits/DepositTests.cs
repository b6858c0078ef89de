using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Deposits;

/// <summary>Handbook 02, sections 2 and 4, with its worked cases.</summary>
public class DepositTests
{
    private static Segment Clean(CrossSection section, double length) =>
        new("flue", Construction.All[0], section, length, length, SegmentPlace.Indoor, 0, 1, [], 0);

    private static Deposit Layer(int stage, double mm) => new(DepositStage.Find(stage)!, mm, mm);

    // Worked cases: 150 mm, 5 m, 1.5 mm, stage 2; 130 × 200 mm, 3 m, 2 mm, stage 1.
    [Fact]
    public void Worked_volumes_and_masses()
    {
        var round = Layer(2, 1.5).In(Clean(new Round(0.15), 5));
        Assert.Equal(3.499, round.VolumeL, 3);
        Assert.Equal(1.400, round.MassKg, 3);
        Assert.Equal(0.9604, round.FreeAreaShare, 4);
        Assert.Equal(1.5 * round.VolumeL, round.LooseL, 12);
        Assert.Equal(1.89, round.MassKg * Deposit.FuelMJKg.Value / WoodClass.Mixed.DryMJKg.Value, 2);
        var square = Layer(1, 2).In(Clean(new Rectangular(0.13, 0.20), 3));
        Assert.Equal(3.912, square.VolumeL, 3);
        Assert.Equal(0.587, square.MassKg, 3);
        Assert.Equal(0.9498, square.FreeAreaShare, 4);
    }

    private static IReadOnlyList<SegmentRate> Rates(Habit habit, double moisture, params (double Length, double Wall)[] segments) =>
        DepositRate.Of(segments.Select(s => (s.Length, Math.PI * 0.15, s.Wall)), Technology.Conventional, habit, moisture);

    [Fact]
    public void Worked_rates()
    {
        var mixed = Rates(Habit.Mixed, 0.18, (1.5, 65), (5, 105));
        Assert.Equal([0.947, 0.525], mixed.Select(r => Math.Round(r.Stickiness, 3)));
        Assert.Equal([2, 2], mixed.Select(r => r.LikelyStage));
        Assert.Equal([0.04183, 0.02591], mixed.Select(r => Math.Round(r.MmPer100Kg, 5)));
        var slow = Rates(Habit.Slow, 0.25, (1.5, 45), (5, 50));
        Assert.Equal([1.0, 1.0], slow.Select(r => r.Stickiness));
        Assert.Equal([3, 3], slow.Select(r => r.LikelyStage));
        Assert.Equal([0.1244, 0.1217], slow.Select(r => Math.Round(r.MmPer100Kg, 4)));
    }

    // Scale of the chapter: 3 000 kg a year, conventional: slow about 3 mm, mixed 1, hot 0.1 to 0.5; certified half of that.
    [Fact]
    public void Scale_agrees_with_common_practice()
    {
        double Year(Habit habit, string technology = "conventional") => 30 * Ask(new DepositsEntry(Flues.P01(), null, null, technology, Word.Of(habit))).WorstRateMmPer100Kg;
        Assert.InRange(Year(Habit.Slow), 2, 4);
        Assert.InRange(Year(Habit.Mixed), 0.5, 1.5);
        Assert.InRange(Year(Habit.Hot), 0.1, 0.5);
        Assert.Equal(7.3 / 15.3, Year(Habit.Mixed, "certified") / Year(Habit.Mixed), 3);
        Assert.Equal(Year(Habit.Mixed), Year(Habit.Mixed, "catalytic-failed"), 12);
    }

    private static DepositsAnswer Ask(DepositsEntry entry) => Calculation.Answered(e => DepositsAnswer.To(entry, e));

    private static DepositsEntry Question(Dictionary<string, DepositEntry?>? stages = null, double? swept = null) => new(
        Flues.P01() with { Segments = [Flues.P01().Segments![0] with { Label = "connector" }, Flues.P01().Segments![1] with { Label = "stack" }] },
        new SurroundingsEntry(0), new FireEntry(240, "normal", 2), "conventional", "mixed", stages, swept);

    [Fact]
    public void Segments_without_an_entry_are_clean_and_one_thickness_serves_for_both()
    {
        var answer = Ask(Question(new() { ["stack"] = new DepositEntry(2, null, 1.5) }, 5.2));
        Assert.Equal((0, 1), (answer.Segments[0].MassKg, answer.Segments[0].FreeAreaShare));
        Assert.Equal(1.400, answer.TotalMassKg, 3);
        Assert.Equal(1.89, answer.WoodEquivalentKg, 2);
        Assert.Equal(SweptVerdict.AsComputed, answer.SweptVerdict);
        Assert.Null(Ask(Question()).SweptVerdict);
        Assert.Equal(answer.WorstRateMmPer100Kg, answer.Segments.Max(s => s.RateMmPer100Kg));
        Assert.Equal(answer.Segments.MaxBy(s => s.RateMmPer100Kg)!.Label, answer.WorstLabel);
    }

    [Theory]
    [InlineData(7.5, 5, SweptVerdict.AsComputed)]
    [InlineData(7.6, 5, SweptVerdict.MoreThanComputed)]
    [InlineData(2.5, 5, SweptVerdict.AsComputed)]
    [InlineData(2.4, 5, SweptVerdict.LessThanComputed)]
    [InlineData(0.1, 0, SweptVerdict.MoreThanComputed)]
    [InlineData(0, 0, SweptVerdict.AsComputed)]
    public void Swept_volume_is_held_against_the_loose_one(double swept, double loose, SweptVerdict verdict) => Assert.Equal(verdict, DepositsAnswer.Judge(swept, loose));

    [Fact]
    public void Draft_lost_is_the_difference_of_two_drafts_of_chapter_one_and_never_below_nothing()
    {
        double Expected(double mm) => Flues.Answer(new DraftEntry(new SurroundingsEntry(0),
            Flues.P01() with { Segments = [.. Flues.P01().Segments!.Select(s => s with { DepositMm = mm })] }, new FireEntry(240, "normal", 2))).ExpectedPa;
        Dictionary<string, DepositEntry?> All(double mm) => new() { ["connector"] = new(2, mm), ["stack"] = new(2, mm) };
        Assert.Equal(Math.Max(0, Expected(0) - Expected(55)), Ask(Question(All(55))).DraftLostPa, 9);
        Assert.True(Ask(Question(All(55))).DraftLostPa > 1);
        Assert.True(Ask(Question(All(2))).DraftLostPa >= 0);
    }

    // Wall of a segment: at its pieces' mean gas temperature, by the profile's own pieces.
    [Fact]
    public void Wall_is_that_of_the_clean_flue()
    {
        var dirty = Question();
        var entered = dirty with { Flue = dirty.Flue! with { Segments = [.. dirty.Flue.Segments!.Select(s => s with { DepositMm = 20 })] } };
        Assert.Equal(Ask(dirty).Segments.Select(s => s.WallC), Ask(entered).Segments.Select(s => s.WallC));
        var profile = Flues.Answer(new DraftEntry(dirty.Surroundings, dirty.Flue, dirty.Fire, Profile: true)).Profile!;
        var stack = profile.Where(p => p.LengthM >= 1.5).Select(p => p.WallC).ToList();
        Assert.InRange(Ask(dirty).Segments[1].WallC, stack[^1], stack[0]);
    }

    [Fact]
    public void Habit_sets_the_fire_and_the_ordinary_year_the_outdoors()
    {
        var answer = Ask(new DepositsEntry(Flues.P01(), null, null, "conventional", "slow"));
        Assert.Equal("low", answer.Assumed.Single(a => a.Field == "fire.level").Value);
        // Σ HDD T / Σ HDD of −1 0 4 8 13 16 18 18 14 9 4 0 °C, by hand.
        double[] c = [-1, 0, 4, 8, 13, 16, 18, 18, 14, 9, 4, 0], days = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
        var degreeDays = c.Zip(days, (t, d) => (18 - t) * d).ToArray();
        Assert.Equal(c.Zip(degreeDays, (t, h) => t * h).Sum() / degreeDays.Sum(), (double)answer.Assumed.Single(a => a.Field == "surroundings.outdoorC").Value, 12);
        Assert.DoesNotContain(answer.Assumed, a => a.Field.StartsWith("need", StringComparison.Ordinal));
    }

    [Fact]
    public void Bad_entries_are_told()
    {
        var errors = new EntryErrors();
        Assert.Null(DepositsAnswer.To(Question(new() { ["stack"] = new(4, 1), ["connector"] = new(1, 70), ["hat"] = new(1, 1) }) with
        { Technology = "coal", Habit = null, SweptL = -1 }, errors));
        Assert.Equal(["habit", "stageByLabel", "stageByLabel.connector.mm", "stageByLabel.stack.stage", "sweptL", "technology"], errors.ByField.Keys.Order());
        errors = new EntryErrors();
        Assert.Null(DepositsAnswer.To(Question(new() { ["stack"] = new(1) }), errors));
        Assert.Equal(["stageByLabel.stack.mm"], errors.ByField.Keys);
    }
}
