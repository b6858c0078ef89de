using System.Text.Json;

namespace Grate.Core.Flue;

/// <summary>The answer of POST /api/calculations/draft; field meanings as in the handbook, chapter 01.</summary>
/// <param name="ExpectedPa">Expected static draft at the collar, Pa.</param>
/// <param name="LowPa">5 % end of the band, Pa.</param>
/// <param name="HighPa">95 % end of the band, Pa.</param>
/// <param name="BuoyancyPa">Buoyancy, Pa.</param>
/// <param name="LossesPa">Losses, Pa.</param>
/// <param name="HousePa">House pressure used, Pa.</param>
/// <param name="WindPa">Wind used, Pa.</param>
/// <param name="MeanGasC">Mean gas temperature, °C.</param>
/// <param name="ExitGasC">Gas at the outlet, °C.</param>
/// <param name="ExitWallC">Inner wall at the outlet, °C.</param>
/// <param name="DewPointC">Water dew point, °C.</param>
/// <param name="GasFlowKgS">Gas flow, kg/s.</param>
/// <param name="CollarVelocityMS">Velocity in the first segment, m/s.</param>
/// <param name="Co2DryPct">Dry CO2, %.</param>
/// <param name="ExcessAir">λ used.</param>
/// <param name="Profile">Along the flue; null unless asked for.</param>
/// <param name="Need">Need used, Pa.</param>
/// <param name="Contributions">Each input's part in the band.</param>
/// <param name="Narrowing">The one measurement that would narrow the band most.</param>
/// <param name="Baseline">The flue's own baseline; null without history.</param>
/// <param name="Verdict">What the reading means; null without a reading.</param>
/// <param name="ResidualPa">Expected − measured, Pa; null without a reading.</param>
/// <param name="Restated">The residual restated; null without a reading.</param>
/// <param name="Assumed">Every default used.</param>
public sealed record DraftAnswer(
    double ExpectedPa, double LowPa, double HighPa, double BuoyancyPa, double LossesPa, double HousePa, double WindPa,
    double MeanGasC, double ExitGasC, double ExitWallC, double DewPointC, double GasFlowKgS, double CollarVelocityMS,
    double Co2DryPct, double ExcessAir, IReadOnlyList<ProfilePoint>? Profile, DraftNeed Need,
    IReadOnlyList<Contribution> Contributions, BandNarrowing? Narrowing, DraftBaseline? Baseline,
    DraftVerdict? Verdict, double? ResidualPa, Restated? Restated, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>A default number that was used; null where the field was entered.</summary>
    public double? Number(string field) => Assumed.LastOrDefault(a => a.Field == field)?.Value switch
    {
        double number => number,
        JsonElement { ValueKind: JsonValueKind.Number } kept => kept.GetDouble(),
        _ => null,
    };

    /// <summary>Answers a draft question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static DraftAnswer? To(DraftEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        if (DraftCase.Read(entry, errors, assumed) is not { } read)
            return null;
        var (flue, fire, air, need, history) = read;
        var expected = DraftModel.Expect(flue, fire, air, withProfile: entry.Profile == true);
        var band = DraftBand.Around(expected.Pa, flue, fire, air);
        var baseline = DraftBaseline.Of(band, history);
        var meaning = entry.Reading?.DraftPa is { } reading ? DraftMeaning.Of(reading, expected, band, baseline, read) : null;
        var march = expected.March;
        return new DraftAnswer(
            expected.Pa, band.LowPa, band.HighPa, march.BuoyancyPa, march.LossesPa, expected.HousePa, expected.WindPa,
            march.MeanGasC, march.ExitGasC, march.ExitWallC, expected.DewPointC, expected.Stream.FlowKgS, march.CollarVelocityMS,
            100 * expected.Stream.Gas.DryCo2, fire.ExcessAir.Value, entry.Profile == true ? march.Profile : null, need,
            band.Contributions, band.Narrowing, baseline,
            meaning?.Verdict, meaning?.ResidualPa, meaning?.Restated, assumed.Used);
    }
}
