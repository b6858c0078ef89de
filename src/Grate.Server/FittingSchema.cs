using System.Text.Json.Nodes;
using Grate.Core.Flue;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Grate.Server;

/// <summary>
/// Describes a segment's fittings as they stand in JSON: words of the table, or loss coefficients of their own.
/// Their own converter hides them from the generator.
/// </summary>
public sealed class FittingSchema : IOpenApiSchemaTransformer
{
    /// <inheritdoc/>
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        if (context.JsonTypeInfo.Type == typeof(SegmentEntry) && schema.Properties?["fittings"] is OpenApiSchema fittings)
        {
            fittings.Items = new OpenApiSchema
            {
                OneOf =
                [
                    new OpenApiSchema { Type = JsonSchemaType.String, Enum = [.. Fitting.All.Select(f => (JsonNode)f.Code)] },
                    new OpenApiSchema
                    {
                        Type = JsonSchemaType.Object,
                        Required = new HashSet<string> { "zeta" },
                        Properties = new Dictionary<string, IOpenApiSchema>
                        {
                            ["zeta"] = new OpenApiSchema { Type = JsonSchemaType.Number },
                            ["label"] = new OpenApiSchema { Type = JsonSchemaType.String },
                        },
                    },
                ],
            };
        }
        return Task.CompletedTask;
    }
}
