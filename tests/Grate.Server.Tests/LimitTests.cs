using System.Diagnostics;
using Grate.Core;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Service;
using Grate.Solvers;

namespace Grate.Server.Tests;

/// <summary>
/// Calculations that search, each with the most that its entry takes: what they ask of the memory, all in all, stays under a bound, and they end
/// soon after their patience. The bound of time is a multiple of it that a machine at work on other things keeps.
/// </summary>
public class LimitTests
{
    private const long MostBytes = 4L << 30;
    private static readonly TimeSpan _mostTime = TimeSpan.FromSeconds(60);

    // Each size in turn between the ends.
    private static double Spread(int i, int count, double from, double to) => Math.Round(from + ((to - from) * i / (count - 1)), 3);

    private static GasketCutsEntry Cuts(double needM, int count, double longestM) => new(
        [.. Enumerable.Range(0, count).Select(i => new CutNeedEntry($"n{i}", 10, needM))],
        [.. Enumerable.Range(0, GasketCuts.MostStock).Select(i => new CutStockEntry($"s{i}", 10, Spread(i, GasketCuts.MostStock, longestM / 2, longestM)))],
        [.. Enumerable.Range(0, GasketCuts.MostOffers).Select(i => new CutOfferEntry($"o{i}", 10, Spread(i, GasketCuts.MostOffers, longestM / 3, longestM), 10 + i))]);

    // The answer, or in its place that none was found in the time.
    private static object Ask<TEntry>(TEntry entry, Func<TEntry, EntryErrors, object?> ask)
    {
        var errors = new EntryErrors();
        return ask(entry, errors) ?? Assert.Single(errors.ByField).Value.Single(s => s.StartsWith("No layout was found in 8 s", StringComparison.Ordinal));
    }

    private static readonly Dictionary<string, Func<object>> _largest = new()
    {
        ["80 ropes of 12 m out of 260 lengths up to 100 m"] = () => Ask(Cuts(12, GasketCuts.MostNeeds, 100), (e, errors) => GasketCuts.To(e, errors, new CutSolver())),
        ["80 short ropes out of 260 lengths up to 100 m"] = () => Ask(Cuts(0.31, GasketCuts.MostNeeds, 100), (e, errors) => GasketCuts.To(e, errors, new CutSolver())),
        ["80 ropes out of 260 short lengths"] = () => Ask(Cuts(1.3, GasketCuts.MostNeeds, 6), (e, errors) => GasketCuts.To(e, errors, new CutSolver())),
        ["60 panels of 400 bricks"] = () => Ask(new BrickLayoutEntry([.. Enumerable.Range(0, 60).Select(i => new BrickPanelEntry($"p{i}", Spread(i, 60, 300, 460), Spread(59 - i, 60, 250, 420)))], new(229, 114, 32, 3.2)),
            (e, errors) => BrickLayoutAnswer.To(e, errors, new BrickSolver())),
        ["one panel of 400 bricks"] = () => Ask(new BrickLayoutEntry([new("wall", 2990, 2990)], new(229, 114, 32, 3.2)), (e, errors) => BrickLayoutAnswer.To(e, errors, new BrickSolver())),
        ["120 stops and 12 vans"] = () => Ask(new RoundEntry(
            [.. Enumerable.Range(0, 120).Select(i => new RoundStopEntry($"s{i}", Spread(i * 37 % 120, 120, 46.9, 47.5), Spread(i * 53 % 120, 120, 9.9, 10.6), 30 + (i % 4 * 20), i % 3 == 0 ? [540.0, 720] : null, i % 10 == 0))],
            [.. Enumerable.Range(0, 12).Select(i => new RoundVanEntry($"v{i}", new(47.1, 10.2), Lunch: new([690.0, 780], 30)))]), (e, errors) => RoundAnswer.To(e, errors, new RoundSolver())),
        ["5 000 needs of 1 000 parts"] = () => Ask(new PartsOrderEntry(new DateOnly(2026, 12, 2), null, [.. Enumerable.Range(0, 1000).Select(i => new PartEntry($"p{i}", 3, 0.001, 2, i % 400))],
            [.. Enumerable.Range(0, 5000).Select(i => new PartNeed($"p{i % 1000}", 1_000_000, new DateOnly(2026, 12, 2).AddDays(i % 700)))]), PartsOrderAnswer.To),
    };

    public static TheoryData<string> Largest => [.. _largest.Keys];

    [Theory]
    [MemberData(nameof(Largest))]
    public void The_most_that_an_entry_takes_is_answered_within_bounds(string what)
    {
        var (before, clock) = (GC.GetAllocatedBytesForCurrentThread(), Stopwatch.StartNew());
        Assert.NotNull(_largest[what]());
        Assert.InRange(GC.GetAllocatedBytesForCurrentThread() - before, 1, MostBytes);
        Assert.InRange(clock.Elapsed, TimeSpan.Zero, _mostTime);
    }
}
