using System.Text.Json;
using System.Text.Json.Serialization;

namespace Grate.Core.Places;

/// <summary>A fitting as entered: in JSON a word of the table, or { "zeta", "label" } for one of its own.</summary>
/// <param name="Code">Word of the table, or null.</param>
/// <param name="Zeta">Loss coefficient ζ, or null.</param>
/// <param name="Label">What it is.</param>
[JsonConverter(typeof(FittingEntryConverter))]
public sealed record FittingEntry(string? Code, double? Zeta = null, string? Label = null);

internal sealed class FittingEntryConverter : JsonConverter<FittingEntry>
{
    public override FittingEntry Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
            return new FittingEntry(reader.GetString());
        var custom = JsonSerializer.Deserialize(ref reader, FittingJson.Default.CustomFitting);
        return new FittingEntry(null, custom?.Zeta, custom?.Label);
    }

    public override void Write(Utf8JsonWriter writer, FittingEntry value, JsonSerializerOptions options)
    {
        if (value.Code is not null)
            writer.WriteStringValue(value.Code);
        else
            JsonSerializer.Serialize(writer, new CustomFitting(value.Zeta, value.Label), FittingJson.Default.CustomFitting);
    }
}

internal sealed record CustomFitting(double? Zeta = null, string? Label = null);

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(CustomFitting))]
internal sealed partial class FittingJson : JsonSerializerContext;
