using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.Web.Batches;

/// <summary>Describes what feeds a field of a recipe; its own reader and writer hide that from the description otherwise.</summary>
public static class CellSourceSchema
{
    private static readonly string[] Kinds = ["column", "value", "text"];

    public static Task DescribeAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if (context.JsonTypeInfo.Type == typeof(CellSource))
        {
            Describe(schema);
        }
        else if (context.JsonTypeInfo.Type == typeof(IReadOnlyDictionary<string, CellSource>))
        {
            var source = new OpenApiSchema();
            Describe(source);
            schema.AdditionalProperties = source;
        }

        return Task.CompletedTask;
    }

    private static void Describe(OpenApiSchema schema)
    {
        schema.Type = JsonSchemaType.Object;
        schema.Description =
            "A source: a column of the sheet, one value for all rows, or a text in which @{Heading} inserts a column. A plain text is one value.";
        schema.Properties = Kinds.ToDictionary(
            name => name,
            _ => (IOpenApiSchema)new OpenApiSchema { Type = JsonSchemaType.String | JsonSchemaType.Null }
        );
    }
}
