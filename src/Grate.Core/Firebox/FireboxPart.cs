namespace Grate.Core.Firebox;

/// <summary>Bricks, baffle, tubes, grate, channels: what the fire lies in.</summary>
public sealed class FireboxPart : IPart
{
    /// <summary>Word of the stop of a baffle that lets flame into the flue.</summary>
    public const string Baffle = "baffle";

    /// <summary>Word of the stop of a brick that is missing.</summary>
    public const string BrickMissing = "brick-missing";

    private static readonly Limit _yearly = Limit.Practice(12, "months", "what wears or clogs is seen once a year");

    /// <inheritdoc/>
    public string Code => "firebox";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new StripDownStation(), new LiningStation(), new BaffleStation(), new TubesStation(), new AshStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("bricks", "bricks", VisitSteps.Inside) { Feature = "bricks", Again = _yearly },
        new("baffle", "baffle", VisitSteps.OpenUp, VisitSteps.Inside) { Feature = "baffle", Again = _yearly },
        new("tubes", "air tubes", VisitSteps.Inside) { Feature = "tubes" },
        new("seals", "seats and seals", VisitSteps.Inside) { Again = _yearly },
        new("grate", "grate", VisitSteps.Inside) { Feature = "grate" },
        new("channels", "channels", VisitSteps.Inside) { Feature = "channels", Again = _yearly },
        new("oven-path", "oven path", VisitSteps.Inside) { Feature = "oven", Again = _yearly },
        new("refitted", "all parts refitted", VisitSteps.BackTogether) { Wears = false },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = [LiningFacts.Renew, StripFacts.Begins];

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at) => Wants(at.History, at.Today).Select(w => w.ForTheVan());

    /// <inheritdoc/>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today)
    {
        if (history.NewestNumber(LiningFacts.Renew) is > 0 and var bricks)
            yield return new(StockKind.Brick, bricks, "bricks", $"{bricks:0} to renew");
        var ordered = StripFacts.Ordered(history).Select(part => (Part: part, Kind: part switch
        {
            "baffle" => StockKind.Baffle,
            "combustor" => StockKind.Combustor,
            "air tubes" => StockKind.Tube,
            "flue probe" => StockKind.Probe,
            _ => StockKind.Other,
        })).ToList();
        foreach (var (part, kind) in ordered)
            yield return new(kind, 1, part, "out until the new one comes");
        // What was taken out because it is spent is wanted once.
        foreach (var want in WantedPart.WhereSpent(history, "baffle", StockKind.Baffle).Concat(WantedPart.WhereSpent(history, "tubes", StockKind.Tube)).Where(w => ordered.All(o => o.Kind != w.Kind)))
            yield return want;
    }

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new(BrickMissing, "A brick is missing or steel is visible: no fire until replaced.", "bricks") { Retest = "Every brick is in its place and no steel is visible." },
        new(Baffle, "The baffle is missing, displaced or burnt through: no fire.", "baffle") { Retest = "The baffle is whole and seated, and the hot test is as expected." },
        new("part-off", "A part is off and not refitted: no fire.", "refitted") { Retest = "Every part is back in its place." },
    ];
}
