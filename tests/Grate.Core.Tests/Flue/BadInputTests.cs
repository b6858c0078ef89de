using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Every refusal names the field, the range and the unit.</summary>
public class BadInputTests
{
    private static DraftEntry With(Func<SegmentEntry, SegmentEntry> change)
    {
        var flue = Flues.P01();
        return Flues.P01Question() with { Flue = flue with { Segments = [change(flue.Segments![0]), flue.Segments[1]] } };
    }

    private static void Refused(DraftEntry entry, string field, string sentence) =>
        Assert.Equal(sentence, Assert.Single(Flues.Refusals(entry)[field]));

    [Fact]
    public void Negative_length() => Refused(With(s => s with { LengthM = -1, RiseM = 0 }),
        "flue.segments[0].lengthM", "Length must lie between 0.02 and 40.00 m; −1.00 m was entered.");

    [Fact]
    public void Diameter_of_six_metres() => Refused(With(s => s with { Shape = new ShapeEntry("round", 6) }),
        "flue.segments[0].shape.diameterM", "Inside size must lie between 50 and 1500 mm; 6000 mm was entered.");

    [Fact]
    public void Not_a_number() => Refused(With(s => s with { LengthM = double.NaN }),
        "flue.segments[0].lengthM", "Length must be a number between 0.02 and 40.00 m.");

    [Fact]
    public void Rise_longer_than_length() => Refused(With(s => s with { RiseM = 2, LengthM = 1 }),
        "flue.segments[0].riseM", "Rise cannot be more than the length: 2 m of rise in 1 m.");

    [Fact]
    public void Deposit_that_closes_the_flue() => Refused(With(s => s with { DepositMm = 70 }),
        "flue.segments[0].depositMm", "A deposit of 70 mm leaves less than 20 mm free in 150 mm.");

    [Fact]
    public void Unknown_words_list_the_known_ones()
    {
        Assert.Contains("clay-in-masonry", Flues.Refusals(With(s => s with { Construction = "tin" }))["flue.segments[0].construction"][0], StringComparison.Ordinal);
        Assert.Contains("attic", Flues.Refusals(With(s => s with { Surroundings = "cellar" }))["flue.segments[0].surroundings"][0], StringComparison.Ordinal);
        Assert.Contains("tee-turn", Flues.Refusals(With(s => s with { Fittings = [new FittingEntry("knee")] }))["flue.segments[0].fittings[0]"][0], StringComparison.Ordinal);
        Assert.Contains("rectangular", Flues.Refusals(With(s => s with { Shape = null }))["flue.segments[0].shape.kind"][0], StringComparison.Ordinal);
        Assert.Contains("low, normal, high", Flues.Refusals(Flues.P01Question() with { Fire = new FireEntry(240, "roaring") })["fire.level"][0], StringComparison.Ordinal);
    }

    [Fact]
    public void Empty_chain_and_two_hundred_segments()
    {
        Refused(Flues.P01Question() with { Flue = new FlueEntry([]) }, "flue.segments",
            "The flue needs at least one segment, from the collar to the cap (1 to 60).");
        Refused(Flues.P01Question() with { Flue = new FlueEntry([.. Enumerable.Repeat(Flues.P01().Segments![0], 200)]) }, "flue.segments",
            "A flue has at most 60 segments; 200 were sent.");
    }

    [Fact]
    public void Flue_that_does_not_rise() =>
        Refused(Flues.P01Question() with { Flue = new FlueEntry([Flues.Segment("single-wall-steel", "indoor", 1, 0)]) },
            "flue.segments", "The flue must rise: the sum of all rises is 0 m.");

    [Fact]
    public void Gas_colder_than_the_room() => Refused(Flues.P01Question() with { Fire = new FireEntry(15) }, "fire.collarGasC",
        "The flue gas (15 °C) must be warmer than the room (20 °C); without a fire use the cold start.");

    [Fact]
    public void Surface_thermometer_on_double_wall() => Refused(
        Flues.Question(Flues.P05, 2, 2, 220, 2) with { Fire = new FireEntry(PipeSurfaceC: 90) }, "fire.pipeSurfaceC",
        "A surface temperature tells the gas's only on bare single-wall pipe; the first segment is not. Use a probe.");

    [Fact]
    public void Missing_outdoor_temperature() => Refused(Flues.P01Question() with { Surroundings = null }, "surroundings.outdoorC",
        "Outdoor temperature is missing; between −60 and 50 °C.");

    [Fact]
    public void Need_upside_down() => Refused(Flues.P01Question() with { Need = new NeedEntry(30, 12) }, "need.maxPa",
        "The greatest draft allowed (12 Pa) must be more than the least needed (30 Pa).");

    [Fact]
    public void Other_systems_number_is_recognised()
    {
        // 68 in a °C field is a room in °F; 15 in an in w.c. field is a draft in Pa.
        Assert.EndsWith("Did you mean °F?", EntryRange.Room.Refusal(68, UnitSystem.Metric), StringComparison.Ordinal);
        Assert.EndsWith("Did you mean Pa?", FlueRanges.Reading.Refusal(15 * 249.089, UnitSystem.Us), StringComparison.Ordinal);
        Assert.DoesNotContain("Did you mean", FlueRanges.Bore.Refusal(6, UnitSystem.Metric), StringComparison.Ordinal);
    }

    [Fact]
    public void Hot_reading_refusals_carry_its_own_fields()
    {
        var place = new HotPlace(Flues.P01(), 0, new double[12], 12, 25);
        var errors = new EntryErrors();
        Assert.Null(place.Answer(new HotReading("normal", 500, 10, OutdoorC: 99), 1, errors, UnitSystem.Metric));
        Assert.Superset(new HashSet<string> { "draftPa", "outdoorC" }, errors.ByField.Keys.ToHashSet());
    }

    [Fact]
    public void Missing_outdoor_temperature_of_a_hot_reading_is_the_months_mean()
    {
        var place = new HotPlace(Flues.P01(), 0, [.. Enumerable.Range(1, 12).Select(m => (double)m)], null, null);
        var answer = place.Answer(new HotReading("normal"), 11, new EntryErrors(), UnitSystem.Metric)!;
        Assert.Equal(11d, answer.Assumed.Single(a => a.Field == "surroundings.outdoorC").Value);
        Assert.Equal(Flues.Answer(new DraftEntry(new SurroundingsEntry(11), Flues.P01(), null, null, null, null, null)).ExpectedPa, answer.ExpectedPa, 12);
    }
}
