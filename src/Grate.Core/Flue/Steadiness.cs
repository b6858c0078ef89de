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
/// <param name="SwingPa">Half the greatest span within a minute, Pa.</param>
/// <param name="SwingShare">The same over that minute's mean; null where the mean is not well above the gauge's own error.</param>
/// <param name="Count">Readings in it.</param>
/// <param name="SpanS">Time from the first to the last, s.</param>
/// <param name="Unsteady">True: gusting or blowback. False: steady through a whole minute. Null: too short, or too weak a draft, to tell.</param>
/// <param name="StepAtS">Where the draft jumped from one level to another, s since the run began; null where it did not.</param>
/// <param name="StepFromPa">Mean before the jump, Pa.</param>
/// <param name="StepToPa">Mean after it, Pa.</param>
public sealed record Steadiness(double MeanPa, double MinPa, double MaxPa, double DeviationPa, double SwingPa, double? SwingShare, int Count, double SpanS,
    bool? Unsteady, double? StepAtS = null, double? StepFromPa = null, double? StepToPa = null)
{
    /// <summary>A greater swing within a minute, the fire steady, is gusting or blowback.</summary>
    public static readonly Limit GreatestSwing = Limit.Practice(0.30, "", "a swing of more than ±30 % within a minute while the fire is steady");

    /// <summary>How long a minute is: the window of the swing, s.</summary>
    public const double WindowS = 60;

    /// <summary>A swing is told as a share from a mean of so many times the gauge's error on.</summary>
    public static readonly Limit ShareFrom = Limit.Assumed(5, "", "round nothing every share is huge and says nothing");

    /// <summary>Of a mean that is too weak for a share: a greater swing is unsteady all the same.</summary>
    public static readonly Limit WeakSwing = Limit.Assumed(1.5, "Pa", "three times what the gauge itself is off by round nothing");

    /// <summary>A jump of the level by so much is no swing: something was opened, shut or moved.</summary>
    public static readonly Limit Step = Limit.Assumed(3, "Pa", "more than gusts about one level leave of the two halves' means");

    /// <summary>And by so many standard deviations of the halves.</summary>
    public static readonly Limit StepClear = Limit.Assumed(3, "", "clear of the noise on both sides");

    /// <summary>How long each side of a jump must last, s: longer than a gust, which comes back.</summary>
    private const double StepSideS = 5;

    private const int StepSideCount = 4;

    /// <summary>Most readings of a run: ten minutes at 4 Hz.</summary>
    public const int Most = 1200;

    private static readonly EntryRange _at = new("Time in the run in s", Quantity.Ratio, 0, 3600);

    /// <summary>Judges a run.</summary>
    /// <param name="samples">In order of time, 2 to 1 200: a minute of the fastest gauge.</param>
    /// <param name="errors">Takes refusals.</param>
    /// <returns>The judgement, or null with sentences.</returns>
    public static Steadiness? Of(IReadOnlyList<RunSample> samples, EntryErrors errors)
    {
        if (samples.Count is < 2 or > Most)
            errors.Add("samples", $"A run has 2 to {Most} readings; {samples.Count} were sent.");
        else if (samples.Any(s => s is null))
            errors.Add("samples", "A reading is missing where the run has a place for it.");
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
        var deviation = Deviation([.. samples.Select(s => s.DraftPa)]);
        var (swing, around) = GreatestSwingOf(samples);
        double? share = Math.Abs(around) >= ShareFrom.Value * FlueLimits.GaugeSigmaPa(around) ? swing / Math.Abs(around) : null;
        var span = samples[^1].AtS - samples[0].AtS;
        bool? unsteady = share > GreatestSwing.Value || (share is null && swing > WeakSwing.Value) ? true : share is not null && span >= WindowS ? false : null;
        var step = StepOf(samples);
        return new Steadiness(mean, samples.Min(s => s.DraftPa), samples.Max(s => s.DraftPa), deviation, swing, share, samples.Count, span, unsteady,
            step?.AtS, step?.FromPa, step?.ToPa);
    }

    /// <summary>What the run says.</summary>
    /// <param name="topBad">Whether the top of the chimney is suspect.</param>
    /// <param name="system">Units.</param>
    public Sentence Say(bool topBad, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var swing = Sentence.Measured(SwingShare is { } share ? $"±{Units.Of(Quantity.Share, system).Format(share)}" : $"±{draft.Format(SwingPa)}");
        var ends = Sentence.Measured(draft.Range(MinPa, MaxPa));
        return Unsteady == true
            ? Sentence.Say("The draft is unsteady: it swings by ", swing, " within a minute, between ", ends, ". Gusts or blowback: ",
                topBad ? "the top stands badly, see there." : "look at the top, its height and what stands around.")
            : Unsteady == false ? Sentence.Say("The draft is steady: ", swing, " within a minute, between ", ends, ".")
            : Sentence.Say($"Over {SpanS:0} s the draft moved by ", swing, ", between ", ends, SwingShare is null ? ": too weak a draft to call it steady." : ".");
    }

    private static double Deviation(IReadOnlyList<double> values)
    {
        var mean = values.Average();
        return values.Count < 2 ? 0 : Math.Sqrt(values.Sum(v => (v - mean) * (v - mean)) / (values.Count - 1));
    }

    // The greatest half span within a minute, and that minute's mean. Both ends of the window only move on.
    private static (double HalfSpanPa, double MeanPa) GreatestSwingOf(IReadOnlyList<RunSample> samples)
    {
        (double HalfSpanPa, double MeanPa) greatest = (0, samples[0].DraftPa);
        for (int first = 0, last = 0; last < samples.Count; last++)
        {
            while (samples[last].AtS - samples[first].AtS > WindowS)
                first++;
            double least = double.PositiveInfinity, most = double.NegativeInfinity, sum = 0;
            for (var i = first; i <= last; i++)
                (least, most, sum) = (Math.Min(least, samples[i].DraftPa), Math.Max(most, samples[i].DraftPa), sum + samples[i].DraftPa);
            if ((most - least) / 2 > greatest.HalfSpanPa)
                greatest = ((most - least) / 2, sum / (last - first + 1));
        }
        return greatest;
    }

    // The split whose sides' means lie furthest apart, if they are clear of what each side scatters.
    private static (double AtS, double FromPa, double ToPa)? StepOf(IReadOnlyList<RunSample> samples)
    {
        (double AtS, double FromPa, double ToPa)? found = null;
        for (var split = StepSideCount; split <= samples.Count - StepSideCount; split++)
        {
            if (samples[split].AtS - samples[0].AtS < StepSideS || samples[^1].AtS - samples[split].AtS < StepSideS)
                continue;
            double[] before = [.. samples.Take(split).Select(s => s.DraftPa)], after = [.. samples.Skip(split).Select(s => s.DraftPa)];
            var jump = Math.Abs(after.Average() - before.Average());
            if (jump >= Step.Value && jump >= StepClear.Value * Math.Max(Deviation(before), Deviation(after)) && !(jump <= Math.Abs(found?.ToPa - found?.FromPa ?? 0)))
                found = (samples[split].AtS - samples[0].AtS, before.Average(), after.Average());
        }
        return found;
    }
}

/// <summary>The question of POST /api/calculations/steadiness.</summary>
/// <param name="Samples">Readings in order of time.</param>
public sealed record SteadinessEntry(IReadOnlyList<RunSample> Samples);
