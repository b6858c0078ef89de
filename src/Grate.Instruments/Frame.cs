using System.Text.Json;
using Grate.Core;
using Grate.Core.Flue;

namespace Grate.Instruments;

/// <summary>A value an instrument sends, with what can be believed of it.</summary>
/// <param name="Field">Its field in <c>values</c>; the unit stands in the name.</param>
/// <param name="Believed">Accepted range.</param>
public sealed record InstrumentValue(string Field, EntryRange Believed);

/// <summary>A kind of instrument.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="Values">What it sends.</param>
public sealed record InstrumentKind(string Code, string Name, params InstrumentValue[] Values)
{
    /// <summary>Every kind that is understood (docs/instruments.md).</summary>
    public static IReadOnlyList<InstrumentKind> All { get; } =
    [
        new("draft-gauge", "draft gauge", new InstrumentValue("draftPa", FlueRanges.Reading)),
        new("pressure-gauge", "room pressure gauge", new InstrumentValue("roomPa", FlueRanges.HousePressure)),
        new("thermometer", "two-channel thermometer",
            new InstrumentValue("flueC", new EntryRange("Flue gas", Quantity.Temperature, -60, 1200)),
            new InstrumentValue("roomC", EntryRange.Room)),
        new("moisture-meter", "moisture meter", new InstrumentValue("moistureDryShare", new EntryRange("Moisture, dry basis", Quantity.Share, 0, 1.5))),
        new("co-meter", "CO meter", new InstrumentValue("coPpm", HotTest.CoRange)),
    ];

    /// <summary>The kind of a code, or null.</summary>
    public static InstrumentKind? Find(string? code) => All.FirstOrDefault(k => k.Code == code);
}

/// <summary>One line of an instrument.</summary>
/// <param name="Instrument">Its kind.</param>
/// <param name="Serial">Its serial number, 1 to 40 characters.</param>
/// <param name="Seq">Counts up by one from line to line of one instrument.</param>
/// <param name="At">When it was measured.</param>
/// <param name="Values">Field to value.</param>
public sealed record InstrumentFrame(string Instrument, string Serial, long Seq, DateTimeOffset At, IReadOnlyDictionary<string, double> Values)
{
    /// <summary>Longest line, bytes.</summary>
    public const int LongestLine = 1024;

    /// <summary>How frames are written and read.</summary>
    public static JsonSerializerOptions Json { get; } = new(JsonSerializerDefaults.Web) { MaxDepth = 16, RespectRequiredConstructorParameters = true, RespectNullableAnnotations = true };

    /// <summary>Reads a line; a malformed or absurd one gives null and a reason.</summary>
    /// <param name="line">One line without its end.</param>
    /// <param name="fault">Why it was dropped.</param>
    public static InstrumentFrame? Read(ReadOnlySpan<byte> line, out string fault)
    {
        fault = "";
        InstrumentFrame? frame;
        try
        {
            frame = JsonSerializer.Deserialize<InstrumentFrame>(line, Json);
        }
        catch (JsonException)
        {
            fault = "not a frame";
            return null;
        }
        if (InstrumentKind.Find(frame?.Instrument) is not { } kind)
            fault = "unknown instrument";
        else if (frame!.Serial.Length is 0 or > 40)
            fault = "no serial number";
        else if (kind.Values.FirstOrDefault(v => !frame.Values.ContainsKey(v.Field)) is { } missing)
            fault = $"{missing.Field} is missing";
        else if (kind.Values.FirstOrDefault(v => !v.Believed.Holds(frame.Values[v.Field])) is { } absurd)
            fault = $"{absurd.Field} cannot be";
        return fault.Length == 0 ? frame : null;
    }
}
