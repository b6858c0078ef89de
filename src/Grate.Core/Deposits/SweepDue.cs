namespace Grate.Core.Deposits;

/// <summary>When the sweep is due, and how long it takes.</summary>
public static class SweepDue
{
    /// <summary>A sweep makes sense this much earlier.</summary>
    public static readonly Limit Early = Limit.Assumed(3, "months", "a quarter of a year early costs a quarter of a sweep");

    /// <summary>A sweep may be this much later, unless the stop comes first.</summary>
    public static readonly Limit Late = Limit.Assumed(3, "months", "the forecast already allows for a bad year");

    /// <summary>Time of a sweep with glaze, until it is quoted for.</summary>
    public static readonly Limit GlazeMinutes = Limit.Assumed(180, "min", "a first treatment");

    private static readonly string[] _steps = [VisitSteps.OpenUp, VisitSteps.Sweep, VisitSteps.BackTogether, VisitSteps.HotTest];

    /// <summary>The sweep as a task; null where none was ever recorded or told of. One that was only told of is counted from by the year.</summary>
    public static DueTask? Of(StoveHistory history, DateOnly today)
    {
        var place = SweepPlace.Of(history);
        if (place.LastSwept is null && history.SweptTold is { } told)
        {
            return DueTask.Around(DueKind.Sweep, null, told.AddMonths((int)SweepForecast.Yearly.Value), Early, Late,
                $"Sweep: last swept {told:d MMM yyyy}, as we were told; once a year in any case (NFPA 211, from memory).") with
            { Steps = _steps };
        }
        if (place.LastSwept is not { } last || SweepAnswer.DatesOf(place, today) is not { } dates)
            return null;
        return Of(last.Day, dates, (int)Math.Round(Minutes(history, place, last) ?? GlazeMinutes.Value));
    }

    /// <summary>The same from its dates.</summary>
    /// <param name="swept">Day of the last sweep.</param>
    /// <param name="sweep">Its forecast.</param>
    /// <param name="minutes">Time it takes, min.</param>
    public static DueTask Of(DateOnly swept, SweepDates sweep, int minutes)
    {
        var latest = sweep.Next.AddMonths((int)Late.Value);
        if (sweep.Stop is { } stop && stop < latest)
            latest = stop;
        var earliest = sweep.Next.AddMonths(-(int)Early.Value);
        // The day after a sweep nothing is to be swept, however short the interval.
        if (earliest <= swept)
            earliest = swept < sweep.Next ? swept.AddDays(1) : sweep.Next;
        return new DueTask(DueKind.Sweep, null, earliest, sweep.Next, latest < sweep.Next ? sweep.Next : latest, sweep.Bound switch
        {
            SweepBound.Deposit => $"Sweep: last swept {swept:d MMM yyyy}; in a bad year the limit is reached then.",
            SweepBound.Yearly => $"Sweep: last swept {swept:d MMM yyyy}; once a year in any case (NFPA 211, from memory).",
            SweepBound.Quarter => $"Sweep: last swept {swept:d MMM yyyy}; once per quarter of use, as the firm sweeps.",
            _ => $"Sweep: last swept {swept:d MMM yyyy}; before the heating season.",
        }, minutes, _steps);
    }

    // What hung there at the last sweep is what the next one will meet; glaze that was treated comes back as flakes first.
    private static double? Minutes(StoveHistory history, SweepPlace place, EarlierSweep last)
    {
        var chain = Flue.FlueReading.Stored(history.Flue);
        var worst = last.GlazeLeft ? 3 : 2;
        return SweepPlan.For(chain, place.Features, [.. chain.Segments.Select(s => Math.Min(worst, last.StageById?.GetValueOrDefault(s.Id, 1) ?? 1))], place.Learned, UnitSystem.Metric).Minutes;
    }
}
