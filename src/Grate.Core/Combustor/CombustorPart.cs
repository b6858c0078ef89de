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
        if (history.NewestNumber(CombustorFacts.EndDay) is not { } day)
            yield break;
        var end = DateOnly.FromDayNumber((int)day);
        if (today >= end.AddMonths(-(int)_ahead.Value))
            yield return new DueTask(DueKind.Part, "combustor", end.AddMonths(-(int)_ahead.Value), end, end.AddMonths((int)_ahead.Value), $"Combustor: its life ends about {end:MMMM yyyy}.");
    }
}
