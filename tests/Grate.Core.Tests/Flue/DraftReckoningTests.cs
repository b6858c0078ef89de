using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>The sentences of the reckoning, in both unit systems.</summary>
public class DraftReckoningTests
{
    private static DraftReckoning Reckon(double? reading, UnitSystem system = UnitSystem.Metric, FiringLevel level = FiringLevel.Normal, EarlierReading? earlier = null) =>
        DraftReckoning.Of(Flues.Answer(Flues.P01Question(reading)), reading, level, earlier, null, system);

    [Fact]
    public void Missing_draft_is_told_with_three_ways_and_the_window_test()
    {
        var reckoning = Reckon(9.0);
        Assert.Equal("At normal fire this flue should pull 19.2–34.0 Pa; you read 9.0 Pa. Something is wrong today: 17.6 Pa are missing.",
            reckoning.Sentences[0].ToString());
        Assert.Equal(["Blocked", "Leaking", "House"], reckoning.Explanations.Select(e => e.Name));
        Assert.Contains("85 %", reckoning.Explanations[0].Test, StringComparison.Ordinal);
        Assert.Equal("Window test", reckoning.NextTest!.Text);
        // 9.0 + 0.8 · 17.6
        Assert.Contains("23.1 Pa", reckoning.NextTest.Why, StringComparison.Ordinal);
    }

    [Fact]
    public void Us_sentences_speak_inches_of_water()
    {
        Assert.Contains("0.077–0.136 in w.c.", Reckon(9.0, UnitSystem.Us).Sentences[0].ToString(), StringComparison.Ordinal);
        Assert.Contains("0.036 in w.c. Something", Reckon(9.0, UnitSystem.Us).Sentences[0].ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Computed_and_measured_numbers_are_told_apart()
    {
        var spans = Reckon(9.0).Sentences[0].Spans;
        Assert.Equal("19.2–34.0 Pa", spans.Single(s => s.Kind == SpanKind.Computed).Text);
        Assert.Equal("9.0 Pa", spans.Single(s => s.Kind == SpanKind.Measured).Text);
    }

    [Fact]
    public void Without_a_reading_it_says_what_to_expect_and_what_would_narrow_it()
    {
        var reckoning = Reckon(null);
        Assert.StartsWith("This flue should pull 19.2–34.0 Pa", reckoning.Sentences[0].ToString(), StringComparison.Ordinal);
        Assert.Contains(reckoning.Sentences, s => s.ToString().StartsWith("Measuring the room against outdoors would narrow", StringComparison.Ordinal));
        Assert.Empty(reckoning.Explanations);
        Assert.Null(reckoning.NextTest);
    }

    [Fact]
    public void Sound_reading_sends_to_high_fire_where_a_blockage_shows()
    {
        Assert.Equal("Read at high fire", Reckon(26.0).NextTest!.Text);
        Assert.Null(Reckon(26.0, level: FiringLevel.High).NextTest);
    }

    [Fact]
    public void Reversed_draft_is_a_stop() => Assert.Equal("spillage", Reckon(-1.0).StopCode);

    [Fact]
    public void Inches_typed_into_a_pascal_field_are_asked_back()
    {
        var question = Assert.Single(Reckon(0.06).Questions);
        Assert.Equal("0.06 Pa is almost nothing. Did you mean in w.c.? That would be 14.9 Pa.", question.Sentence);
        Assert.Equal(0.06 * 249.089, question.Suggested!.Value, 9);
        Assert.Empty(Reckon(9.0).Questions);
        Assert.Empty(Reckon(0.06, UnitSystem.Us).Questions);
    }

    [Fact]
    public void Earlier_reading_keeps_the_word_of_its_day()
    {
        var day = new DateOnly(2025, 10, 5);
        Assert.Contains("sound then", Reckon(9.0, earlier: new EarlierReading(day, 18.5, 15, 22, DraftVerdict.AsExpected)).Sentences[1].ToString(), StringComparison.Ordinal);
        Assert.Contains("outside its band already", Reckon(9.0, earlier: new EarlierReading(day, 8, 15, 22, DraftVerdict.BelowExpected)).Sentences[1].ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Wall_below_the_dew_point_is_told()
    {
        var cold = Flues.Answer(Flues.Question(Flues.P04, 1.0, 2.0, 160, 0));
        Assert.True(cold.ExitWallC < cold.DewPointC);
        var words = DraftReckoning.Of(cold, null, FiringLevel.Low, null, null, UnitSystem.Metric).Sentences;
        Assert.Contains(words, s => s.ToString().Contains("below the dew point", StringComparison.Ordinal));
    }
}
