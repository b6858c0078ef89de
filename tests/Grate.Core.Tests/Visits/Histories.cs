using Grate.Core.Deposits;
using Grate.Core.Fuel;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Visits;

/// <summary>A house, a stove and visits to ask about.</summary>
internal static class Histories
{
    public static readonly House House = new(Guid.CreateVersion7(), "4 Weir Bank", "Tarnwick", 47.1, 10.2, 600, 300, 4, null, WoodYear.OrdinaryC,
        ["living room", "bedroom"], [2.6, 2.6], 8, 45, 0, []);

    public static readonly Stove Stove = new(Guid.CreateVersion7(), "steel", false, "Box stove, tubes and board", 2005, "living room", 8, 12, 28, 0, 0.8);

    public static readonly DateOnly Day = new(2026, 11, 20);

    public static StoveHistory Of(params EarlierVisit[] earlier) =>
        new(House, Stove, new FlueVersion(Guid.CreateVersion7(), 1, new DateOnly(2020, 3, 1), 2, Flues.P01()), earlier, [], []);

    public static EarlierVisit Visit(DateOnly day, params Fact[] facts) => new(Guid.CreateVersion7(), day, true, day.AddMonths(12), facts, []);

    public static EarlierVisit Swept(DateOnly day, double found, double left) => Visit(day, new Fact(DepositFacts.WorstMm, found), new Fact(DepositFacts.LeftMm, left), new Fact(FuelFacts.KgPerYear, 3000));

    public static VisitContext At(StoveHistory? history = null, IReadOnlyList<VisitFact>? facts = null, IReadOnlyList<PartFound>? found = null) =>
        new(history ?? Of(), Day, Day, UnitSystem.Metric, facts ?? [], found ?? []);

    public static string Words(IEnumerable<Sentence> sentences) => string.Join(" ", sentences.Select(s => s.ToString()));

    /// <summary>What a station says to an entry, which it must accept.</summary>
    public static TAnswer Ask<TEntry, TAnswer>(this Station<TEntry, TAnswer> station, TEntry entry, VisitContext? at = null)
        where TEntry : class
        where TAnswer : class, IReckoned
    {
        var errors = new EntryErrors();
        var answer = station.Answer(entry, at ?? At(), errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }
}
