using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>What would move the next sweep (handbook 02 section 5).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">In a few words.</param>
/// <param name="RateFactor">Growth after over growth now.</param>
/// <param name="NextSweep">The next sweep then.</param>
/// <param name="P50Date">Limit reached in an ordinary year; null beyond ten years.</param>
/// <param name="P90Date">In a bad one.</param>
public sealed record SweepWhatIf(string Code, string Name, double RateFactor, DateOnly NextSweep, DateOnly? P50Date, DateOnly? P90Date)
{
    /// <summary>Moisture of well seasoned wood, wet basis.</summary>
    public static readonly Limit WellSeasoned = Limit.Practice(0.15, "", "some advise below 15 %");

    /// <summary>A change that leaves more of the growth than this is not worth naming.</summary>
    public static readonly Limit WorthWhile = Limit.Assumed(0.98, "", "less than 2 % is lost in the spread of the forecast");

    // Changes of the flue that are meant to keep its walls warm or its way free.
    private static readonly string[] _flueChanges = ["plate-out", "lined", "insulated"];

    /// <summary>Everything here that would slow the growth, with the date it leads to.</summary>
    /// <param name="question">The deposits question that was answered.</param>
    /// <param name="now">Its answer.</param>
    /// <param name="moistureWet">The household's wood, wet basis.</param>
    /// <param name="rate">Rates of the coming season as learned.</param>
    /// <param name="forecast">The forecast at other rates.</param>
    /// <param name="dated">Its dates, by the firm's school.</param>
    /// <param name="system">Units of the names.</param>
    public static IReadOnlyList<SweepWhatIf> For(DepositsEntry question, DepositsAnswer now, double moistureWet, Quantiles rate,
        Func<Quantiles, SweepForecast> forecast, Func<SweepForecast, SweepDates> dated, UnitSystem system)
    {
        var whatIfs = new List<SweepWhatIf>();
        void Offer(bool possible, string code, string name, DepositsEntry changed)
        {
            if (!possible || DepositsAnswer.To(changed, new EntryErrors()) is not { } then)
                return;
            var factor = then.WorstRateMmPer100Kg / now.WorstRateMmPer100Kg;
            if (factor > WorthWhile.Value)
                return;
            var scaled = new Quantiles(rate.P10 * factor, rate.P50 * factor, rate.P90 * factor);
            var dates = dated(forecast(scaled));
            whatIfs.Add(new SweepWhatIf(code, name, factor, dates.Next, dates.P50, dates.P90));
        }
        var dry = $"wood at {Units.Of(Quantity.Share, system).Format(WellSeasoned.Value)} wet";
        Offer(moistureWet > WellSeasoned.Value, "drier-wood", dry, question with { Fire = question.Fire! with { MoistureWet = WellSeasoned.Value } });
        Offer(question.Habit != Word.Of(Habit.Hot), "hotter-fires", "hot bright fires", question with { Habit = Word.Of(Habit.Hot) });
        Offer(question.Technology == Word.Of(Technology.CatalyticFailed), "combustor-renewed", "combustor renewed", question with { Technology = Word.Of(Technology.Catalytic) });
        foreach (var change in FlueChange.For(question.Flue!, system).Where(c => _flueChanges.Contains(c.Code)))
            Offer(true, change.Code, change.Name, question with { Flue = change.Flue });
        return whatIfs;
    }
}
