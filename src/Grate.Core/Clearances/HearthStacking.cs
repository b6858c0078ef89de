namespace Grate.Core.Clearances;

/// <summary>An offer as it is stacked.</summary>
internal sealed record Stackable(string Id, double RM2KW, double ThicknessMm, double PricePerM2, int Most, bool Air);

/// <summary>The best stack of all that reach a resistance, gone through one offer after the other.</summary>
internal sealed class HearthStacking(IReadOnlyList<Stackable> offers, double missingM2KW, int mostLayers, bool onSomething)
{
    /// <summary>The stack with the least of a measure, then of the other, then of fewest layers; null where none reaches it.</summary>
    public HearthLaid? Least(Func<Stackable, double> first, Func<Stackable, double> then)
    {
        (double First, double Then, int Layers)? best = null;
        int[]? found = null;
        var counts = new int[offers.Count];
        // What the rest of a stack comes to at least, by its best offer in parts of a layer; and what a layer of it resists at most.
        var least = Rest(o => o.RM2KW > 0 ? first(o) / o.RM2KW : double.PositiveInfinity, Math.Min, double.PositiveInfinity);
        var strongest = Rest(o => o.RM2KW, Math.Max, 0);
        void Add(int offer, double left, double one, double two, int layers)
        {
            // More of anything only adds. A gap of air alone is no hearth.
            if (left <= Limit.Met && (onSomething || layers == 0 || counts.Zip(offers).Any(c => c.First > 0 && !c.Second.Air)))
            {
                if (best is not { } known || Less((one, two, layers), known))
                    (best, found) = ((one, two, layers), [.. counts]);
                return;
            }
            if (offer == offers.Count || left > (mostLayers - layers) * strongest[offer] + Limit.Met || (left > 0 && best is { } so && one + left * least[offer] > so.First + Limit.Met))
                return;
            var (at, most) = (offers[offer], Math.Min(offers[offer].Most, mostLayers - layers));
            for (var count = 0; count <= most; count++)
            {
                counts[offer] = count;
                Add(offer + 1, left - count * at.RM2KW, one + count * first(at), two + count * then(at), layers + count);
            }
            counts[offer] = 0;
        }
        Add(0, missingM2KW, 0, 0, 0);
        return found is null ? null : new([.. found.Select((count, i) => new StackLayer(offers[i].Id, count)).Where(l => l.Count > 0)],
            Sum(found, o => o.ThicknessMm), Sum(found, o => o.PricePerM2), Sum(found, o => o.RM2KW));
    }

    private double[] Rest(Func<Stackable, double> of, Func<double, double, double> best, double none) =>
        [.. Enumerable.Range(0, offers.Count + 1).Select(from => offers.Skip(from).Select(of).Aggregate(none, best))];

    private double Sum(int[] counts, Func<Stackable, double> of) => counts.Zip(offers).Sum(c => c.First * of(c.Second));

    private static bool Less((double First, double Then, int Layers) a, (double First, double Then, int Layers) b) =>
        a.First < b.First - Limit.Met || (a.First <= b.First + Limit.Met && (a.Then < b.Then - Limit.Met || (a.Then <= b.Then + Limit.Met && a.Layers < b.Layers)));
}
