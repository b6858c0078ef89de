using Grate.Core.Fuel;

namespace Grate.Core.Tests.Fuel;

/// <summary>Handbook 07, section 1, with the worked cases of section 7.</summary>
public class WoodTests
{
    private static WoodAnswer Ask(WoodRecord record)
    {
        var errors = new EntryErrors();
        var answer = WoodAnswer.To(record, errors, UnitSystem.Metric);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    private static WoodRecord Read(params double?[] readings) => new([readings]);

    private static string Words(WoodAnswer answer) => string.Join(" ", answer.Sentences.Select(s => s.ToString()));

    [Fact]
    public void Worked_cases_of_the_meter()
    {
        Assert.Equal(0.200, Ask(Read(0.25)).MoistureWet, 9);
        Assert.Equal(0.25, Ask(Read(0.22) with { WoodC = 0 }).MeanOnMeter!.Value, 9);
        Assert.Equal(0.25, Moisture.DryOfWet(Moisture.WetOfDry(0.25)), 12);
        // A meter of the wet basis shows 20 % where the other shows 25; the species offset is of the dry basis.
        Assert.Equal(0.20, Ask(Read(0.20) with { MeterBasis = "wet" }).MeanOnMeter!.Value, 9);
        Assert.Equal(0.20, Ask(Read(0.22) with { SpeciesOffset = 0.03 }).MoistureWet, 9);
    }

    [Theory]
    [InlineData("mixed", 0.20, 14.31)]
    [InlineData("hardwood", 0.18, 14.57)]
    [InlineData("mixed", 0.30, 12.22)]
    public void Worked_cases_of_energy(string wood, double u, double q) => Assert.Equal(q, Ask(new WoodRecord(Wood: wood, ToldMoistureWet: u)).MJKg, 2);

    [Theory]
    [InlineData("hardwood", 1, "cord", 0.18, 1865)]
    [InlineData("softwood", 1, "stacked-m3", 0.20, 359)]
    [InlineData("mixed", 200, "bag", 0.10, 3000)]
    [InlineData("mixed", 2400, "kg", 0.18, 2400)]
    public void Worked_cases_of_volumes(string wood, double amount, string measure, double u, double kg) =>
        Assert.Equal(kg, Ask(new WoodRecord(Wood: wood, Amount: amount, Measure: measure, ToldMoistureWet: u)).KgPerYear, 0);

    [Theory]
    [InlineData(0.20, 0.20, WoodVerdict.Dry)]
    [InlineData(0.14, 0.26, WoodVerdict.Doubtful)]
    [InlineData(0.20, 0.22, WoodVerdict.Doubtful)]
    [InlineData(0.25, 0.26, WoodVerdict.Wet)]
    public void Verdict_by_mean_and_worst(double one, double other, WoodVerdict verdict) => Assert.Equal(verdict, Ask(Read(one, other)).Verdict);

    [Fact]
    public void Words_tell_what_is_missing_and_what_not_to_judge()
    {
        Assert.Contains("not judged by such a fire", Words(Ask(Read(0.32))), StringComparison.Ordinal);
        Assert.Contains("0 of 3 pieces", Words(Ask(Read(0.18, 0.19))), StringComparison.Ordinal);
        double?[] piece = [0.18, 0.19, 0.17];
        Assert.DoesNotContain("pieces have", Words(Ask(new WoodRecord([piece, piece, piece]))), StringComparison.Ordinal);
        // 3 000 kg of mixed wood at 18 %: 14.73 MJ/kg, 12 275 kWh.
        Assert.Contains("A year burns 3000 kg as fired, with 12275 kWh in it", Words(Ask(new WoodRecord())), StringComparison.Ordinal);
        Assert.Null(Ask(new WoodRecord()).Verdict);
        Assert.Equal(["amount", "habit", "measure", "toldMoistureWet", "wood"], Ask(new WoodRecord()).Assumed.Select(a => a.Field).Order());
    }

    [Fact]
    public void Refusals_name_field_and_range()
    {
        string[] Refused(WoodRecord record)
        {
            var errors = new EntryErrors();
            Assert.Null(WoodAnswer.To(record, errors, UnitSystem.Metric));
            return [.. errors.ByField.Keys.Order()];
        }
        Assert.Equal(["woodC"], Refused(Read(0.2) with { WoodC = -3 }));
        Assert.Equal(["pieces[0][1]"], Refused(Read(0.2, 7)));
        Assert.Equal(["amount", "bagKg", "habit", "measure", "meterBasis", "speciesOffset", "toldMoistureWet", "wood"],
            Refused(new WoodRecord(null, "damp", null, 9, 0.7, "cork", -1, "pound", 0, "wild")));
        Assert.Equal(["pieces"], Refused(new WoodRecord([.. Enumerable.Repeat<IReadOnlyList<double?>>([], 21)])));
        Assert.Equal(["pieces[0]"], Refused(Read(0.2, 0.2, 0.2, 0.2, 0.2, 0.2, 0.2)));
    }
}
