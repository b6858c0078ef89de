using Grate.Core.Flue;

namespace Grate.Core.Deposits;

/// <summary>How a flue is swept: tools, way, openings, time, order (handbook 02 section 3).</summary>
/// <param name="Brushes">Kind and size of each brush.</param>
/// <param name="Rods">Rods of 1 m.</param>
/// <param name="From">From below or above, and why.</param>
/// <param name="Bends">Bends to pass.</param>
/// <param name="Openings">What has to be opened.</param>
/// <param name="RuleMinutes">Time by the rule, min; null where glaze asks for a quote of its own.</param>
/// <param name="Minutes">Time to expect, min: this firm's median where it knows one, else the rule's.</param>
/// <param name="LearnedFrom">Timed visits it rests on; 0 for the rule.</param>
/// <param name="Order">The tasks in order.</param>
public sealed record SweepPlan(IReadOnlyList<string> Brushes, int Rods, string From, int Bends, IReadOnlyList<string> Openings,
    double? RuleMinutes, double? Minutes, int LearnedFrom, IReadOnlyList<WorkTask> Order)
{
    /// <summary>A poly brush on steel is this much over the flue's inside.</summary>
    public static readonly Limit PolyOver = Limit.Practice(0.012, "m", "a poly brush is 12 mm over the bore on steel");

    /// <summary>Length of a rod.</summary>
    public static readonly Limit RodM = Limit.Practice(1, "m", "a usual rod");

    /// <summary>Time of any sweep.</summary>
    public static readonly Limit BaseMinutes = Limit.Assumed(30, "min", "sheets, vacuum, pail, putting away");

    /// <summary>Time per metre of powder.</summary>
    public static readonly Limit PowderMinutes = Limit.Assumed(4, "min/m", "powder");

    /// <summary>Time per metre of flakes.</summary>
    public static readonly Limit FlakesMinutes = Limit.Assumed(6, "min/m", "flakes: more passes");

    /// <summary>Time per bend and opening.</summary>
    public static readonly Limit EachMinutes = Limit.Assumed(5, "min", "each bend and each opening");

    /// <summary>Fewest timed visits from which a firm's own median counts.</summary>
    public static readonly Limit LearnFrom = Limit.Assumed(3, "", "fewer say little of a kind");

    /// <summary>The task after which the brush has been in the flue.</summary>
    public const string Swept = "swept";

    /// <summary>The task without which no visit is finished once the brush was in.</summary>
    public const string Refitted = "refitted";

    private static readonly string[] _beforeTheBrush = ["cold", "probe-out", "combustor-out", "baffle-out", "sheeted"];

    private const string Back = "Everything that was taken out is back";

    /// <summary>Every task that any stove may have, in the order that must not be broken (handbook 02 section 3).</summary>
    public static IReadOnlyList<WorkTask> Tasks { get; } =
    [
        new("cold", "Fire out, everything cold", [], "one live coal sets the vacuum and the house on fire"),
        new("probe-out", "Flue probe out, or none fitted", ["cold"], "it breaks, or the brush does", "probe"),
        new("combustor-out", "Combustor out or covered", ["cold"], "soot closes its cells", "combustor"),
        new("baffle-out", "Baffle out or pushed aside", ["cold"], "debris must be reached", "baffle"),
        new("sheeted", "Room sheeted, vacuum with fine filter", ["cold"], "soot goes where the air goes"),
        new("cap-checked", "Cap off or checked", []),
        new(Swept, "Swept", _beforeTheBrush),
        new("seen-through", "Looked through by daylight or camera, bends too", [Swept]),
        new("tee-emptied", "Tee and the baffle's top emptied", [Swept]),
        new("channels-cleaned", "Channels cleaned", [Swept], null, "channels"),
        new("oven-cleaned", "Oven's flue path cleaned", [Swept], null, "oven"),
        new("measured", "What fell weighed or measured", [Swept]),
        new(Refitted, Back, [Swept, "tee-emptied"], "no visit is finished with a part off"),
        new("smoke-test", "Smoke test", [Refitted]),
    ];

    /// <summary>Plans the sweep of a flue.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="features">Parts and ways the stove has.</param>
    /// <param name="stages">Stage in each segment, found or to be expected, 1..3.</param>
    /// <param name="learned">What this firm's sweeps of the kind took.</param>
    /// <param name="system">Units of the sizes.</param>
    public static SweepPlan For(FlueSystem flue, IReadOnlyCollection<string> features, IReadOnlyList<int> stages, LearnedFact? learned, UnitSystem system)
    {
        var fittings = flue.Segments.SelectMany(s => s.Fittings).ToList();
        var bends = fittings.Count(f => f.TurnDeg > 0 && f.Code != "tee-turn");
        List<string> openings = [];
        void Open(bool there, string name)
        {
            if (there)
                openings.Add(name);
        }
        Open(fittings.Any(f => f.Code == "tee-turn"), "clean-out tee");
        Open(features.Contains("baffle"), "baffle out");
        Open(features.Contains("combustor"), "combustor out");
        Open(features.Contains("blower") && flue.Segments[0].Construction.InMasonry, "smoke shelf");
        Open(features.Contains("oven"), "cookstove clean-outs");
        Open(features.Contains("channels"), "masonry-heater channels");
        double? rule = stages.Contains(3) ? null
            : BaseMinutes.Value + flue.Segments.Zip(stages, (s, stage) => s.LengthM * (stage == 2 ? FlakesMinutes : PowderMinutes).Value).Sum()
                + EachMinutes.Value * (bends + openings.Count);
        var known = learned?.Visits >= LearnFrom.Value && rule is not null;
        var capComesOff = flue.Screen || flue.Cap.Code == "cowl";
        return new SweepPlan(BrushesFor(flue, system), RodsFor(flue),
            capComesOff ? "from above: the cap has to come off anyway" : openings.Contains("clean-out tee") ? "from below, through the tee" : "from below, through the stove",
            bends, openings, rule, known ? learned!.Median : rule, known ? learned!.Visits : 0,
            [.. Tasks.Where(t => t.Feature is null || features.Contains(t.Feature)).Select(t => t with { Name = NameFor(t, features), Needs = [.. t.Needs.Where(n => Has(n, features))] })]);
    }

    // A heater without baffle or combustor is not asked whether they are back.
    private static string NameFor(WorkTask task, IReadOnlyCollection<string> features) => task.Code switch
    {
        Refitted => string.Join(", ", new[] { features.Contains("probe") ? "probe" : null, features.Contains("combustor") ? "combustor" : null,
            features.Contains("baffle") ? "baffle" : null, features.Contains("channels") ? "lids of the openings" : null }.OfType<string>()) is { Length: > 0 } parts
            ? $"{char.ToUpperInvariant(parts[0])}{parts[1..]} back" : Back,
        "tee-emptied" => features.Contains("baffle") ? task.Name : "Clean-out and the flue's foot emptied",
        _ => task.Name,
    };

    /// <summary>Brushes a flue needs, sizes in the shown units.</summary>
    public static IReadOnlyList<string> BrushesFor(FlueSystem flue, UnitSystem system) =>
        [.. flue.Segments.Select(s => Brush(s, Units.Of(Quantity.Bore, system))).Distinct()];

    /// <summary>Rods a flue needs: its length in rods, rounded up, and one.</summary>
    public static int RodsFor(FlueSystem flue) => (int)Math.Ceiling(flue.LengthM / RodM.Value) + 1;

    private static WorkTask Find(string code) => Tasks.First(t => t.Code == code);

    private static bool Has(string code, IReadOnlyCollection<string> features) => Find(code).Feature is not { } feature || features.Contains(feature);

    /// <summary>Brushes are sold in steps of this, metric.</summary>
    public static readonly Limit StockMetric = Limit.Practice(0.010, "m", "stock sizes go by centimetres");

    /// <summary>And of this in inches.</summary>
    public static readonly Limit StockUs = Limit.Practice(0.0254, "m", "stock sizes go by whole inches");

    private static string Brush(Segment segment, Unit bore)
    {
        var stock = (bore == Units.Of(Quantity.Bore, UnitSystem.Us) ? StockUs : StockMetric).Value;
        string Size(double m) => $"{bore.FromSi(Math.Round(m / stock) * stock):0}";
        var steel = !segment.Construction.Code.StartsWith("clay", StringComparison.Ordinal) && segment.Construction.Code != "brick-unlined";
        var over = steel ? PolyOver.Value : 0;
        var size = segment.Section switch
        {
            Rectangular r => $"{Size(r.WidthM + over)} × {Size(r.DepthM + over)} {bore.Symbol}",
            _ => $"{Size(segment.Section.NarrowestM + over)} {bore.Symbol}",
        };
        return $"{(steel ? "poly" : "steel wire")} brush {size}";
    }
}
