using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Door;

/// <summary>A strip as entered.</summary>
/// <param name="Place">hinge, latch, top, bottom or a corner such as hinge-top.</param>
/// <param name="AtM">Way along the perimeter, m, 0 to the perimeter.</param>
/// <param name="Grade">0 to 3.</param>
public sealed record StripPointEntry([property: Words(typeof(StripPlace))] string? Place = null, double? AtM = null, double? Grade = null);

/// <summary>A rope's channel as entered.</summary>
/// <param name="WidthMm">Width, mm, 2..40.</param>
/// <param name="DepthMm">Depth, mm, 0..40.</param>
/// <param name="CentreLineM">Centre line, m, 0.05..12.</param>
/// <param name="ManualSizeMm">Size by the manual, mm, 3..30.</param>
/// <param name="ManualCement">Cement by the manual.</param>
public sealed record ChannelEntry(double? WidthMm = null, double? DepthMm = null, double? CentreLineM = null, double? ManualSizeMm = null, bool? ManualCement = null);

/// <summary>The question of POST /api/calculations/door.</summary>
/// <param name="PerimeterM">Way round the door, m, 0.2..12; needed with points.</param>
/// <param name="Points">Strips pulled, in any order.</param>
/// <param name="Rope">springy, flattened or hard; default springy.</param>
/// <param name="LatchAtEnd">Whether the latch cannot be drawn in further; default false.</param>
/// <param name="DraftPa">Draft, Pa; default 12.</param>
/// <param name="RoomC">Room, °C; default 20.</param>
/// <param name="AltitudeM">Altitude, m; default 0.</param>
/// <param name="StationPressurePa">Barometer, Pa; replaces the altitude.</param>
/// <param name="Fire">The fire at low burn; default the handbook's.</param>
/// <param name="ClosedAir">The closed-air test; where it does not say so, the air closes fully.</param>
/// <param name="Channel">The rope's channel.</param>
public sealed record DoorEntry(
    double? PerimeterM = null, IReadOnlyList<StripPointEntry>? Points = null, [property: Words(typeof(RopeState))] string? Rope = null, bool? LatchAtEnd = null,
    double? DraftPa = null, double? RoomC = null, double? AltitudeM = null, double? StationPressurePa = null, FireEntry? Fire = null,
    ClosedAirTest? ClosedAir = null, ChannelEntry? Channel = null);

/// <summary>What a strip test comes to.</summary>
/// <param name="L0M">Length at grade 0, m.</param>
/// <param name="L1M">Length at grade 1, m.</param>
/// <param name="LeakingShare">Leaking share of the perimeter.</param>
/// <param name="LeakAreaM2">Equivalent leakage area, m².</param>
/// <param name="LeakKgH">Air past the rope, kg/h.</param>
/// <param name="NeedKgH">Air of the fire at low burn, kg/h.</param>
/// <param name="ShareOfNeed">One over the other.</param>
/// <param name="Verdict">Verdict by the worst grade.</param>
/// <param name="Readings">What the map says.</param>
/// <param name="Missing">Sides with fewer than two points, corners without one.</param>
public sealed record StripAnswer(double L0M, double L1M, double LeakingShare, double LeakAreaM2, double LeakKgH, double NeedKgH, double ShareOfNeed,
    StripVerdict Verdict, IReadOnlyList<StripReading> Readings, IReadOnlyList<StripPlace> Missing)
{
    /// <summary>The answer of a map.</summary>
    /// <param name="map">The map.</param>
    /// <param name="rope">State of the rope.</param>
    /// <param name="latchAtEnd">Whether the latch is at its end.</param>
    /// <param name="draftPa">Draft, Pa.</param>
    /// <param name="roomKgM3">Density of the room's air, kg/m³.</param>
    /// <param name="needKgH">Air of the low fire, kg/h.</param>
    public static StripAnswer Of(StripMap map, RopeState rope, bool latchAtEnd, double draftPa, double roomKgM3, double needKgH)
    {
        var leak = map.LeakKgH(draftPa, roomKgM3);
        return new(map.L0M, map.L1M, map.LeakingShare, map.LeakAreaM2, leak, needKgH, leak / needKgH, map.Verdict, map.Readings(rope, latchAtEnd), map.Missing);
    }
}

/// <summary>What a closed-air test comes to.</summary>
/// <param name="Verdict">The verdict; null where the flames were not watched.</param>
/// <param name="LookAtIntake">Whether the intake is to be looked at.</param>
public sealed record ClosedAirResult(ClosedAirVerdict? Verdict, bool LookAtIntake);

/// <summary>The rope for a channel.</summary>
/// <param name="SizeMm">Diameter, mm.</param>
/// <param name="ProudMm">How far it stands proud, mm.</param>
/// <param name="Advice">How the size was found.</param>
/// <param name="NeedM">Length to cut, m; null without a centre line.</param>
/// <param name="Cement">Cement under it.</param>
public sealed record RopeAnswer(double? SizeMm, double? ProudMm, RopeAdvice? Advice, double? NeedM, RopeCement? Cement);

/// <summary>The answer of POST /api/calculations/door (handbook 03 sections 1 to 3).</summary>
/// <param name="Strip">The strip test; null without points.</param>
/// <param name="ClosedAir">The closed-air test; null where none was sent.</param>
/// <param name="Rope">The rope; null without a channel.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record DoorAnswer(StripAnswer? Strip, ClosedAirResult? ClosedAir, RopeAnswer? Rope, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Most strips of a test.</summary>
    public const int MostPoints = 200;

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static DoorAnswer? To(DoorEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        var strip = ReadStrip(entry, errors, assumed);
        var closed = ReadClosedAir(entry.ClosedAir, errors, assumed);
        var channel = entry.Channel;
        errors.Check("channel.widthMm", channel?.WidthMm, DoorRanges.ChannelWidth);
        errors.Check("channel.depthMm", channel?.DepthMm, DoorRanges.ChannelDepth);
        errors.Check("channel.centreLineM", channel?.CentreLineM, DoorRanges.CentreLine);
        errors.Check("channel.manualSizeMm", channel?.ManualSizeMm, DoorRanges.RopeSize);
        return errors.Any ? null : new DoorAnswer(strip, closed is null ? null : new(closed.Verdict, closed.LookAtIntake), channel is null ? null : RopeOf(channel), assumed.Used);
    }

    private static StripAnswer? ReadStrip(DoorEntry entry, EntryErrors errors, Assumptions assumed)
    {
        errors.CheckWord<RopeState>("rope", entry.Rope, "Rope");
        errors.Check("draftPa", entry.DraftPa, FlueRanges.Reading);
        errors.Check("roomC", entry.RoomC, EntryRange.Room);
        errors.Check("altitudeM", entry.AltitudeM, FlueRanges.Altitude);
        errors.Check("stationPressurePa", entry.StationPressurePa, FlueRanges.StationPressure);
        FireAir.Check("fire.", entry.Fire?.BurnKgH, entry.Fire?.MoistureWet, entry.Fire?.ExcessAir, errors);
        if (entry.Points is not { Count: > 0 } entered)
        {
            errors.Check("perimeterM", entry.PerimeterM, DoorRanges.Perimeter);
            return null;
        }
        var points = errors.Need("perimeterM", entry.PerimeterM, DoorRanges.Perimeter) ? ReadPoints(entered, entry.PerimeterM!.Value, errors) : [];
        if (errors.Any)
            return null;
        var rope = assumed.Or(entry.Rope, "rope", RopeState.Springy, "until the rope is looked at");
        var latchAtEnd = assumed.Or(entry.LatchAtEnd, "latchAtEnd", false, "until the latch is tried");
        var pressure = FlueLimits.PressurePa(entry.StationPressurePa, entry.AltitudeM, "altitudeM", assumed);
        return StripAnswer.Of(new StripMap(entry.PerimeterM!.Value, points), rope, latchAtEnd, assumed.Or(entry.DraftPa, "draftPa", FlueLimits.LeastDraft),
            DryAir.DensityKgM3(pressure, assumed.Or(entry.RoomC, "roomC", FlueLimits.Room)), FireAir.KgH("fire.", entry.Fire, FiringLevel.Low, assumed));
    }

    private static List<StripPoint> ReadPoints(IReadOnlyList<StripPointEntry> entered, double perimeterM, EntryErrors errors)
    {
        var at = new EntryRange("Way along the door", Quantity.Length, 0, perimeterM);
        var points = new List<StripPoint>();
        foreach (var (entry, i) in errors.Each("points", entered, MostPoints, "points"))
        {
            var place = errors.Need<StripPlace>($"points[{i}].place", entry.Place, "Place");
            if (errors.Need($"points[{i}].atM", entry.AtM, at) & errors.Need($"points[{i}].grade", entry.Grade, DoorRanges.Grade) && place is { } known && DoorRanges.WholeGrade($"points[{i}].grade", entry.Grade, errors) is { } grade)
                points.Add(new(known, entry.AtM!.Value, grade));
        }
        return points;
    }

    private static ClosedAir? ReadClosedAir(ClosedAirTest? entry, EntryErrors errors, Assumptions assumed)
    {
        if (entry is null)
            return null;
        entry.Check("closedAir.", errors);
        return new(assumed.Or(entry.ClosesFully, "closedAir.closesFully", true, "most stoves' air closes fully"), entry.CollapseS, entry.ReviveS);
    }

    private static RopeAnswer RopeOf(ChannelEntry channel)
    {
        var rope = Door.Rope.For(channel.WidthMm, channel.DepthMm, channel.ManualSizeMm);
        return new(rope.SizeMm, rope.ProudMm, rope.Advice, channel.CentreLineM is { } line ? Door.Rope.NeedM(line) : null, rope.Cement(channel.DepthMm, channel.ManualCement));
    }
}

/// <summary>Accepted ranges at the door.</summary>
public static class DoorRanges
{
    /// <summary>Way round a door.</summary>
    public static readonly EntryRange Perimeter = new("Way round the door", Quantity.Length, 0.2, 12);

    /// <summary>Width or height of a door.</summary>
    public static readonly EntryRange Side = new("Width and height of the door", Quantity.Bore, 0.05, 2);

    /// <summary>Grade of a strip.</summary>
    public static readonly EntryRange Grade = new("Grade", Quantity.Count, 0, 3);

    /// <summary>A grade in its range as a whole number; null where it is missing or none.</summary>
    public static int? WholeGrade(string field, double? entered, EntryErrors errors)
    {
        if (entered is not { } grade)
            return null;
        if (grade % 1 == 0)
            return (int)grade;
        errors.Add(field, "Grade must be a whole number between 0 and 3.");
        return null;
    }

    /// <summary>Seconds until the flames are gone.</summary>
    public static readonly EntryRange Collapse = new("Seconds until the flames are gone", Quantity.Count, 0, 3600);

    /// <summary>Seconds until the flames are back.</summary>
    public static readonly EntryRange Revive = new("Seconds until the flames are back", Quantity.Count, 0, 3600);

    /// <summary>Width of a channel.</summary>
    public static readonly EntryRange ChannelWidth = new("Width of the channel", Quantity.Bore, 2, 40, 0.001);

    /// <summary>Depth of a channel.</summary>
    public static readonly EntryRange ChannelDepth = new("Depth of the channel", Quantity.Bore, 0, 40, 0.001);

    /// <summary>Centre line of a channel.</summary>
    public static readonly EntryRange CentreLine = new("Centre line of the channel", Quantity.Length, 0.05, 12);

    /// <summary>Diameter of a rope.</summary>
    public static readonly EntryRange RopeSize = new("Size of the rope", Quantity.Bore, 3, 30, 0.001);

    /// <summary>Length of a piece of rope.</summary>
    public static readonly EntryRange RopeLength = new("Length of the rope", Quantity.Length, 0.01, 100);
}
