using System.Text.Json;
using Grate.Core;
using Grate.Core.Door;
using Grate.Solvers;

namespace Grate.Server.Tests;

/// <summary>Cutting plans (handbook 03 section 4), held against every way there is to cut small problems.</summary>
public class GasketCutTests
{
    private static GasketCuts Ask(GasketCutsEntry entry)
    {
        var errors = new EntryErrors();
        var answer = GasketCuts.To(entry, errors, new CutSolver());
        Assert.Empty(errors.ByField);
        return answer!;
    }

    private static CutNeedEntry[] Needs(double sizeMm, params double[] lengthsM) => [.. lengthsM.Select((l, i) => new CutNeedEntry($"{sizeMm:0}-{i}", sizeMm, l))];

    [Fact]
    public void Worked_case_of_the_handbook()
    {
        var plan = Ask(new([.. Needs(12, 1.78, 0.74, 1.02), .. Needs(8, 1.45)], [new("off-cut", 12, 1.10)],
            [new("kit 1.8", 12, 1.8, 14), new("kit 2.5", 12, 2.5, 18), new("kit 2.1", 8, 2.1, 12)]));
        Assert.Equal((40.0, 0.71, true), (plan.Cost, Math.Round(plan.WasteM, 9), plan.ProvenOptimal));
        Assert.Equal([new("kit 1.8", 2), new("kit 2.1", 1)], plan.Buy);
        Assert.Equal(["kit 1.8: 12-0", "kit 1.8: 12-1 12-2", "kit 2.1: 8-0"], plan.Cuts.Select(c => $"{c.Piece}: {string.Join(' ', c.Needs)}"));
        Assert.Equal([0.02, 0.04, 0.65], plan.Cuts.Select(c => c.LeftM));
        Assert.Empty(plan.Unmet);
    }

    // Every way of 40 small problems, tried one after the other in Python (reference.py).
    [Fact]
    public void Nothing_better_exists()
    {
        using var file = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "reference.json")));
        foreach (var row in file.RootElement.GetProperty("cuts").EnumerateArray())
        {
            double[] M(string name) => [.. row.GetProperty(name).EnumerateArray().Select(v => v.GetInt32() / 1000.0)];
            var plan = Ask(new(Needs(10, M("needs")), [.. M("stock").Select((l, i) => new CutStockEntry($"s{i}", 10, l))],
                [.. row.GetProperty("offers").EnumerateArray().Select((o, i) => new CutOfferEntry($"o{i}", 10, o[0].GetInt32() / 1000.0, o[1].GetInt32()))]));
            Assert.Equal((row.Number("unmet"), row.Number("cost"), row.Number("wasteMm"), row.Number("pieces"), true),
                (plan.Unmet.Count, plan.Cost, Math.Round(plan.WasteM * 1000), plan.Cuts.Count, plan.ProvenOptimal));
            Holds(plan, M("needs"));
        }
    }

    // The least cost of forty ropes of one size out of short kits alone, by scipy's integer program over every way to fill a kit (reference.py).
    [Fact]
    public void A_week_of_one_size_out_of_short_kits_is_proven()
    {
        using var file = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "reference.json")));
        foreach (var week in file.RootElement.GetProperty("cutWeeks").EnumerateArray())
        {
            double[] needs = [.. week.GetProperty("needs").EnumerateArray().Select(n => n.GetInt32() / 1000.0)];
            var plan = Ask(new(Needs(10, needs), [], [.. week.GetProperty("kits").EnumerateArray().Select((k, i) => new CutOfferEntry($"o{i}", 10, k[0].GetInt32() / 1000.0, k[1].GetInt32()))]));
            Assert.Equal((week.Number("cost"), true), (plan.Cost, plan.ProvenOptimal));
            Holds(plan, needs);
        }
    }

    [Fact]
    public void A_week_of_forty_needs_is_proven_and_more_in_the_van_never_costs_more()
    {
        var random = new Random(40);
        var needs = Enumerable.Range(0, 40).Select(i => new CutNeedEntry($"n{i}", 8 + 2 * (i % 4), Math.Round(0.4 + 1.7 * random.NextDouble(), 3))).ToArray();
        CutOfferEntry[] offers = [.. from size in (double[])[8, 10, 12, 14] from kit in (double[])[1.8, 2.1, 2.5, 10] select new CutOfferEntry($"{size}/{kit}", size, kit, Math.Round(2 + size * kit / 2))];
        CutStockEntry[] stock = [.. Enumerable.Range(0, 12).Select(i => new CutStockEntry($"s{i}", 8 + 2 * (i % 4), Math.Round(0.5 + random.NextDouble() * 2, 3)))];
        var plan = Ask(new(needs, stock, offers));
        Assert.True(plan.ProvenOptimal);
        Holds(plan, [.. needs.Select(n => n.LengthM!.Value)]);
        Assert.True(Ask(new(needs, [.. stock.Select(s => s with { LengthM = s.LengthM + 0.3 })], offers)).Cost <= plan.Cost);
    }

    [Fact]
    public void Needs_are_rounded_up_and_pieces_down()
    {
        // 1.1 m is no whole number of mm to a machine; it fits 1.1 m, and a hair more does not.
        Assert.Empty(Ask(new(Needs(10, 1.1), [new("s", 10, 1.1)], [])).Unmet);
        Assert.Equal(["10-0"], Ask(new(Needs(10, 1.1001), [new("s", 10, 1.1)], [])).Unmet);
        Assert.Equal(["10-0"], Ask(new(Needs(10, 1.1), [new("s", 10, 1.0999)], [])).Unmet);
        // Sizes are never mixed; nothing to do is no work.
        Assert.Equal(["10-0"], Ask(new(Needs(10, 1.1), [new("s", 12, 2)], [])).Unmet);
        Assert.Equal((0.0, true), (Ask(new()).Cost, Ask(new()).ProvenOptimal));
    }

    [Fact]
    public void Bad_input_is_named_with_range_and_unit()
    {
        var errors = new EntryErrors();
        Assert.Null(GasketCuts.To(new([new("a", 80, 1), new("a", 10, 0), null!, .. Needs(10, [.. Enumerable.Repeat(1.0, 500)])], null, [new("o", 10, 2, -1)]), errors, new CutSolver()));
        Assert.Equal("At most 80 needs; 503 were sent.", errors.ByField["needs"][0]);
        Assert.Equal("Size of the rope must lie between 3 and 30 mm; 80 mm was entered.", errors.ByField["needs[0].sizeMm"][0]);
        Assert.Equal("Length of the rope must lie between 0.01 and 100.00 m; 0.00 m was entered.", errors.ByField["needs[1].lengthM"][0]);
        Assert.Contains("stands twice", errors.ByField["needs[1].id"][0], StringComparison.Ordinal);
        Assert.Equal("Entry 3 of the needs is empty: fill it in or leave it out.", errors.ByField["needs[2]"][0]);
        Assert.Contains("Price", errors.ByField["offers[0].price"][0], StringComparison.Ordinal);
    }

    // No piece gives more than it has, no need is cut twice.
    private static void Holds(GasketCuts plan, double[] needsM)
    {
        Assert.All(plan.Cuts, c => Assert.InRange(c.LeftM, 0, 100));
        Assert.Equal(needsM.Length, plan.Cuts.SelectMany(c => c.Needs).Concat(plan.Unmet).Distinct().Count());
        Assert.Equal(needsM.Length, plan.Cuts.Sum(c => c.Needs.Count) + plan.Unmet.Count);
    }
}
