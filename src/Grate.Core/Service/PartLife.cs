using Grate.Core.Visits;
using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>That a part was fitted.</summary>
/// <param name="Part">What.</param>
/// <param name="Place">Where: the stove, and the place in it.</param>
/// <param name="Day">When.</param>
/// <param name="GoneOn">When the stove was taken out; null while it stands.</param>
public sealed record PartFitted(LivingPart Part, string Place, DateOnly Day, DateOnly? GoneOn);

/// <summary>A life of a part: to its end, or so long without one.</summary>
/// <param name="Years">How long.</param>
/// <param name="Ended">Whether it was renewed then; otherwise it was good for at least so long.</param>
public readonly record struct PartLived(double Years, bool Ended);

/// <summary>How many parts are still good after so long.</summary>
/// <param name="Years">Age at which some went.</param>
/// <param name="AtRisk">How many were known to reach it.</param>
/// <param name="Share">Share still good after it.</param>
/// <param name="Low">Lower end of its 95 % band.</param>
/// <param name="High">Upper end.</param>
public sealed record LifeStep(double Years, int AtRisk, double Share, double Low, double High);

/// <summary>
/// How long parts last, from those that were renewed and those that were not yet: the product-limit estimate (E. L. Kaplan, P. Meier,
/// J. Am. Stat. Assoc. 53, 1958), its band by Greenwood's variance on the log-log scale.
/// </summary>
/// <param name="Part">What.</param>
/// <param name="Ends">How many were renewed.</param>
/// <param name="Going">How many are not, or went with their stove.</param>
/// <param name="Curve">The steps.</param>
/// <param name="MedianYears">When half are gone; null where fewer are.</param>
/// <param name="Sentences">In words.</param>
public sealed record PartLife(LivingPart Part, int Ends, int Going, IReadOnlyList<LifeStep> Curve, double? MedianYears, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>From so many ends on it says more than the usual life of a handbook.</summary>
    public static readonly Limit EnoughEnds = Limit.Assumed(20, "ends", "the band of the median is then about a year");

    /// <summary>What dates rest on; null where too few came to their end to say.</summary>
    [JsonIgnore]
    public LearnedLife? Learned => Ends >= EnoughEnds.Value && After(0.75) is { } quarter && MedianYears is { } half ? new(quarter, half) : null;

    // The normal deviate of a 95 % band.
    private const double Deviate = 1.959964, DaysInYear = 365.25;

    /// <summary>What the firm's parts of each kind lived.</summary>
    /// <param name="fitted">Everything that was fitted.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<PartLife> Of(IEnumerable<PartFitted> fitted, DateOnly today) => [.. fitted.GroupBy(f => f.Part).OrderBy(g => g.Key).Select(g => Of(g.Key, Lives(g, today)))];

    /// <summary>Each fitting lives to the next one at its place, or to today, or until its stove went.</summary>
    public static IReadOnlyList<PartLived> Lives(IEnumerable<PartFitted> fitted, DateOnly today) => [.. fitted.GroupBy(f => f.Place).SelectMany(place =>
    {
        var days = place.Select(f => f.Day).Distinct().Order().ToList();
        var last = place.Select(f => f.GoneOn).FirstOrDefault(g => g is not null) ?? today;
        return days.Select((day, i) => i + 1 < days.Count ? new PartLived((days[i + 1].DayNumber - day.DayNumber) / DaysInYear, true) : new PartLived((last.DayNumber - day.DayNumber) / DaysInYear, false));
    }).Where(l => l.Years > 0)];

    /// <summary>
    /// The estimate for some lives. Remission of 21 patients under 6-MP (Freireich et al., Blood 21, 1963), weeks: 0.857 after 6, 0.448
    /// after 23.
    /// </summary>
    public static PartLife Of(LivingPart part, IReadOnlyList<PartLived> lives)
    {
        var (curve, share, variance) = (new List<LifeStep>(), 1.0, 0.0);
        foreach (var years in lives.Where(l => l.Ended).Select(l => l.Years).Distinct().Order())
        {
            var (atRisk, gone) = (lives.Count(l => l.Years >= years), lives.Count(l => l.Ended && l.Years == years));
            share *= 1 - (double)gone / atRisk;
            // When the last goes, nothing is known of the spread.
            variance += atRisk > gone ? (double)gone / (atRisk * (atRisk - gone)) : 0;
            var spread = share > 0 ? Math.Exp(Deviate * Math.Sqrt(variance) / Math.Log(share)) : 1;
            curve.Add(new(years, atRisk, share, share > 0 ? Math.Pow(share, 1 / spread) : 0, share > 0 ? Math.Pow(share, spread) : 0));
        }
        var life = new PartLife(part, lives.Count(l => l.Ended), lives.Count(l => !l.Ended), curve, null, []);
        life = life with { MedianYears = life.After(0.5) };
        return life with { Sentences = life.Words() };
    }

    private double? After(double share) => Curve.FirstOrDefault(s => s.Share <= share + 1e-12)?.Years;

    // Where the band crosses one half.
    private (double? From, double? To) Median() => (Curve.FirstOrDefault(s => s.Low <= 0.5)?.Years, Curve.FirstOrDefault(s => s.High <= 0.5)?.Years);

    private IReadOnlyList<Sentence> Words()
    {
        var said = new Said();
        var (from, to) = Median();
        said.Add(Weight.Verdict, MedianYears is { } median
            ? Say("Half last ", Computed($"{median:0.0} years"), $"{(from is null ? "" : to is null ? $", from {from:0.0} on" : $", between {from:0.0} and {to:0.0}")}: {Ends} ends, {Going} still going.")
            : Say(Ends == 0 ? $"None of {Going} was renewed yet." : $"More than half still last: {Ends} ends, {Going} going."));
        if (Ends < EnoughEnds.Value)
            said.Add(Weight.Hint, Say($"Under {EnoughEnds.Value:0} ends the usual life says more."));
        return said.InOrder();
    }
}
