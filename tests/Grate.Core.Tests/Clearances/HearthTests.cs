using Grate.Core.Clearances;

namespace Grate.Core.Tests.Clearances;

/// <summary>Hearth and clearances: handbook 08.</summary>
public class HearthTests
{
    private static HearthAnswer Ask(HearthEntry entry) => Calculation.Answered(e => HearthAnswer.To(entry, e));

    private static string Said(HearthLaid? stack) => stack is null ? "none" : $"{string.Join(" + ", stack.Layers.Select(l => $"{l.Count} {l.Id}"))}: {Math.Round(stack.ThicknessMm, 3)} mm, {Math.Round(stack.PricePerM2, 3)}";

    // Handbook 08, worked cases.
    [Fact]
    public void Worked_cases_of_the_handbook()
    {
        var layers = Ask(new([new("cement-board", 12.7, 2), new("ceramic-tile", 9)])).Resistance!;
        Assert.Equal((0.1106, 0.628, null, null), (Math.Round(layers.RM2KW, 4), Math.Round(layers.RUs, 3), layers.RequiredM2KW, layers.Ok));
        var boards = Ask(new(Required: new(RUs: 1), Offers: [new("board", "cement-board", 12.7, 14)]));
        Assert.Equal(("4 board: 50.8 mm, 56", "4 board: 50.8 mm, 56", false), (Said(boards.Stacks!.Thinnest), Said(boards.Stacks.Cheapest), boards.Resistance!.Ok));
        Assert.Equal(["maxLayers"], boards.Assumed.Select(a => a.Field));
    }

    // An inch of a material of k-factor 1 resists 1 ft² °F h/Btu: the definition of both figures; 5.678 is rounded.
    [Fact]
    public void Figures_of_either_system_say_the_same()
    {
        double Us(HearthLayer layer) => Ask(new([layer])).Resistance!.RUs;
        Assert.Equal(1, Us(new("other", 25.4, KFactorUs: 1)), 3);
        Assert.Equal(1, Us(new("other", 25.4, RPerInchUs: 1)), 3);
        Assert.Equal(1, Us(new("other", 25.4, KWMK: 0.1442)), 3);
        Assert.Equal(5.678, Us(new("other", RM2KW: 1)), 9);
        Assert.Equal(0.36 * 5.678, Us(new("still-air", 40, 2)), 9);
    }

    [Fact]
    public void Thinnest_and_cheapest_are_not_the_same_and_air_alone_is_no_hearth()
    {
        HearthOffer[] offers = [new("board", "cement-board", 12.7, 14), new("mineral", "mineral-board", 20, 31), new("air", "still-air", 25, 0)];
        var stacks = Ask(new(Required: new(RM2KW: 0.33), Offers: offers)).Stacks!;
        Assert.Equal(("1 mineral: 20 mm, 31", "3 board + 1 air: 63.1 mm, 42"), (Said(stacks.Thinnest), Said(Ask(new(Required: new(RM2KW: 0.33), Offers: [offers[0], offers[2], new("mineral", "mineral-board", 20, 43)])).Stacks!.Cheapest)));
        // Air on a board that lies there counts; on nothing, or on air, it does not.
        Assert.Equal("1 air: 25 mm, 0", Said(Ask(new([new("stone", 30)], new(0.15), Offers: offers)).Stacks!.Cheapest));
        Assert.Equal("1 board + 1 air: 37.7 mm, 14", Said(Ask(new(Required: new(0.15), Offers: offers)).Stacks!.Cheapest));
        Assert.Equal("1 board + 1 air: 37.7 mm, 14", Said(Ask(new([new("still-air")], new(0.33), Offers: offers)).Stacks!.Cheapest));
        // Nothing missing, and nothing that makes it.
        Assert.Equal(": 0 mm, 0", Said(Ask(new([new("mineral-board", 20)], new(0.3), Offers: offers)).Stacks!.Thinnest));
        Assert.Equal("none", Said(Ask(new(Required: new(5), Offers: offers)).Stacks!.Thinnest));
        Assert.Null(Ask(new(Required: new(5))).Stacks);
        Assert.Null(Ask(new(Offers: offers)).Resistance);
    }

    // Every count of every offer, one after the other.
    [Fact]
    public void No_stack_is_better()
    {
        var random = new Random(8);
        string[] materials = ["cement-board", "ceramic-tile", "mineral-board", "stone", "still-air", "brick"];
        for (var round = 0; round < 60; round++)
        {
            var offers = Enumerable.Range(0, 4).Select(i => new HearthOffer($"o{i}", materials[random.Next(6)], random.Next(1, 60), random.Next(0, 40), random.Next(3) == 0 ? random.Next(0, 3) : null)).ToArray();
            var required = random.NextDouble();
            var stacks = Ask(new(Required: new(required), MaxLayers: 5, Offers: offers)).Stacks!;
            (double, double, int)? thin = null, cheap = null;
            for (var code = 0; code < 6 * 6 * 6 * 6; code++)
            {
                int[] counts = [code % 6, code / 6 % 6, code / 36 % 6, code / 216];
                if (counts.Sum() > 5 || counts.Zip(offers).Any(c => c.First > (c.Second.MaxCount ?? (c.Second.Material == "still-air" ? 1 : 5))) || counts.Zip(offers).All(c => c.First == 0 || c.Second.Material == "still-air"))
                    continue;
                double R(HearthOffer o) => o.Material == "still-air" ? 0.18 : o.ThicknessMm!.Value / 1000 / (o.Material switch { "cement-board" => 0.25, "ceramic-tile" => 1, "mineral-board" => 0.06, "stone" => 2, _ => 0.7 });
                if (counts.Zip(offers).Sum(c => c.First * R(c.Second)) < required - 1e-9)
                    continue;
                var (mm, price, layers) = (counts.Zip(offers).Sum(c => c.First * c.Second.ThicknessMm!.Value), counts.Zip(offers).Sum(c => c.First * c.Second.PricePerM2!.Value), counts.Sum());
                thin = thin is { } t && t.CompareTo((mm, price, layers)) <= 0 ? thin : (mm, price, layers);
                cheap = cheap is { } c && c.CompareTo((price, mm, layers)) <= 0 ? cheap : (price, mm, layers);
            }
            Assert.Equal(thin, stacks.Thinnest is { } a ? (a.ThicknessMm, a.PricePerM2, a.Layers.Sum(l => l.Count)) : null);
            Assert.Equal(cheap, stacks.Cheapest is { } b ? (b.PricePerM2, b.ThicknessMm, b.Layers.Sum(l => l.Count)) : null);
        }
    }

    [Theory]
    [InlineData("stove", null, null, 457, 457, 457.0)]
    [InlineData("fireplace", 0.42, null, 406, 203, null)]
    [InlineData("fireplace", 0.56, null, 508, 305, null)]
    [InlineData("fireplace", 0.42, 600.0, 600, 203, null)]
    public void Hearth_reaches_as_far_as_its_label_or_the_table_asks(string kind, double? opening, double? labelFront, double front, double side, double? back)
    {
        var extent = Ask(new(Extent: new(kind, opening, new(labelFront), new(FrontMm: 450)))).Extent!;
        Assert.Equal((front, side, back), (extent.FrontMm, extent.SideMm, extent.BackMm));
        Assert.Equal((Math.Max(0, front - 450), null, null, front <= 450), (extent.Missing.FrontMm, extent.Missing.SideMm, extent.Missing.BackMm, extent.Ok));
    }

    [Theory]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Wall, null, null, Shield.SheetMetal, 305.0, true)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Wall, null, null, Shield.BrickSolid, 609.33, true)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Ceiling, null, null, Shield.CementBoard, 457.0, true)]
    [InlineData(ClearanceOf.SingleWallConnector, ClearanceSurface.Ceiling, null, null, Shield.SheetMetal, 457.0, false)]
    [InlineData(ClearanceOf.SingleWallConnector, ClearanceSurface.Wall, null, null, Shield.BrickVentilated, 305.0, true)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Ceiling, null, null, Shield.BrickVentilated, 914.0, false)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Wall, 600.0, null, Shield.SheetMetal, 600.0, false)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Wall, 600.0, 400.0, Shield.SheetMetal, 400.0, true)]
    [InlineData(ClearanceOf.Stove, ClearanceSurface.Wall, 200.0, 100.0, Shield.SheetMetal, 200.0, false)]
    [InlineData(ClearanceOf.DoubleWallConnector, ClearanceSurface.Wall, null, null, Shield.SheetMetal, null, false)]
    public void Shields_bring_a_stove_nearer_but_not_too_near(ClearanceOf what, ClearanceSurface surface, double? label, double? minimum, Shield shield, double? with, bool counts)
    {
        var clearance = Clearance.Of(what, surface, label, minimum, shield, 500);
        Assert.Equal((with, counts), (clearance.WithShieldMm is { } mm ? Math.Round(mm, 2) : null, clearance.ShieldCounts));
        Assert.Equal(with is null ? null : with <= 500, clearance.Ok);
    }

    [Fact]
    public void Bad_input_is_named()
    {
        var errors = new EntryErrors();
        Assert.Null(HearthAnswer.To(new([new("other", 5), new("paper"), new("brick")], new(-1), 99, [new("a", "brick", 5), new("a", "still-air", PricePerM2: 3, MaxCount: -1)],
            new("fireplace", Found: new(-1)), [new("stove", "floor", Shield: "wood")]), errors));
        Assert.Equal(["clearances[0].shield", "clearances[0].surface", "extent.found.frontMm", "extent.openingM2", "layers[0].rM2KW", "layers[1].material", "layers[2].thicknessMm", "maxLayers",
            "offers[0].pricePerM2", "offers[1].id", "offers[1].maxCount", "required.rM2KW"], errors.ByField.Keys.Order(StringComparer.Ordinal));
    }
}
