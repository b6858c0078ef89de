namespace Grate.Core.Flue;

/// <summary>A reading among others of one run.</summary>
/// <param name="AtS">Time since the run began, s.</param>
/// <param name="DraftPa">Draft, Pa.</param>
public sealed record RunSample(double AtS, double DraftPa);

/// <summary>
/// A run of readings, by hand or from the gauge (handbook 01 section 6): mean, least, greatest, standard deviation,
/// and whether it swings by more than ±30 % within a minute.
/// </summary>
/// <param name="MeanPa">Mean, Pa.</param>
/// <param name="MinPa">Least, Pa.</param>
/// <param name="MaxPa">Greatest, Pa.</param>
/// <param name="DeviationPa">Standard deviation of the sample, Pa.</param>
/// <param name="SwingShare">Half the greatest span within a minute over that minute's mean.</param>
/// <param name="Count">Readings in it.</param>
/// <param name="Unsteady">Gusting or blowback.</param>
public sealed record Steadiness(double MeanPa, double MinPa, double MaxPa, double DeviationPa, double SwingShare, int Count, bool Unsteady)
{
    /// <summary>A greater swing within a minute, the fire steady, is gusting or blowback.</summary>
    public static readonly Limit GreatestSwing = Limit.Practice(0.30, "", "a swing of more than ±30 % within a minute while the fire is steady");

    /// <summary>How long a minute is: the window of the swing, s.</summary>
    public const double WindowS = 60;

    /// <summary>Most readings of a run: ten minutes at 4 Hz.</summary>
    public const int Most = 2400;

    private static readonly EntryRange _at = new("Time in the run in s", Quantity.Ratio, 0, 3600);

    // Around a mean of nothing every share is huge: below this the swing is held against this.
    private const double LeastMeanPa = 1;

    /// <summary>Judges a run.</summary>
    /// <param name="samples">In order of time, 2 to 2 400.</param>
    /// <param name="errors">Takes refusals.</param>
    /// <returns>The judgement, or null with sentences.</returns>
    public static Steadiness? Of(IReadOnlyList<RunSample> samples, EntryErrors errors)
    {
        if (samples.Count is < 2 or > Most)
            errors.Add("samples", $"A run has 2 to {Most} readings; {samples.Count} were sent.");
        else
        {
            foreach (var (sample, i) in samples.Select((sample, i) => (sample, i)))
            {
                errors.Check($"samples[{i}].draftPa", sample.DraftPa, FlueRanges.Reading);
                errors.Check($"samples[{i}].atS", sample.AtS, _at);
                if (i > 0 && sample.AtS < samples[i - 1].AtS)
                    errors.Add($"samples[{i}].atS", "The readings of a run stand in order of time.");
            }
        }
        if (errors.Any)
            return null;
        var mean = samples.Average(s => s.DraftPa);
        var deviation = Math.Sqrt(samples.Sum(s => (s.DraftPa - mean) * (s.DraftPa - mean)) / (samples.Count - 1));
        var swing = GreatestSwingOf(samples);
        return new Steadiness(mean, samples.Min(s => s.DraftPa), samples.Max(s => s.DraftPa), deviation, swing, samples.Count, swing > GreatestSwing.Value);
    }

    private static double GreatestSwingOf(IReadOnlyList<RunSample> samples)
    {
        double greatest = 0;
        for (int first = 0, last = 0; last < samples.Count; last++)
        {
            while (samples[last].AtS - samples[first].AtS > WindowS)
                first++;
            var window = samples.Skip(first).Take(last - first + 1).Select(s => s.DraftPa).ToList();
            greatest = Math.Max(greatest, (window.Max() - window.Min()) / 2 / Math.Max(LeastMeanPa, Math.Abs(window.Average())));
        }
        return greatest;
    }
}

/// <summary>The question of POST /api/calculations/steadiness.</summary>
/// <param name="Samples">Readings in order of time.</param>
public sealed record SteadinessEntry(IReadOnlyList<RunSample> Samples);
