using System.Text.Json;
using System.Text.Json.Serialization;

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
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false));
    }

    private static JsonSerializerOptions Made()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web);
        Configure(options);
        return options;
    }
}
