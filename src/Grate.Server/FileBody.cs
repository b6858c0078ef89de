using Microsoft.OpenApi;

namespace Grate.Server;

/// <summary>Requests whose body is a file.</summary>
internal static class FileBody
{
    /// <summary>Says so in the contract; what it really is decides the content, not the type that a browser tells.</summary>
    /// <param name="endpoint">The request.</param>
    /// <param name="type">Media type of the file.</param>
    public static RouteHandlerBuilder TakesFile(this RouteHandlerBuilder endpoint, string type) => endpoint.AddOpenApiOperationTransformer((operation, _, _) =>
    {
        operation.RequestBody = new OpenApiRequestBody
        {
            Required = true,
            Content = new Dictionary<string, OpenApiMediaType> { [type] = new() { Schema = new OpenApiSchema { Type = JsonSchemaType.String, Format = "binary" } } },
        };
        return Task.CompletedTask;
    });
}
