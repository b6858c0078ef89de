using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Handbook 01, worked cases P01–P06, to the digits given.</summary>
public class WorkedCasesTests
{
    public static TheoryData<string, DraftEntry, double[]> Cases => new()
    {
        { "P01", Flues.P01Question(), [26.6, 19.2, 34.0, 26.8, 0.16, 102.5] },
        { "P02", Flues.Question(Flues.P01(), 1.0, 2.5, 150, 15), [12.0, 5.3, 18.7, 12.0, 0.05, 43.4] },
        { "P03", Flues.Question(Flues.P01("elbow-45", "elbow-45"), 3.5, 1.8, 350, -5), [39.7, 34.0, 45.4, 40.3, 0.62, 197.6] },
        { "P04", Flues.Question(Flues.P04, 2.0, 2.0, 300, 0), [26.6, 12.7, 40.5, 26.7, 0.08, 26.8] },
        { "P05", Flues.Question(Flues.P05, 2.0, 2.2, 220, 2, house: -3), [24.4, 18.8, 30.1, 27.6, 0.19, 103.9] },
        { "P06", Flues.Question(Flues.P01(), 2.0, 2.0, 250, 12, house: -1.5), [23.3, 16.0, 30.5, 24.9, 0.16, 105.1] },
    };

    [Theory]
    [MemberData(nameof(Cases))]
    public void Worked_case(string name, DraftEntry question, double[] expected)
    {
        var a = Flues.Answer(question);
        double[] found = [a.ExpectedPa, a.LowPa, a.HighPa, a.BuoyancyPa, a.LossesPa, a.ExitGasC];
        double[] halfDigit = [0.051, 0.051, 0.051, 0.051, 0.0051, 0.051];
        for (var i = 0; i < found.Length; i++)
            Assert.True(Math.Abs(found[i] - expected[i]) <= halfDigit[i], $"{name} value {i}: {found[i]} against {expected[i]}");
    }

    [Fact]
    public void Reading_of_16_on_P01_is_restated_as_blockage_leak_and_house()
    {
        var answer = Flues.Answer(Flues.P01Question(reading: 16.0));
        Assert.Equal(0.87, answer.Restated!.BlockedShare!.Value, 2);
        Assert.Equal(0.0130, answer.Restated.LeakKgS!.Value, 4);
        Assert.Equal(answer.ExpectedPa - 16.0, answer.Restated.HousePa!.Value, 9);
        Assert.Equal(DraftVerdict.BelowExpected, answer.Verdict);
    }
}
