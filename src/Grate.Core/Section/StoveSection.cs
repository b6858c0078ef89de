using Grate.Core.Door;

namespace Grate.Core.Section;

/// <summary>A point of the section.</summary>
/// <param name="X">m from the stove's front, towards its back; along its front for a cookstove.</param>
/// <param name="Y">m above the floor.</param>
public sealed record SectionPoint(double X, double Y);

/// <summary>How a piece is drawn.</summary>
[JsonConverter(typeof(WordConverter<SectionLook>))]
public enum SectionLook
{
    /// <summary>Steel or iron, as a filled wall.</summary>
    Iron,

    /// <summary>Masonry around the stove or of it.</summary>
    Masonry,

    /// <summary>Brick or board.</summary>
    Brick,

    /// <summary>Glass.</summary>
    Glass,

    /// <summary>Rope or tape.</summary>
    Rope,

    /// <summary>Honeycomb.</summary>
    Comb,

    /// <summary>An empty room: the firebox, an oven, a pan.</summary>
    Room,
}

/// <summary>A piece of the section.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Look">How it is drawn.</param>
/// <param name="Corners">Its corners in order, m.</param>
/// <param name="Part">The part whose mark stands at it; null where it has none.</param>
/// <param name="Seal">The seal that it is; null where it is none.</param>
public sealed record SectionPiece(string Code, string Name, SectionLook Look, IReadOnlyList<SectionPoint> Corners, string? Part = null, SealPlace? Seal = null);

/// <summary>What flows.</summary>
[JsonConverter(typeof(WordConverter<SectionFlow>))]
public enum SectionFlow
{
    /// <summary>Air of the room.</summary>
    Room,

    /// <summary>Air from outdoors.</summary>
    Outside,

    /// <summary>Gas of the fire.</summary>
    Gas,

    /// <summary>Air past a seal.</summary>
    Leak,
}

/// <summary>A way of air or gas.</summary>
/// <param name="Flow">What flows.</param>
/// <param name="Name">Its name.</param>
/// <param name="Way">Its points in order, m.</param>
/// <param name="AirOpen">Position of the air control it needs: true open, false shut; null either.</param>
/// <param name="BypassOpen">Position of the bypass it needs; null either.</param>
/// <param name="KgH">How much, kg/h; null where it is not reckoned.</param>
public sealed record SectionWay(SectionFlow Flow, string Name, IReadOnlyList<SectionPoint> Way, bool? AirOpen = null, bool? BypassOpen = null, double? KgH = null);

/// <summary>A measure on the drawing.</summary>
/// <param name="Field">Its field in the stove's record.</param>
/// <param name="Name">Its name.</param>
/// <param name="M">As drawn, m.</param>
/// <param name="Measured">Whether somebody measured it.</param>
/// <param name="From">Where its line begins.</param>
/// <param name="To">Where its line ends.</param>
public sealed record SectionMeasure(string Field, string Name, double M, bool Measured, SectionPoint From, SectionPoint To);

/// <summary>
/// A stove cut open from front to back, a cookstove along its front: true to scale from its own measures, in sensible
/// proportion where they are not known [A].
/// </summary>
/// <param name="WidthM">Space it needs from its front on, m.</param>
/// <param name="HeightM">Space it needs from the floor, m.</param>
/// <param name="Known">Whether the whole body was measured.</param>
/// <param name="Pieces">What is cut, from back to front of the drawing.</param>
/// <param name="Ways">Ways of air and gas.</param>
/// <param name="Measures">Measures that are typed on it.</param>
/// <param name="Seals">Its seals: size, length, age.</param>
public sealed record StoveSection(double WidthM, double HeightM, bool Known, IReadOnlyList<SectionPiece> Pieces, IReadOnlyList<SectionWay> Ways,
    IReadOnlyList<SectionMeasure> Measures, IReadOnlyList<StoveSeal> Seals)
{
    /// <summary>Thickness of a firebrick.</summary>
    public static readonly Limit Brick = Limit.Practice(0.032, "m", "the usual split brick, 1¼ in");

    /// <summary>The section of the stove at a visit.</summary>
    public static StoveSection Of(VisitContext at) => new Cut(at).Section(SealsAnswer.To(new(), at, new EntryErrors())!.Seals);

    /// <summary>The measures of a stove's body: its own, and in sensible proportion what nobody measured [A].</summary>
    public static StoveMeasures Usual(Stove stove)
    {
        var (width, depth, leg) = stove.Kind switch
        {
            StoveKind.MasonryHeater => (1.1, 0.8, 0.0),
            "cookstove" => (0.95, 0.6, 0.12),
            "insert" => (0.7, 0.5, 0.02),
            "zero-clearance" => (0.85, 0.6, 0.15),
            _ => (0.62, 0.55, 0.14),
        };
        // The collar sits on top, except at a heater, whose flue leaves at its back; a body whose legs alone were measured stands on them.
        var top = stove.Kind == StoveKind.MasonryHeater ? stove.CollarHeightM + 0.5 : stove.CollarHeightM;
        var given = new StoveMeasures(width, depth, Math.Max(top, (stove.Measures?.LegM ?? leg) + 0.2), leg).With(stove.Measures ?? new());
        var body = Math.Max(0.1, given.HeightM!.Value - given.LegM!.Value);
        return given with { SillM = given.LegM + body * (stove.Features.Contains("grate") ? 0.3 : 0.16), DoorM = body * 0.5 };
    }

    private sealed class Cut
    {
        private readonly Stove _stove;
        private readonly VisitContext _at;
        private readonly StoveMeasures _m;
        private readonly List<SectionPiece> _pieces = [];
        private readonly List<SectionWay> _ways = [];
        private readonly double _long, _leg, _top, _sill, _lintel, _floor, _roof;
        private readonly double _brick = Brick.Value;

        public Cut(VisitContext at)
        {
            (_stove, _at) = (at.Stove, at);
            _m = Usual(_stove).With(_stove.Measures ?? new());
            _long = (_stove.Kind == "cookstove" ? _m.WidthM : _m.DepthM)!.Value;
            (_leg, _top) = (_m.LegM!.Value, _m.HeightM!.Value);
            // A door that was measured where the body was not must still lie in it.
            _sill = Within(_m.SillM!.Value, _leg, _top - 0.05);
            _lintel = Math.Min(_sill + _m.DoorM!.Value, _top - 0.02);
            _floor = _leg + (_top - _leg) * (Has("grate") ? 0.24 : 0.08);
            _roof = _top - 0.02;
        }

        private bool Has(string feature) => _stove.Features.Contains(feature);

        // A body may be too low for what belongs into it: then the lower end counts.
        private static double Within(double m, double low, double high) => Math.Max(low, Math.Min(m, high));

        private static SectionPoint P(double x, double y) => new(x, y);

        private static SectionPoint[] Box(double x, double y, double x2, double y2) => [P(x, y), P(x2, y), P(x2, y2), P(x, y2)];

        private void Add(string code, string name, SectionLook look, SectionPoint[] corners, string? part = null, SealPlace? seal = null) => _pieces.Add(new(code, name, look, corners, part, seal));

        private void Flow(SectionFlow flow, string name, bool? air, bool? bypass, params SectionPoint[] way) => _ways.Add(new(flow, name, way, air, bypass));

        public StoveSection Section(IReadOnlyList<StoveSeal> seals)
        {
            if (_stove.Kind is "insert" or "zero-clearance")
                Around();
            Body();
            if (_stove.Kind == StoveKind.MasonryHeater)
                Heater();
            else if (_stove.Kind == "cookstove")
                Cookstove();
            else
                Metal();
            Front();
            Below();
            var known = _stove.Measures is { } own && (_stove.Kind == "cookstove" ? own.WidthM : own.DepthM) is not null && own.HeightM is not null;
            return new(_long, _top + 0.35, known, _pieces, _ways, Measures(), seals);
        }

        private void Body()
        {
            Add("body", "body", _stove.Kind == StoveKind.MasonryHeater ? SectionLook.Masonry : SectionLook.Iron, Box(0, _leg, _long, _top));
            if (_leg > 0.03)
            {
                Add("leg-front", "leg", SectionLook.Iron, Box(0.04 * _long, 0, 0.04 * _long + 0.03, _leg));
                Add("leg-back", "leg", SectionLook.Iron, Box(0.96 * _long - 0.03, 0, 0.96 * _long, _leg));
            }
        }

        // What an insert and a built-in fireplace stand in.
        private void Around()
        {
            Add("around", _stove.Kind == "insert" ? "masonry fireplace" : "casing and chase", SectionLook.Masonry,
                [P(0.02, 0), P(_long + 0.14, 0), P(_long + 0.14, _top + 0.3), P(0.5 * _long + 0.14, _top + 0.3), P(0.5 * _long + 0.14, _top + 0.06), P(_long + 0.05, _top + 0.06), P(_long + 0.05, _leg), P(0.02, _leg)]);
        }

        // Fire, bricks, board, and the way up: a steel stove, an insert, a built-in fireplace, with tubes or a combustor.
        private void Metal()
        {
            var (collar, wall, back) = (_long * 0.62, 0.012, _long - 0.012);
            Add("firebox", "firebox", SectionLook.Room, Box(wall, _leg + wall, back, _roof));
            Add("bricks-floor", _stove.Kind == "zero-clearance" ? "stones, floor" : "bricks, floor", SectionLook.Brick, Box(wall, _floor - _brick, back, _floor), "bricks");
            var board = _floor + (_roof - _floor) * 0.74;
            Add("bricks-back", _stove.Kind == "zero-clearance" ? "stones, back" : "bricks, back", SectionLook.Brick, Box(back - _brick, _floor, back, board), "bricks");
            var (gap, inner) = (wall + 0.16 * _long, back - _brick);
            if (Has("combustor"))
            {
                Add("baffle", "baffle", SectionLook.Brick, [P(gap, board + 0.02), P(0.72 * _long, board), P(0.72 * _long, board + 0.025), P(gap, board + 0.045)], "baffle");
                var (from, to) = (gap + 0.05 * _long, gap + 0.3 * _long);
                Catalyst(from, board + 0.046, to, Math.Max(board + 0.09, _roof - 0.02), Box(0.74 * _long, board, inner, board + 0.015));
                Flow(SectionFlow.Gas, "gas through the combustor", null, false, P(_long * 0.5, _floor + 0.08), P(gap - 0.05 * _long, board - 0.02), P(gap - 0.03 * _long, board + 0.07), P(from, (board + _roof) / 2 + 0.03), P(to, (board + _roof) / 2 + 0.03), P(collar, _roof - 0.01), P(collar, _top + 0.3));
                Flow(SectionFlow.Gas, "gas by the bypass, the short way", null, true, P(_long * 0.5, _floor + 0.08), P(0.84 * _long, board - 0.05), P(0.84 * _long, board + 0.04), P(collar, _roof - 0.01), P(collar, _top + 0.3));
                Add("thermostat", "thermostat", SectionLook.Iron, Box(_long, _leg + 0.08, _long + 0.05, _leg + 0.15), "controls");
            }
            else
            {
                Add("baffle", "baffle", SectionLook.Brick, [P(gap, board + 0.02), P(inner, board), P(inner, board + 0.025), P(gap, board + 0.045)], "baffle");
                Flow(SectionFlow.Gas, "gas round the baffle", null, null, P(_long * 0.5, _floor + 0.08), P(gap, board - 0.04), P(wall + 0.08 * _long, board + 0.03), P(gap + 0.05, (board + _roof) / 2 + 0.03), P(collar, _roof - 0.01), P(collar, _top + 0.3));
            }
            if (Has("tubes"))
            {
                for (var i = 0; i < 4; i++)
                    Add($"tube-{i + 1}", $"air tube {i + 1}", SectionLook.Iron, Box(gap + 0.03 + i * (inner - gap - 0.09) / 3, board - 0.045, gap + 0.055 + i * (inner - gap - 0.09) / 3, board - 0.02), "tubes");
                Flow(Supply, "second air, through the tubes", null, null, P(_long - 0.03, _leg + 0.03), P(back - _brick / 2, _floor), P(back - _brick / 2, board - 0.03), P(gap + 0.04, board - 0.033));
            }
            if (Has("lid"))
            {
                Add("lid", "loading lid", SectionLook.Iron, Box(0.12 * _long, _top, 0.46 * _long, _top + 0.02));
                Add("lid-rope", "rope of the lid", SectionLook.Rope, Box(0.12 * _long, _top - 0.008, 0.46 * _long, _top), "seals", SealPlace.Lid);
            }
            Fire(wall + 0.12 * _long, inner - 0.05);
            Collar(collar);
        }

        private void Heater()
        {
            var (wall, part) = (0.12, 0.56 * _long);
            Add("firebox", "firebox", SectionLook.Room, Box(wall, _floor, part - 0.06, _top - 0.3));
            Add("throat", "throat", SectionLook.Room, Box(wall + 0.05, _top - 0.3, _long - 0.08, _top - 0.1));
            Add("channel", "falling channel", SectionLook.Room, Box(part, _leg + 0.08, _long - 0.08, _top - 0.3), "channels");
            var collar = Within(_stove.CollarHeightM, _leg + 0.15, _top - 0.4);
            Add("collar", "outlet", SectionLook.Iron, Box(_long - 0.08, collar - 0.08, _long + 0.12, collar + 0.08), "connector");
            Catalyst(wall + 0.02, _top - 0.36, part - 0.08, _top - 0.3, Box(part - 0.08, _top - 0.31, part - 0.06, _top - 0.3));
            Add("shutoff", "shut-off", SectionLook.Iron, Box(_long + 0.04, collar - 0.08, _long + 0.05, collar + 0.08), "damper");
            Flow(SectionFlow.Gas, "gas up, over and down the channel", null, null, P(0.3 * _long, _floor + 0.1), P(0.3 * _long, _top - 0.2), P((part + _long) / 2, _top - 0.2), P((part + _long) / 2, collar), P(_long + 0.3, collar));
            Fire(wall + 0.04, part - 0.1);
        }

        private void Cookstove()
        {
            var (fire, oven, end) = (0.34 * _long, 0.42 * _long, 0.92 * _long);
            Add("inside", "gas space", SectionLook.Room, Box(0.015, _leg + 0.03, _long - 0.015, _roof));
            Add("bricks-left", "bricks", SectionLook.Brick, Box(0.015, _floor, 0.015 + _brick, _roof - 0.12), "bricks");
            Add("bricks-right", "bricks", SectionLook.Brick, Box(fire - _brick, _floor, fire, _roof - 0.12), "bricks");
            Add("oven", "oven", SectionLook.Iron, Box(oven, _leg + 0.1, end, _roof - 0.07), "oven-path");
            Add("oven-room", "oven", SectionLook.Room, Box(oven + 0.012, _leg + 0.112, end - 0.012, _roof - 0.082));
            Add("plates", "cooktop plates", SectionLook.Iron, Box(0.08 * _long, _top, 0.7 * _long, _top + 0.012));
            Add("plates-rope", "rope of the plates", SectionLook.Rope, Box(0.08 * _long, _top - 0.006, 0.7 * _long, _top), "seals", SealPlace.Plates);
            // It rises behind, between fire and oven.
            var collar = 0.38 * _long;
            Flow(SectionFlow.Gas, "gas round the oven", null, false, P(0.18 * _long, _floor + 0.06), P(0.2 * _long, _roof - 0.04), P(_long * 0.95, _roof - 0.035), P(_long * 0.955, _leg + 0.065), P(collar, _leg + 0.065), P(collar, _top + 0.3));
            Flow(SectionFlow.Gas, "gas straight up, flap open", null, true, P(0.18 * _long, _floor + 0.06), P(0.2 * _long, _roof - 0.05), P(collar, _roof - 0.03), P(collar, _top + 0.3));
            Catalyst(0.2 * _long, _roof - 0.13, fire - _brick - 0.01, _roof - 0.075, Box(collar - 0.03, _roof - 0.014, collar + 0.03, _roof - 0.006));
            Add("flap", "flap for lighting", SectionLook.Iron, Box(collar - 0.06, _roof - 0.005, collar + 0.06, _roof + 0.005), "damper");
            Fire(0.015 + _brick + 0.02, fire - _brick - 0.02);
            Collar(collar);
        }

        private void Catalyst(double from, double low, double to, double high, SectionPoint[] bypass)
        {
            if (!Has("combustor"))
                return;
            Add("combustor", "combustor", SectionLook.Comb, Box(from, low + 0.009, to, high), "combustor");
            Add("combustor-seat", "combustor's seat", SectionLook.Rope, Box(from, low, to, low + 0.009), "seals", SealPlace.Combustor);
            Add("bypass", "bypass plate", SectionLook.Iron, bypass, "seals", SealPlace.Bypass);
        }

        private void Fire(double from, double to)
        {
            if (Has("grate"))
            {
                Add("grate", "grate", SectionLook.Iron, Box(from - 0.02, _floor - 0.02, to + 0.02, _floor), "grate");
                Add("pan", "ash pan", SectionLook.Room, Box(from, _leg + 0.03, to, _leg + (_floor - _leg) * 0.5));
            }
        }

        private void Collar(double x)
        {
            var half = (_at.Flue.Flue.Segments is { Count: > 0 } segments ? segments[0].Shape?.DiameterM ?? 0.15 : 0.15) / 2;
            Add("collar", "collar and connector", SectionLook.Iron, Box(x - half, _top, x - half + 0.012, _top + 0.32), "connector");
            Add("collar-far", "collar and connector", SectionLook.Iron, Box(x + half - 0.012, _top, x + half, _top + 0.32));
            if (Has("probe"))
                Add("probe", "flue probe", SectionLook.Iron, Box(x - half * 0.1, _top + 0.2, x + half + 0.06, _top + 0.212), "probe");
        }

        private SectionFlow Supply => Has("duct") ? SectionFlow.Outside : SectionFlow.Room;

        private void Front()
        {
            Add("door", "door", SectionLook.Iron, Box(-0.03, _sill, -0.008, _lintel), "latch");
            if (Has("glass"))
                Add("glass", "glass", SectionLook.Glass, Box(-0.024, _sill + 0.04, -0.014, _lintel - 0.04), "glass", SealPlace.Glass);
            Add("rope-top", "door rope", SectionLook.Rope, Box(-0.008, _lintel - 0.016, 0.004, _lintel - 0.002), "door-rope", SealPlace.Door);
            Add("rope-bottom", "door rope", SectionLook.Rope, Box(-0.008, _sill + 0.002, 0.004, _sill + 0.016), "door-rope", SealPlace.Door);
            if (Has("grate"))
            {
                Add("ash-door", "ash door", SectionLook.Iron, Box(-0.03, _leg + 0.02, -0.008, Math.Max(_leg + 0.05, Math.Min(_sill, _floor) - 0.02)), "ash-door");
                Add("ash-rope", "rope of the ash door", SectionLook.Rope, Box(-0.008, _leg + 0.022, 0.004, _leg + 0.036), "ash-door", SealPlace.AshDoor);
            }
            if (Has("glass") && _stove.Kind != StoveKind.MasonryHeater)
                Flow(Supply, "air wash, down the glass", true, null, P(-0.12, _lintel + 0.03), P(0.03, _lintel + 0.02), P(0.03, _sill + 0.06), P(0.14 * _long, _floor + 0.04));
            Leak(SealPlace.Door, "past the door's rope", P(-0.16, _sill - 0.02), P(0, _sill + 0.009), P(0.1 * _long + 0.03, _sill + 0.05));
            Leak(SealPlace.AshDoor, "past the ash door's rope", P(-0.16, _leg), P(0, _leg + 0.029), P(0.1 * _long + 0.03, _leg + 0.05));
            Leak(SealPlace.Lid, "past the lid's rope", P(0.1 * _long, _top + 0.1), P(0.14 * _long, _top), P(0.2 * _long, _top - 0.06));
        }

        // As it was found, even where no draft draws it now.
        private void Leak(SealPlace place, string name, params SectionPoint[] way)
        {
            if (_at.NewestNumber(DoorFacts.LeakKgH(place)) is { } leak && leak > 0)
                _ways.Add(new(SectionFlow.Leak, name, way, null, null, leak));
        }

        private void Below()
        {
            Add("intake", "air intake", SectionLook.Iron, Has("thermostat") ? Box(_long, _leg + 0.02, _long + 0.05, _leg + 0.06) : Box(-0.05, _leg - 0.012, 0.06, _leg), "intake");
            if (Has("duct"))
                Add("duct", "outside duct", SectionLook.Room, Box(_long, _leg + 0.02, _long + 0.3, _leg + 0.1), "duct");
            if (Has("blower"))
                Add("blower", "blower", SectionLook.Iron, Box(0.02, Math.Max(0, _leg - 0.09), 0.14, Math.Max(0.012, _leg - 0.014)));
            var from = Has("duct") ? P(_long + 0.3, _leg + 0.06) : Has("thermostat") ? P(_long + 0.16, _leg + 0.04) : P(-0.16, _leg - 0.02);
            var fire = _stove.Kind switch { "cookstove" => 0.18, StoveKind.MasonryHeater => 0.3, _ => 0.5 } * _long;
            // Under the grate it comes up through the fire; without one it comes in at the front, over the floor's edge.
            if (Has("grate"))
                Flow(Supply, "first air, under the grate", true, null, from, P(fire, _leg + 0.03), P(fire, _floor + 0.03));
            else
                Flow(Supply, "first air, in front of the fire", true, null, from, P(0.05, _leg + 0.02), P(0.05, _floor + 0.025), P(0.7 * fire, _floor + 0.025));
        }

        private IReadOnlyList<SectionMeasure> Measures()
        {
            var own = _stove.Measures ?? new();
            var cook = _stove.Kind == "cookstove";
            return [.. new SectionMeasure[]
            {
                cook ? new("widthM", "Width", _m.WidthM!.Value, own.WidthM is not null, P(0, -0.05), P(_long, -0.05)) : new("depthM", "Depth", _m.DepthM!.Value, own.DepthM is not null, P(0, -0.05), P(_long, -0.05)),
                new("heightM", "Top of the body", _top, own.HeightM is not null, P(_long + 0.1, 0), P(_long + 0.1, _top)),
                new("legM", "Underside", _leg, own.LegM is not null, P(_long + 0.05, 0), P(_long + 0.05, _leg)),
                new("sillM", "Lower edge of the door", _sill, own.SillM is not null, P(-0.1, 0), P(-0.1, _sill)),
                new("doorM", "Height of the door", _lintel - _sill, own.DoorM is not null, P(-0.1, _sill), P(-0.1, _lintel)),
            }.Where(m => m.Field != "legM" || _stove.Kind != StoveKind.MasonryHeater)];
        }
    }
}
