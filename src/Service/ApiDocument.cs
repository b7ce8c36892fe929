using System.Reflection;
using System.Text.RegularExpressions;
using Microsoft.OpenApi;
using YardRelay.Core.Carrying;

namespace YardRelay.Service;

/// <summary>What the description of the API (OpenAPI 3.1) says beyond what routes and shapes tell by themselves.</summary>
internal static partial class ApiDocument
{
    public static void Add(IServiceCollection services) => services.AddOpenApi("v1", o =>
    {
        o.AddSchemaTransformer((schema, context, _) =>
        {
            // A struct has no required constructor, and yet both its figures are always there.
            if (context.JsonTypeInfo.Type == typeof(Amount)) schema.Required = new HashSet<string> { "files", "bytes" };
            return Task.CompletedTask;
        });
        o.AddOperationTransformer((operation, context, _) =>
        {
            // Gathered by feature, not by the class that happens to do the work.
            if (context.Description.ActionDescriptor.EndpointMetadata.OfType<MethodInfo>().FirstOrDefault()?.DeclaringType?.Namespace
                is { } home)
                operation.Tags = new HashSet<OpenApiTagReference> { new(home[(home.LastIndexOf('.') + 1)..], context.Document) };
            return Task.CompletedTask;
        });
        o.AddDocumentTransformer((document, _, _) =>
        {
            document.Info = new()
            {
                Title = "Yard Relay",
                Version = "v1",
                Description = "Swaps of computers: roster, plan, files on their way, checklists, sign-off."
            };
            document.Servers = null;
            foreach (var schema in document.Components?.Schemas?.Values ?? [])
            {
                OneLine(schema);
                foreach (var property in schema.Properties?.Values ?? []) OneLine(property);
            }
            return Task.CompletedTask;
        });
    });

    // Comments in the code are wrapped; what they say is not.
    private static void OneLine(IOpenApiSchema schema)
    {
        if (schema is not OpenApiSchemaReference && schema.Description is { } text && text.Contains('\n', StringComparison.Ordinal))
            schema.Description = Wrap().Replace(text, " ");
    }

    [GeneratedRegex(@"\s*\n\s*")]
    private static partial Regex Wrap();
}
