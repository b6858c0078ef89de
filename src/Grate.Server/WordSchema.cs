using System.Text.Json;
using System.Text.Json.Nodes;
using Grate.Core;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Grate.Server;

/// <summary>A word that is one of an enum's is described as such, though it is read as text: a wrong one gets a sentence.</summary>
public sealed class WordSchema : IOpenApiSchemaTransformer
{
    /// <inheritdoc/>
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        if (context.JsonPropertyInfo?.AttributeProvider?.GetCustomAttributes(typeof(WordsAttribute), inherit: true) is [WordsAttribute words, ..])
        {
            var of = schema.Items as OpenApiSchema ?? schema;
            of.Enum = [.. Enum.GetNames(words.Of).Select(n => (JsonNode)JsonNamingPolicy.KebabCaseLower.ConvertName(n))];
        }
        return Task.CompletedTask;
    }
}
