using Grate.Core.Combustor;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Firebox;

/// <summary>Stations inside the stove: handbook 04 sections 2, 3 and 5, 05 sections 1 to 3.</summary>
public class InsideStationTests
{
    private static readonly BaffleStation _baffle = new();
    private static readonly TubesStation _tubes = new();
    private static readonly AshStation _ash = new();
    private static readonly CombustorStation _combustor = new();
    private static readonly LightOffStation _lightOff = new();

    private static VisitContext At(params EarlierVisit[] earlier) => Histories.At(Histories.Of(earlier));

    private static Dictionary<string, string[]> Refused<TEntry, TAnswer>(Station<TEntry, TAnswer> station, TEntry entry)
        where TEntry : class
        where TAnswer : class, IReckoned
    {
        var errors = new EntryErrors();
        Assert.Null(station.Answer(entry, Histories.At(), errors));
        return errors.ByField;
    }

    [Fact]
    public void Baffle_keeps_its_kind_and_span_and_may_be_turned_over_with_a_date()
    {
        var first = new BaffleCheck("dense-slab", 30, 420, 3, []);
        var facts = _baffle.Facts(first, _baffle.Ask(first)).ToArray();
        var at = At(Histories.Visit(new(2025, 10, 1), facts));
        // 6 of 420 mm, in November: look again in May.
        var now = _baffle.Ask(new(DeflectionMm: 6), at);
        Assert.Equal((BaffleKind.DenseSlab, 420.0, true, Condition.Wearing), (now.Kind!.Value, now.SpanMm!.Value, now.Judged!.TurnOver, now.Parts.Single().Condition));
        Assert.Contains("look again by 20 May 2027", Histories.Words(now.Sentences), StringComparison.Ordinal);
        Assert.Contains("Turned over today; looked at again by 20 May 2027", Histories.Words(_baffle.Ask(new(DeflectionMm: 6, Turned: true), at).Sentences), StringComparison.Ordinal);
        Assert.Contains("not held to be safe", Histories.Words(_baffle.Ask(new("fibre-board", Signs: [], Turned: true)).Sentences), StringComparison.Ordinal);
        // What was not looked at decides nothing.
        Assert.Empty(_baffle.Ask(new(), at).Parts);
    }

    [Fact]
    public void Baffle_out_of_place_is_a_stop_until_it_was_looked_at_again()
    {
        var bad = new BaffleCheck("steel-plate", Signs: ["displaced"]);
        var stop = Assert.Single(_baffle.Stops(bad, _baffle.Ask(bad)));
        Assert.NotNull(Parts.All.Stop(stop.Code));
        Assert.Empty(_baffle.Passed(bad, _baffle.Ask(bad)));
        var good = new BaffleCheck("steel-plate", Signs: []);
        Assert.Empty(_baffle.Stops(good, _baffle.Ask(good)));
        Assert.Equal(stop.Code, Assert.Single(_baffle.Passed(good, _baffle.Ask(good))).Code);
        // An emptied field ends nothing.
        Assert.Empty(_baffle.Passed(new("steel-plate"), _baffle.Ask(new("steel-plate"))));
        Assert.Equal(["signs", "spanMm"], Refused(_baffle, new("stone", DeflectionMm: 4, Signs: ["bent"])).Keys.Order());
    }

    [Theory]
    [InlineData("0 0 0 0", "", Condition.Sound)]
    [InlineData("2 1 0 0", "", Condition.Sound)]
    [InlineData("5 3 1 0", "", Condition.Wearing)]
    [InlineData("0 0 0 0", "clip-missing", Condition.Wearing)]
    [InlineData("0 0 0 0", "sagging clip-missing", Condition.Spent)]
    [InlineData("0 0 0 0", "burnt-through", Condition.Spent)]
    public void Tubes_are_judged_by_their_holes_and_what_is_seen(string blocked, string signs, Condition condition)
    {
        var answer = _tubes.Ask(new(Blocked: [.. blocked.Split(' ').Select(b => (double?)int.Parse(b, System.Globalization.CultureInfo.InvariantCulture))], Signs: signs.Split(' ', StringSplitOptions.RemoveEmptyEntries)));
        Assert.Equal(condition, answer.Parts.Single().Condition);
        Assert.Equal(answer.Blocked.Sum() / 80.0, answer.BlockedShare);
    }

    [Fact]
    public void Holes_and_notch_stay_with_the_stove_and_the_air_wash_explains_the_glass()
    {
        var entry = new TubesCheck(3, 24, [1, 0, 0], [], "left", "partly");
        var answer = _tubes.Ask(entry);
        Assert.Contains("explains black glass", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        var at = At(Histories.Visit(new(2025, 10, 1), [.. _tubes.Facts(entry, answer)]));
        Assert.Equal((3, 24), (_tubes.Ask(new(), at).Tubes, _tubes.Ask(new(), at).HolesEach));
        Assert.Equal("left", at.NewestText(FireboxFacts.NotchEnd));
        Assert.Equal(["blocked", "blocked[0]"], Refused(_tubes, new(2, 20, [21, 0, 0])).Keys.Order());
        Assert.Contains("between 1 and 8", Refused(_tubes, new(9))["tubes"][0], StringComparison.Ordinal);
    }

    // 3 000 kg of hardwood at 18 % in 200 days: 15 kg a day, as in handbook 04 section 6.
    [Fact]
    public void Pan_fills_by_this_household_s_wood()
    {
        var at = At(Histories.Visit(new(2025, 10, 1), new Fact(FuelFacts.KgPerYear, 3000), new Fact(FuelFacts.MoistureWet, 0.18), new Fact(FuelFacts.Wood, null, "hardwood")));
        var answer = _ash.Ask(new(PanL: 6, DepthMm: 40), at);
        Assert.Equal((22, AshFuel.Hardwood), (answer.Reckoned!.EmptyEveryDays, answer.Fuel));
        Assert.Contains("full after 22 days; 17.2 kg of ash a year", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Null(_ash.Ask(new(), at).Reckoned);
        Assert.Contains("never goes on the garden", Histories.Words(_ash.Ask(new("coal", 30), at).Sentences), StringComparison.Ordinal);
        Assert.Equal(["depthMm", "fuel"], Refused(_ash, new("paper", -1)).Keys.Order());
    }

    private static readonly LiningStation _lining = new();

    private static LiningCheck Bricks(params (string Code, BrickMark Mark)[] bricks) => new(Bricks: bricks.ToDictionary(b => b.Code, b => (BrickMark?)b.Mark));

    // Handbook 04 section 1: keep hairlines and closed cracks; replace at 3 mm open, moved, a third gone, crumbling, missing, steel visible.
    [Theory]
    [InlineData("sound", null, null, Condition.Sound)]
    [InlineData("hairline", null, null, Condition.Sound)]
    [InlineData("cracked", null, null, Condition.Wearing)]
    [InlineData("open", 2.9, null, Condition.Wearing)]
    [InlineData("open", 3.0, null, Condition.Spent)]
    [InlineData("open", null, null, Condition.Spent)]
    [InlineData("moved", null, null, Condition.Spent)]
    [InlineData("worn", null, 10.0, Condition.Wearing)]
    [InlineData("worn", null, 11.0, Condition.Spent)]
    [InlineData("crumbling", null, null, Condition.Spent)]
    [InlineData("missing", null, null, Condition.Unsafe)]
    [InlineData("steel-visible", null, null, Condition.Unsafe)]
    public void Brick_is_kept_or_renewed_by_what_is_seen(string state, double? crack, double? lost, Condition condition)
    {
        // A third of 33 mm are 11.
        var entry = Bricks(("floor-1", new(state, crack, lost))) with { Panels = new Dictionary<string, PanelEntry?> { ["floor"] = new(480, 380, 33) } };
        var answer = _lining.Ask(entry);
        Assert.Equal((condition, condition), (answer.Panels[0].Bricks[0].Condition, answer.Parts.Single().Condition));
        Assert.Equal(condition is Condition.Spent or Condition.Unsafe ? 1 : 0, answer.Renew.Count);
        Assert.Equal(condition == Condition.Unsafe, _lining.Stops(entry, answer).Any(s => s.Where!.Single() == "floor-1"));
    }

    [Fact]
    public void Panels_are_divided_by_courses_and_stay_with_the_stove()
    {
        var entry = new LiningCheck(new Dictionary<string, PanelEntry?> { ["floor"] = new(480, 380, 32, [2, 3]), ["lip"] = new(480, 60) }, new Dictionary<string, BrickMark?> { ["floor-5"] = new("worn", LostMm: 20, Cause: "logs-thrown", Renewed: true) });
        var answer = _lining.Ask(entry);
        var floor = answer.Panels[0];
        Assert.Equal((5, 240.0, 160.0, 190.0), (floor.Bricks.Count, floor.Bricks[0].WidthMm, floor.Bricks[4].WidthMm, floor.Bricks[4].HeightMm));
        Assert.Equal(Enumerable.Range(1, answer.Panels.Sum(p => p.Bricks.Count)), answer.Panels.SelectMany(p => p.Bricks).Select(b => b.Number));
        Assert.Contains("agree gloves and placing", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        // What was renewed is sound, and its day is kept; 480 × 380 × 32 mm of dense brick at 350 °C hold a kilowatt-hour.
        Assert.Equal(Condition.Sound, floor.Bricks[4].Condition);
        Assert.Equal(0.987, floor.StoredKwh, 3);
        var at = At(Histories.Visit(new(2025, 10, 1), [.. _lining.Facts(entry, answer)]));
        var later = _lining.Ask(new(), at);
        Assert.Equal((5, true, new DateOnly(2025, 10, 1), 5), (later.Panels[0].Bricks.Count, later.Panels[0].Measured, later.Panels[0].Bricks[4].RenewedOn!.Value, later.Panels.Count));
    }

    [Fact]
    public void Lip_and_arches_are_there_where_somebody_said_so_and_stay()
    {
        static string Places(LiningCheckAnswer answer) => string.Join(' ', answer.Panels.Select(p => Word.Of(p.Place)));
        var entry = new LiningCheck(new Dictionary<string, PanelEntry?> { ["left-arch"] = new(), ["right-arch"] = new(380, 140) });
        var answer = _lining.Ask(entry);
        Assert.Equal("floor back left right left-arch right-arch", Places(answer));
        // A usual arch is as deep as the floor, and 120 mm along its curve.
        var arch = answer.Panels[4];
        Assert.Equal((answer.Panels[0].HeightMm, 120.0, false), (arch.WidthMm, arch.HeightMm, arch.Measured));
        Assert.Equal("floor back left right left-arch right-arch", Places(_lining.Ask(new(), At(Histories.Visit(new(2025, 10, 1), [.. _lining.Facts(entry, answer)])))));
        Assert.Equal("floor back left right", Places(_lining.Ask(new())));
    }

    [Fact]
    public void Bricks_are_numbered_as_they_came_out_and_so_at_the_next_visit()
    {
        static string Numbers(LiningCheckAnswer answer) => string.Join(' ', answer.Panels.SelectMany(p => p.Bricks).OrderBy(b => b.Number).Take(4).Select(b => b.Code));
        var entry = new LiningCheck(Bricks: new Dictionary<string, BrickMark?> { ["left-1"] = new("missing"), ["back-2"] = new("missing") }, Order: ["left-1", "back-2", "left-1"]);
        var answer = _lining.Ask(entry);
        Assert.Equal("left-1 back-2 floor-1 floor-2", Numbers(answer));
        Assert.Equal(Enumerable.Range(1, answer.Panels.Sum(p => p.Bricks.Count)), answer.Panels.SelectMany(p => p.Bricks).Select(b => b.Number).Order());
        Assert.StartsWith("Bricks 1, 2: missing", answer.Sentences[0].ToString(), StringComparison.Ordinal);
        var at = At(Histories.Visit(new(2025, 10, 1), [.. _lining.Facts(entry, answer)]));
        Assert.Equal("left-1 back-2 floor-1 floor-2", Numbers(_lining.Ask(new(), at)));
        Assert.Equal("floor-1 floor-2 floor-3 floor-4", Numbers(_lining.Ask(new(Order: []), at)));
        Assert.Contains("no brick “roof-1”", Refused(_lining, new(Order: ["roof-1"]))["order"][0], StringComparison.Ordinal);
    }

    [Fact]
    public void Brick_that_is_back_ends_its_stop_and_bad_linings_are_named()
    {
        var two = Bricks(("floor-1", new("missing")), ("back-1", new("steel-visible")));
        Assert.Equal("floor-1 back-1", string.Join(' ', Assert.Single(_lining.Stops(two, _lining.Ask(two))).Where!));
        var one = Bricks(("floor-1", new("missing", Renewed: true)), ("back-1", new("steel-visible")));
        Assert.Equal("back-1", string.Join(' ', Assert.Single(_lining.Stops(one, _lining.Ask(one))).Where!));
        Assert.Equal("floor-1", string.Join(' ', Assert.Single(_lining.Passed(one, _lining.Ask(one))).Where!));
        Assert.Empty(_lining.Passed(new(), _lining.Ask(new())));
        var refused = Refused(_lining, new(new Dictionary<string, PanelEntry?> { ["roof"] = new(), ["floor"] = new(10, 380, 32, [0]) }, new Dictionary<string, BrickMark?> { ["back-1"] = new("soft", 90) }));
        Assert.Equal(["panels.floor.courses[0]", "panels.floor.widthMm", "panels.roof"], refused.Keys.Order(StringComparer.Ordinal).Where(k => k.StartsWith("panels", StringComparison.Ordinal)));
        Assert.Contains("no brick “floor-99”", Refused(_lining, Bricks(("floor-99", new("sound"))))["bricks.floor-99"][0], StringComparison.Ordinal);
        Assert.Equal(["bricks.back-1.cause", "bricks.back-1.crackMm", "bricks.back-1.state"], Refused(_lining, Bricks(("back-1", new("soft", 90, Cause: "bad luck")))).Keys.Order(StringComparer.Ordinal));
    }

    private static readonly StripDownStation _stripDown = new();

    [Theory]
    [InlineData("steel", false, "flue probe, air tubes, baffle, side bricks, back bricks, floor bricks")]
    [InlineData("top-loader", true, "flue probe, combustor, baffle, side bricks, back bricks, floor bricks")]
    [InlineData("insert", false, "flue probe, air tubes, baffle, side bricks, back bricks, floor bricks")]
    [InlineData("zero-clearance", false, "flue probe, air tubes, front stones, side stones, top slab, back stones")]
    [InlineData("multi-fuel", false, "flue probe, baffle, grate, ash pan, side bricks, back bricks")]
    [InlineData("masonry-heater", false, "clean-out covers, grate")]
    [InlineData("cookstove", false, "flue probe, cooktop plates, oven path cover, grate, ash pan, side bricks")]
    public void Seven_kinds_have_a_pattern_and_its_own_entries_are_accepted(string kind, bool combustor, string parts)
    {
        var at = Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = kind, Combustor = combustor } });
        var list = _stripDown.Ask(new(), at).List;
        Assert.Equal((null, parts), (list.From, string.Join(", ", list.Items.Select(i => i.Part))));
        Assert.Equal(list.Items.Count, _stripDown.Ask(new(list.Items), at).WayBack.Count);
    }

    [Fact]
    public void Recorded_list_is_played_backwards_but_for_what_says_otherwise_and_proposed_next_time()
    {
        var entry = new StripDown([new("probe"), new("air tubes", "clips", 4, "pliers", "brittle", "notch left"), new("top slab", "lifts", GoesBack: 1), new("sides", "wedged")]);
        var answer = _stripDown.Ask(entry);
        Assert.Equal([2, 3, 1, 0], answer.WayBack);
        var later = _stripDown.Ask(new(), At(Histories.Visit(new(2024, 10, 1), new Fact("apart.00.part", null, "old order")), Histories.Visit(new(2025, 10, 1), [.. _stripDown.Facts(entry, answer)])));
        Assert.Equal(new DateOnly(2025, 10, 1), later.List.From);
        Assert.Equal(entry.Items!, later.List.Items);
        Assert.Equal(["this stove, 1 October 2025", "this stove, 1 October 2024", "as stoves of this kind usually come apart"], later.Lists.Select(l => l.Name));
    }

    [Fact]
    public void List_kept_for_the_model_is_proposed_at_every_stove_of_it_until_a_newer_one_and_the_old_can_be_followed()
    {
        static Fact[] List(string part, bool forModel) => [.. StripFacts.Of(new([new(part)], ForModel: forModel))];
        var old = new ModelList(Guid.CreateVersion7(), new(2025, 3, 1), "N. Dell", List("old order", true));
        var better = new ModelList(Guid.CreateVersion7(), new(2026, 5, 3), "T. Ash", List("rear plate", true));
        var at = Histories.At(Histories.Of(Histories.Visit(new(2025, 10, 1), List("own order", false))) with { ModelLists = [better, old] });
        var answer = _stripDown.Ask(new(), at);
        Assert.Equal(("list of this model, 3 May 2026, T. Ash", "rear plate"), (answer.List.Name, answer.List.Items.Single().Part));
        Assert.Equal("rear plate, own order, old order", string.Join(", ", answer.Lists.SkipLast(1).Select(l => l.Items.Single().Part)));
        Assert.Equal("old order", _stripDown.Ask(new(Follows: $"{old.Id}"), at).List.Items.Single().Part);
        // A stove whose own visit made the model's list has it once.
        Assert.Equal(2, _stripDown.Ask(new(), Histories.At(Histories.Of(new EarlierVisit(old.Id, old.Day, true, null, old.Facts, [])) with { ModelLists = [old] })).Lists.Count);
        Assert.Contains("list of every “Box stove, tubes and board”", Histories.Words(_stripDown.Ask(new([new("baffle")], ForModel: true), at).Sentences), StringComparison.Ordinal);
        Assert.Equal(["follows", "forModel"], Refused(_stripDown, new(Follows: "mine", ForModel: true)).Keys.Order());
    }

    [Fact]
    public void Part_that_is_off_is_a_stop_and_keeps_the_visit_from_signing_until_it_is_back_or_ordered()
    {
        var entry = new StripDown([new("baffle", Count: 2), new("combustor", Ordered: true), new("probe", Back: true)]);
        var answer = _stripDown.Ask(entry);
        var stop = Assert.Single(_stripDown.Stops(entry, answer));
        Assert.NotNull(Parts.All.Stop(stop.Code));
        Assert.Equal("baffle combustor", string.Join(' ', stop.Where!));
        Assert.Equal("probe", string.Join(' ', Assert.Single(_stripDown.Passed(entry, answer)).Where!));
        Assert.Equal("Out, and not ticked as back or as ordered: baffle. No visit is finished with a part off.", _stripDown.BlocksSigning(entry));
        Assert.Null(_stripDown.BlocksSigning(new([new("combustor", Ordered: true)])));
        Assert.Contains("and 2 clips, screws and pins as well", Histories.Words(_stripDown.Ask(new([new("baffle", Count: 2, Back: true)])).Sentences), StringComparison.Ordinal);
        Assert.Equal(["items[0].count", "items[0].fixing", "items[0].part", "items[1]"], Refused(_stripDown, new([new("", "glue", 90), null!])).Keys.Order(StringComparer.Ordinal));
        Assert.Contains("At most 40 parts; 41 were sent.", Refused(_stripDown, new([.. Enumerable.Repeat(new ApartItem("x"), 41)]))["items"], StringComparer.Ordinal);
    }

    private static readonly Stove _catalytic = Histories.Stove with { Kind = "top-loader", Combustor = true };

    // 3 600 kg a year at 1.5 kg/h are 2 400 h: three years are 7 200 h, and 3 800 h are left, a year and seven months.
    [Fact]
    public void Combustor_s_life_goes_by_the_wood_since_it_was_fitted()
    {
        var at = Histories.At(Histories.Of(Histories.Visit(new(2025, 11, 1), new Fact(FuelFacts.KgPerYear, 3600))) with { Stove = _catalytic });
        var entry = new CombustorCheck("ceramic", Dark: [.. Enumerable.Range(0, 36)], Signs: [], FittedOn: new(2023, 11, 20));
        var answer = _combustor.Ask(entry, at);
        Assert.Equal((0.5, 3.0), (answer.DarkShare, answer.Pressures![^1].ExtraNeedPa));
        Assert.Equal((7200, 3800), ((int)Math.Round(answer.Life!.Hours / 10) * 10, (int)Math.Round(answer.Life.LeftH / 10) * 10));
        Assert.Equal(new DateOnly(2028, 6, 1), new DateOnly(answer.EndOn!.Value.Year, answer.EndOn.Value.Month, 1));
        Assert.Equal(Condition.Spent, answer.Parts.Single().Condition);

        // The end stands in the due list half a year ahead; a new one starts at nothing.
        var facts = _combustor.Facts(entry, answer).ToArray();
        var history = Histories.Of(Histories.Visit(new(2026, 11, 20), facts)) with { Stove = _catalytic };
        var part = new CombustorPart();
        Assert.Empty(part.Due(history, new(2027, 11, 1)));
        Assert.Equal(answer.EndOn, Assert.Single(part.Due(history, new(2028, 3, 1))).By);
        Assert.All(facts.Where(f => f.Name is CombustorFacts.EndDay or CombustorFacts.FittedDay), f => Assert.Contains(part.DueReads, r => f.Name.StartsWith(r, StringComparison.Ordinal)));
        var renewed = _combustor.Ask(new(FittedOn: Histories.Day), Histories.At(history));
        Assert.Equal(0, renewed.Life!.Hours);
        Assert.Equal(["broken", "coatingShare", "dark", "fittedOn"], Refused(_combustor, new(CoatingShare: 2, FittedOn: new(2060, 1, 1))).Keys.Concat(Refused(_combustor, new(Dark: [72], Broken: [-1])).Keys).Order());
    }

    // What it costs more is needed more, in proportion to the fire: 3 Pa at high fire are 1.7 at normal (2 of 3.5 kg/h).
    [Fact]
    public void Draft_needed_rises_by_what_the_combustor_costs()
    {
        var clean = Histories.At(Histories.Of() with { Stove = _catalytic });
        var blocked = clean with { Facts = [new("inside", "combustor", FlueFacts.ExtraNeedPa, 3, null, new(10, 0))] };
        Assert.Equal(12, HotPlace.Of(clean).Question(new("normal"), 11).Need!.MinPa);
        Assert.Equal(12 + 3 * 2 / 3.5, HotPlace.Of(blocked).Question(new("normal"), 11).Need!.MinPa!.Value, 9);
        Assert.Equal(15, HotPlace.Of(blocked).Question(new("high"), 11).Need!.MinPa!.Value, 9);
        Assert.Contains(HotPlace.Of(blocked).Answer(new("normal", 14, 230), 11, new EntryErrors(), UnitSystem.Metric)!.Assumed, a => a.Field == "need.minPa");
    }

    // 88 % dark: the need was over the label's maximum, and the whole hot test refused on a field that the page lacks.
    [Fact]
    public void A_combustor_that_wants_more_than_the_label_allows_refuses_no_reading()
    {
        var blocked = Histories.At(Histories.Of() with { Stove = _catalytic }) with { Facts = [new("inside", "combustor", FlueFacts.ExtraNeedPa, 40, null, new(10, 0))] };
        var answer = new HotDraftStation().Ask(new HotTest([new("high", 20, 320)]), blocked);
        Assert.Equal(20, answer.Fires.Single().ReadingPa);
        var need = answer.Fires.Single().Answer.Need;
        Assert.True(need.MinPa < need.MaxPa);
        // What it costs at this stove's own high fire is asked for there, in full.
        var burn = StoveFires.Of(_catalytic, FuelFacts.Newest(blocked)).HighKgH;
        Assert.Equal(15, HotPlace.Of(blocked with { Facts = [new("inside", "combustor", FlueFacts.ExtraNeedPa, 3, null, new(10, 0))] }).Question(new("high", BurnKgH: burn), 11).Need!.MinPa!.Value, 9);
    }

    [Fact]
    public void Draft_comes_before_light_off() => Assert.Equal("hot-run hot-draft closed-air light-off surfaces", string.Join(' ', Parts.All.StationsOf(VisitSteps.HotTest, _catalytic.Features).Select(s => s.Code)));

    [Fact]
    public void Light_off_ends_by_itself_and_its_minutes_make_the_trend()
    {
        var running = _lightOff.Ask(new([new(0, 290), new(3, 300)]));
        Assert.Equal((false, 340.0), (running.Over, running.GoalC));
        var passed = new LightOffTest([new(0, 290), new(5, 345)], TopClear: true);
        Assert.True(_lightOff.Ask(passed).Over);
        Assert.Contains("top of the chimney cleared", Histories.Words(_lightOff.Ask(passed).Sentences), StringComparison.Ordinal);
        Assert.Contains("Look, the cheapest first: cells blocked, cells dead, bypass leaking, seal leaking.", Histories.Words(_lightOff.Ask(new([new(0, 290), new(11, 300)])).Sentences), StringComparison.Ordinal);
        EarlierVisit Visit(int year, double hours, double minutes) => Histories.Visit(new(year, 10, 1), new Fact(CombustorFacts.Hours, hours), new Fact(CombustorFacts.LightOffMin, minutes));
        var at = Histories.At(Histories.Of(Visit(2023, 2000, 4), Visit(2024, 4000, 5.5), Visit(2025, 6000, 7)) with { Stove = _catalytic });
        var life = _combustor.Ask(new(Hours: 6000), at).Life!;
        Assert.Equal((LifeBound.Trend, 4000.0), (life.Bound, Math.Round(life.LeftH, 6)));
        Assert.Equal(["series[0].probeC", "series[1].minute"], Refused(_lightOff, new([new(0, 5000), new(null, 300)])).Keys.Order());
    }

    [Fact]
    public void Bypass_and_thermostat_give_their_words()
    {
        Condition Bypass(params string[] signs) => new BypassStation().Ask(new(signs)).Parts.Single().Condition;
        Assert.Equal((Condition.Sound, Condition.Wearing, Condition.Spent), (Bypass(), Bypass("clip-missing"), Bypass("will-not-lock", "clip-missing")));
        Condition Thermostat(string[]? signs, double? closes, double? opens = null) => new ThermostatStation().Ask(new(signs, closes, opens)).Parts.Single().Condition;
        Assert.Equal((Condition.Sound, Condition.Sound, Condition.Wearing, Condition.Spent, Condition.Spent), (Thermostat([], null), Thermostat(null, 40, 65), Thermostat(["knob-slips"], 40), Thermostat([], 121), Thermostat(["not-closing"], null)));
        Assert.Empty(new ThermostatStation().Ask(new()).Parts);
        Assert.Equal(["closesS", "openedBy", "signs"], Refused(new ThermostatStation(), new(["melted"], 601, OpenedBy: new string('x', 81))).Keys.Order());
    }
}
