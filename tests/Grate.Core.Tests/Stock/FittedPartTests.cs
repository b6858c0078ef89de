using Grate.Core.Stock;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Stock;

/// <summary>Parts on stoves: what is refused, and how far they are through their lives. Dates worked by hand.</summary>
public class FittedPartTests
{
    private static readonly DateOnly _today = new(2026, 11, 1);

    private static readonly FittedEntry _rope = new(Guid.CreateVersion7(), "rope", " door rope 12 mm ", " R-118 ", new(2024, 11, 1), new(2026, 11, 1));

    [Fact]
    public void A_part_is_taken_as_entered()
    {
        var part = Calculation.Answered(e => FittedPart.New(_rope, _today, e));
        Assert.Equal((StockKind.Rope, "door rope 12 mm", "R-118", (DateOnly?)null), (part.Kind, part.Name, part.Batch, part.GoneOn));
    }

    [Fact]
    public void What_cannot_be_is_refused_by_its_field()
    {
        string[] Refused(FittedEntry entry)
        {
            var errors = new EntryErrors();
            Assert.Null(FittedPart.New(entry, _today, errors));
            return [.. errors.ByField.Keys];
        }
        Assert.Equal(["fittedOn"], Refused(_rope with { FittedOn = _today.AddDays(1) }));
        Assert.Equal(["fittedOn"], Refused(_rope with { FittedOn = null }));
        Assert.Equal(["warrantyUntil"], Refused(_rope with { WarrantyUntil = new(2024, 10, 31) }));
        Assert.Equal(["batch", "kind", "name"], Refused(_rope with { Kind = "string", Name = " ", Batch = new string('x', 61) }).Order());
    }

    [Fact]
    public void A_life_is_the_usual_one_until_the_firm_knows_better()
    {
        var usual = LifeBar.Of(StockKind.Rope, "door rope", new(2024, 11, 1), new(2026, 11, 1), "door-rope", null, _today);
        Assert.Equal((new DateOnly(2028, 11, 1), 730.0 / 1461), (usual.EndsOn!.Value, usual.Share!.Value));
        Assert.Equal("door rope: 2.0 years old, of a usual life, to 1 Nov 2028; under warranty until 1 Nov 2026.", usual.Sentence.ToString());
        var learned = LifeBar.Of(StockKind.Combustor, "combustor", new(2020, 11, 1), new(2025, 10, 31), "combustor", new(4, 5), _today);
        Assert.True(learned.Share > 1);
        Assert.Equal("combustor: 6.0 years old, past what half of the firm's last, to 1 Nov 2025; its warranty ended on 31 Oct 2025.", learned.Sentence.ToString());
        // A combustor whose hours were reckoned ends by them.
        var hours = LifeBar.Of(StockKind.Combustor, "combustor", new(2024, 11, 1), null, "combustor", new(4, 5), _today, new(2028, 11, 1));
        Assert.Equal((new DateOnly(2028, 11, 1), "combustor: 2.0 years old, of its life by hours, to 1 Nov 2028."), (hours.EndsOn, hours.Sentence.ToString()));
        // Nobody knows how long a baffle lasts: its age alone.
        var baffle = LifeBar.Of(StockKind.Baffle, "baffle", new(2025, 11, 1), null, "", null, _today);
        Assert.Equal((null, null, "baffle: 1.0 years old."), (baffle.EndsOn, baffle.Share, baffle.Sentence.ToString()));
        Assert.Equal(0, LifeBar.Of(StockKind.Tape, "tape", _today, null, "", null, _today).Share);
    }
}
