using System.Text.Json;
using System.Text.Json.Serialization;
using Grate.Core;

namespace Grate.Server;

/// <summary>How JSON is written and read everywhere.</summary>
public static class Json
{
    /// <summary>Options for JSON in the database; the same as on the wire.</summary>
    public static JsonSerializerOptions Options { get; } = Made();

    /// <summary>camelCase, numbers only as numbers, enums as kebab-case words.</summary>
    public static void Configure(JsonSerializerOptions options)
    {
        options.PropertyNamingPolicy = JsonNamingPolicy.CamelCase;
        options.NumberHandling = JsonNumberHandling.Strict;
        options.MaxDepth = 32;
        options.RespectNullableAnnotations = true;
        options.RespectRequiredConstructorParameters = true;
        options.Converters.Add(new PlainText());
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false));
    }

    private static JsonSerializerOptions Made()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web);
        Configure(options);
        return options;
    }

    // Text that no database column and no printed page can hold is refused where it comes in, whatever field it stands in.
    private sealed class PlainText : JsonConverter<string>
    {
        public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            reader.GetString() is { } text && EntryErrors.HasOddCharacter(text) ? throw new OddCharacterException() : reader.GetString();

        public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteStringValue(value);
    }
}

/// <summary>A text holds a control character; the reader adds its path.</summary>
public sealed class OddCharacterException : JsonException;
