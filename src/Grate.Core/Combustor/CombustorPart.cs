namespace Grate.Core.Combustor;

/// <summary>The catalytic combustor, and the probe that tells its temperature.</summary>
public sealed class CombustorPart : IPart
{
    private static readonly Limit _ahead = Limit.Assumed(6, "months", "a season's warning: a new one takes weeks to come");

    /// <inheritdoc/>
    public string Code => "combustor";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new CombustorStation(), new BypassStation(), new ThermostatStation(), new LightOffStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("probe", "flue probe", VisitSteps.OpenUp) { Feature = "probe" },
        new("combustor", "combustor", VisitSteps.OpenUp, VisitSteps.Inside)
        {
            Feature = "combustor",
            Again = Limit.Practice(12, "months", "what clogs is seen once a year"),
        },
        new("bypass", "bypass", VisitSteps.Inside) { Feature = "bypass" },
        new("thermostat", "thermostat", VisitSteps.Inside) { Feature = "thermostat" },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = [CombustorFacts.EndDay, CombustorFacts.FittedDay];

    /// <inheritdoc/>
    public IEnumerable<DueTask> Due(StoveHistory history, DateOnly today)
    {
        if (EndSoon(history, today) is { } end)
            yield return new DueTask(DueKind.Part, "combustor", end.AddMonths(-(int)_ahead.Value), end, end.AddMonths((int)_ahead.Value), $"Combustor: its life ends about {end:MMMM yyyy}.");
    }

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at) => Wants(at.History, at.Today).Select(w => w.ForTheVan());

    /// <inheritdoc/>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today)
    {
        foreach (var probe in WantedPart.WhereSpent(history, "probe", StockKind.Probe))
            yield return probe;
        // One that was taken out and ordered is told by the list of what came out.
        if (!history.Stove.Combustor || Firebox.StripFacts.Ordered(history).Contains("combustor"))
            yield break;
        if (WantedPart.WhereSpent(history, "combustor", StockKind.Combustor).FirstOrDefault() is { } spent)
            yield return spent;
        else if (EndSoon(history, today) is { } end)
            yield return new(StockKind.Combustor, 1, "combustor", $"its life ends about {end:MMMM yyyy}", By: end);
    }

    // A season's warning before its end; null while it lasts.
    private static DateOnly? EndSoon(StoveHistory history, DateOnly today) =>
        history.NewestNumber(CombustorFacts.EndDay) is { } day && DateOnly.FromDayNumber((int)day) is var end && today >= end.AddMonths(-(int)_ahead.Value) ? end : null;
}
