using CsCheck;
using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>Parts to order: handbook 10 section 4.</summary>
public class PartsOrderTests
{
    private static readonly DateOnly _today = new(2026, 8, 3);

    private static DateOnly Day(string day) => DateOnly.Parse(day);

    private static PartsOrderAnswer Of(IReadOnlyList<PartEntry> parts, params (string Part, double Quantity, string On)[] needs) =>
        Calculation.Answered(e => PartsOrderAnswer.To(new(_today, null, parts, [.. needs.Select(n => new PartNeed(n.Part, n.Quantity, Day(n.On)))]), e));

    [Fact]
    public void Order_by_as_worked_in_the_handbook()
    {
        var answer = Of([new("combustor", PackPrice: 240, LeadDays: 10)], ("combustor", 1, "2026-09-14"));
        Assert.Equal(new NeedMet("combustor", Day("2026-09-14"), 0, 1, Day("2026-09-02"), Day("2026-08-31"), false, Day("2026-09-10"), true), answer.Needs.Single());
        var list = answer.Lists.Single();
        Assert.Equal((Day("2026-08-31"), 240.0), (list.On, list.Total));
        Assert.Equal(["listWeekday", "parts[0].packSize", "parts[0].stock"], answer.Assumed.Select(a => a.Field).Order());
    }

    [Fact]
    public void Stock_serves_the_earliest_and_packs_are_shared()
    {
        var answer = Of([new("rope", 2, 5, 18, 7)], ("rope", 4, "2026-09-20"), ("rope", 3, "2026-09-07"));
        Assert.Equal(new NeedMet("rope", Day("2026-09-20"), 0, 0, null, null, false, Day("2026-08-31"), true), answer.Needs[0]);
        Assert.Equal(new NeedMet("rope", Day("2026-09-07"), 2, 1, Day("2026-08-29"), Day("2026-08-24"), false, Day("2026-08-31"), true), answer.Needs[1]);
        Assert.Equal(new PurchaseLine("rope", 1, 5, 18), answer.Lists.Single().Lines.Single());
    }

    [Fact]
    public void What_is_late_is_ordered_today_and_said()
    {
        var answer = Of([new("brick", 0, 6, null, 20), new("tape", 0, 1, 3, 1)], ("brick", 7, "2026-08-10"), ("tape", 1, "2026-08-03"), ("tape", 2, "2026-08-12"));
        Assert.Equal((true, _today, Day("2026-08-23"), false, 2L), (answer.Needs[0].Late, answer.Needs[0].ListOn!.Value, answer.Needs[0].ArrivesOn!.Value, answer.Needs[0].InTime, answer.Needs[0].Packs));
        Assert.Equal((true, false), (answer.Needs[1].Late, answer.Needs[1].InTime));
        // One list a week: both lines of today's, in the order of the parts; a part without a price counts nothing.
        var list = answer.Lists.Single();
        Assert.Equal((_today, 9.0), (list.On, list.Total));
        Assert.Equal([new PurchaseLine("brick", 2, 12, null), new PurchaseLine("tape", 3, 3, 9)], list.Lines);
    }

    // Whatever is asked: nobody gets more than is there, and no pack too many is bought.
    [Fact]
    public void Pieces_add_up() => Gen.Select(Gen.Int[0, 9], Gen.Int[1, 6], Gen.Int[0, 30], Gen.Select(Gen.Int[1, 12], Gen.Int[-10, 90]).Array[1, 12]).Sample((stock, pack, lead, needs) =>
    {
        var answer = Of([new("p", stock, pack, 1, lead)], [.. needs.Select(n => ("p", (double)n.Item1, _today.AddDays(n.Item2).ToString("yyyy-MM-dd")))]);
        var (bought, wanted, taken) = (answer.Needs.Sum(n => n.Packs) * pack, needs.Sum(n => n.Item1), answer.Needs.Sum(n => n.FromStock));
        Assert.Equal(Math.Min(stock, wanted), taken);
        Assert.InRange(bought + taken - wanted, 0, pack - 1);
        Assert.Equal(bought, answer.Lists.Sum(l => l.Lines.Sum(x => x.Pieces)));
        Assert.All(answer.Needs.Where(n => n.Packs > 0), n => Assert.True(n.ListOn >= _today && (n.ListOn <= n.OrderBy || n.ListOn == _today)));
        Assert.All(answer.Needs, n => Assert.Equal(n.ArrivesOn is null || n.ArrivesOn <= n.NeedOn, n.InTime));
    });

    [Fact]
    public void Bad_entries_are_named()
    {
        var refused = Calculation.Refusals(e => PartsOrderAnswer.To(new(null, 8, [new(), new("a", -1, 0, -1, 500), new("a")], [new("b", 1, _today), new("a"), new(null, 0, Day("1900-01-01"))]), e));
        Assert.Equal(
            ["listWeekday", "needs[0].partId", "needs[1].needOn", "needs[1].quantity", "needs[2].needOn", "needs[2].partId", "needs[2].quantity", "parts[0].id", "parts[1].leadDays", "parts[1].packPrice", "parts[1].packSize",
                "parts[1].stock", "parts[2].id", "today"],
            refused.Keys.Order(StringComparer.Ordinal));
        // As many packs as a number holds.
        Assert.Equal(1_000_000_000_000 / 1000, Of([new("p", 0, 0.001)], ("p", 1_000_000, "2026-09-01")).Needs[0].Packs);
    }
}
