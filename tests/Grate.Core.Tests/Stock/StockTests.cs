using Grate.Core.Door;
using Grate.Core.Stock;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;
using Grate.Solvers;

namespace Grate.Core.Tests.Stock;

/// <summary>Stock of rope, tape and cement, and the cutting plan of handbook 03 section 4.</summary>
public class StockTests
{
    private static readonly StockPiece _piece = new(Guid.CreateVersion7(), Guid.NewGuid(), StockKind.Rope, 12, 1.10, 3);

    private static string Refused(StockChange change, StockPiece? piece = null)
    {
        var errors = new EntryErrors();
        Assert.Null((piece ?? _piece).After(change, errors));
        return string.Join(" ", errors.ByField.SelectMany(e => e.Value));
    }

    private static StockChange Change(string move, double? amount = null, string? note = null, Guid? van = null) => new(Guid.CreateVersion7(), 3, move, amount, note, van);

    [Fact]
    public void Piece_gets_shorter_by_what_is_used_and_is_what_was_counted()
    {
        var errors = new EntryErrors();
        Assert.Equal(_piece with { Amount = 0.36, Version = 4 }, _piece.After(Change("used", 0.74), errors));
        Assert.Equal(_piece with { Amount = 0, Version = 4 }, _piece.After(Change("used", 1.10), errors));
        Assert.Equal(_piece with { Amount = 2, Version = 4 }, _piece.After(Change("counted", 2), errors));
        Assert.Equal(_piece with { Amount = 0, Version = 4 }, _piece.After(Change("corrected", 0, "burnt in the van"), errors));
        Assert.Equal(_piece with { VanId = null, Version = 4 }, _piece.After(Change("moved"), errors));
        Assert.False(errors.Any);
    }

    [Fact]
    public void What_cannot_be_is_refused_in_a_sentence()
    {
        Assert.Equal("Only 1.10 m are left of it.", Refused(Change("used", 1.2)));
        Assert.Contains("Length of the piece must lie between 0.00 and 100.00 m", Refused(Change("counted", -1)), StringComparison.Ordinal);
        Assert.Contains("Note is missing", Refused(Change("corrected", 1)), StringComparison.Ordinal);
        Assert.Contains("lies there already", Refused(Change("moved", van: _piece.VanId)), StringComparison.Ordinal);
        Assert.Contains("Tubes of cement is missing", Refused(Change("used"), _piece with { Kind = StockKind.Cement, SizeMm = null }), StringComparison.Ordinal);
        Assert.Contains("one of added, used, counted", Refused(Change("eaten", 1)), StringComparison.Ordinal);
        Assert.Contains("used, counted, corrected or moved", Refused(Change("spoilt", 1)), StringComparison.Ordinal);
        var errors = new EntryErrors();
        Assert.Null(StockPiece.New(Guid.CreateVersion7(), null, "rope", 80, 0, null, null, errors));
        Assert.Equal(["amount", "sizeMm"], errors.ByField.Keys.Order());
        Assert.Contains("between 3 and 30 mm", errors.ByField["sizeMm"][0], StringComparison.Ordinal);
    }

    private static readonly Guid _visit = Guid.CreateVersion7();

    private static PlannedSeal Seal(SealPlace place, double? size, double? length, string house = "Varga", bool cut = false, StockKind kind = StockKind.Rope, bool cement = false, Guid? visit = null) =>
        new(visit ?? _visit, place, new(2026, 11, 27), house, Word.Said(place), kind, size, length, cement, "spent", cut);

    private static CuttingPlan Plan(IReadOnlyList<PlannedSeal> seals, IReadOnlyList<StockPiece> pieces, IReadOnlyList<StockOffer> offers)
    {
        var errors = new EntryErrors();
        var plan = CuttingPlan.Of(seals, pieces, offers, UnitSystem.Metric, errors, new CutSolver());
        Assert.False(errors.Any);
        return plan!;
    }

    private static StockOffer Offer(string name, double size, double length, double price, StockKind kind = StockKind.Rope) => new(Guid.CreateVersion7(), name, kind, size, length, price);

    // Handbook 03 section 6, last case: cost 40, waste 0.71 m, the 1.10 m in the van untouched.
    [Fact]
    public void Worked_case_is_planned_and_said_in_words()
    {
        var plan = Plan([Seal(SealPlace.Door, 12, 1.78), Seal(SealPlace.AshDoor, 12, 0.74), Seal(SealPlace.Bypass, 12, 1.02), Seal(SealPlace.Lid, 8, 1.45)],
            [new(Guid.CreateVersion7(), Guid.NewGuid(), StockKind.Rope, 12, 1.10, 1)], [Offer("kit of 1.8 m", 12, 1.8, 14), Offer("kit of 2.5 m", 12, 2.5, 18), Offer("kit 8 mm of 2.1 m", 8, 2.1, 12)]);
        Assert.Equal((40, 0.71, true), (plan.Cost, Math.Round(plan.Cuts.Sum(c => c.LeftM), 9), plan.Proven));
        Assert.All(plan.Cuts, c => Assert.Null(c.PieceId));
        Assert.Equal("To buy: 2 × kit of 1.8 m, 1 × kit 8 mm of 2.1 m; 40.00 in all.", plan.Sentences[0].ToString());
        Assert.Contains(plan.Cuts, c => c.Sentence.ToString() == "From kit of 1.8 m: Ash door 0.74 m, then Bypass plate 1.02 m; 0.04 m left.");
    }

    [Fact]
    public void Rope_and_tape_of_one_size_are_never_mixed_and_what_is_cut_is_not_cut_again()
    {
        var van = Guid.NewGuid();
        StockPiece[] pieces = [new(Guid.CreateVersion7(), van, StockKind.Rope, 10, 5, 1), new(Guid.CreateVersion7(), van, StockKind.Tape, 10, 1, 1), new(Guid.CreateVersion7(), van, StockKind.Cement, null, 1, 1)];
        var plan = Plan([Seal(SealPlace.Glass, 10, 1.4, kind: StockKind.Tape), Seal(SealPlace.Door, 10, 1.5, cement: true), Seal(SealPlace.AshDoor, 10, 0.8, cut: true)], pieces, []);
        var cut = Assert.Single(plan.Cuts);
        Assert.Equal((pieces[0].Id, "From 10 mm rope, 5.00 m, in the van: Door 1.50 m; 3.50 m left."), (cut.PieceId, cut.Sentence.ToString()));
        Assert.Equal("No piece is long enough, here or to be bought: Glass, Varga.", plan.Sentences[0].ToString());
        Assert.Contains("Cement goes under one of them; 1 tube is there.", plan.Sentences.Select(s => s.ToString()));
        Assert.Equal("Every seal that is due here is cut.", Plan([Seal(SealPlace.Door, 10, 1.5, cut: true)], pieces, []).Sentences.Single().ToString());
        Assert.Equal("No seal is due here.", Plan([], pieces, []).Sentences.Single().ToString());
    }

    [Fact]
    public void What_is_not_measured_is_named_and_nothing_is_planned_for_it()
    {
        var plan = Plan([Seal(SealPlace.Door, null, 1.5), Seal(SealPlace.Door, 12, 1.2, "Ranft", visit: Guid.CreateVersion7())], [_piece with { Amount = 3, VanId = null }], []);
        Assert.Equal("Everything can be cut from what is there. Not measured yet, take all sizes: Door, Varga.", Histories.Words(plan.Sentences));
        Assert.Equal("From 12 mm rope, 3.00 m, in the store: Door, Ranft 1.20 m; 1.80 m left.", plan.Cuts.Single().Sentence.ToString());
    }

    private static readonly SealsStation _seals = new();

    private static VisitContext After(SealsRecord record, Stove? stove = null, params PartFound[] found)
    {
        var at = Histories.At(Histories.Of() with { Stove = stove ?? Histories.Stove }, found: found);
        return at with { Facts = [.. _seals.Facts(record, _seals.Ask(record, at)).Select(f => new VisitFact("back-together", "seals", f.Name, f.Value, f.Word, new(10, 0)))] };
    }

    [Fact]
    public void Seal_is_due_by_its_mark_by_its_age_or_once_the_old_one_is_out()
    {
        SealsRecord Record(SealPlace place, SealRecord seal) => new(new Dictionary<string, SealRecord?> { [Word.Of(place)] = seal });
        Assert.Empty(SealNeed.Of(After(new())));
        // A channel that is only measured is not due.
        Assert.Empty(SealNeed.Of(After(Record(SealPlace.Door, new(10, 6, LineM: 1.72)))));
        var worn = Assert.Single(SealNeed.Of(After(Record(SealPlace.Door, new(10, 6, LineM: 1.72)), found: new PartFound("cold-checks", "door-rope", Condition.Wearing))));
        Assert.Equal((12.0, 1.779, "wearing"), (worn.SizeMm, Math.Round(worn.LengthM!.Value, 3), worn.Why));
        var tape = Assert.Single(SealNeed.Of(After(Record(SealPlace.Glass, new(ManualMm: 10, LineM: 1.3, Done: ["off", "bare"])))));
        Assert.Equal((SealKind.Tape, 10.0, "the old one is out"), (tape.Seal.Kind, tape.SizeMm, tape.Why));
        Assert.Empty(SealNeed.Of(After(Record(SealPlace.Door, new(10, 6, LineM: 1.72, Done: ["off", "bare", "dry-laid", "laid", "trimmed", "refitted"])), found: new PartFound("cold-checks", "door-rope", Condition.Spent))));
        // A pane that fogs keeps its tape; one that moves does not.
        Assert.Empty(SealNeed.Of(After(new(), found: new PartFound("cold-checks", "glass", Condition.Wearing))));
        Assert.Equal(SealPlace.Glass, Assert.Single(SealNeed.Of(After(new(), found: new PartFound("cold-checks", "glass", Condition.Spent)))).Seal.Place);
    }

    [Fact]
    public void Rope_fitted_long_ago_is_cut_as_it_was_then()
    {
        var record = new SealsRecord(new Dictionary<string, SealRecord?> { ["door"] = new(ManualMm: 14, LineM: 2, Done: ["off", "bare", "dry-laid", "laid", "trimmed", "refitted"]) });
        var facts = _seals.Facts(record, _seals.Ask(record)).Where(f => !f.Name.EndsWith("line-m", StringComparison.Ordinal) && !f.Name.EndsWith("manual-mm", StringComparison.Ordinal)).ToArray();
        var need = Assert.Single(SealNeed.Of(Histories.At(Histories.Of(Histories.Visit(new(2019, 10, 12), facts)))));
        Assert.Equal((14.0, Rope.NeedM(2), "fitted in 2019"), (need.SizeMm, need.LengthM, need.Why));
    }
}
