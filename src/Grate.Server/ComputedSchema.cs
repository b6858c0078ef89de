using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Grate.Server;

/// <summary>What an answer computes of itself is always there: the generator only knows that of what is passed in.</summary>
public sealed class ComputedSchema : IOpenApiSchemaTransformer
{
    /// <inheritdoc/>
    public Task TransformAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancellationToken)
    {
        foreach (var property in context.JsonTypeInfo.Properties.Where(p => p is { Get: not null, Set: null, AssociatedParameter: null, IsGetNullable: false }))
        {
            schema.Required ??= new HashSet<string>();
            schema.Required.Add(property.Name);
        }
        return Task.CompletedTask;
    }
}
