using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Grate.Server;

/// <summary>Text is described as text: the generator does not know what a reader of our own takes.</summary>
public sealed class TextSchema : IOpenApiSchemaTransformer
{
    /// <inheritdoc/>
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        var type = context.JsonTypeInfo;
        if (type.Type == typeof(string))
            schema.Type = context.JsonPropertyInfo is { IsGetNullable: true } ? JsonSchemaType.String | JsonSchemaType.Null : JsonSchemaType.String;
        else if (type.Kind == JsonTypeInfoKind.Enumerable)
            schema.Items ??= TextOf(type.ElementType);
        else if (type.Kind == JsonTypeInfoKind.Dictionary)
            schema.AdditionalProperties ??= TextOf(type.ElementType);
        return Task.CompletedTask;
    }

    private static OpenApiSchema? TextOf(Type? type) => type == typeof(string) ? new() { Type = JsonSchemaType.String }
        : type == typeof(string[]) ? new() { Type = JsonSchemaType.Array, Items = TextOf(typeof(string)) } : null;
}
