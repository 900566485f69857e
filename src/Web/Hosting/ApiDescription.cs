using System.Collections.Frozen;
using System.Globalization;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Completes the description of the calls (OpenAPI 3.1): what parameters mean, who may call, and how a call is refused.</summary>
public static class ApiDescription
{
    private const string Key = "key";
    private const string Session = "session";
    private const string ProblemType = "application/problem+json";

    /// <summary>What a parameter means wherever it occurs; one name means one thing.</summary>
    private static readonly FrozenDictionary<string, string> Parameters = new Dictionary<string, string>
    {
        ["after"] = "The later version; the draft where it is left out.",
        ["archived"] = "True lists what was archived too.",
        ["batch"] = "Id of a batch; what fits its headings is marked.",
        ["before"] = "The earlier version.",
        ["by"] =
            "What they are grouped or called by: links by campaign, placement, channel, topic or state; visits of paths by what rows of a report can be by.",
        ["campaign"] = "Id or name of a campaign.",
        ["caption"] = "A text under the code.",
        ["changed"] = "True leaves out rows without a new link.",
        ["channel"] = "Name of a channel.",
        ["columns"] = "Figures that follow the line, with commas between; at most 3.",
        ["credit"] =
            "How conversions and revenue are shared out over the visits before them: last, lastTagged, first, equal, ends such as ends:35-35, or fading such as fading:10. Left out, they stand with their own visits.",
        ["creditBeside"] = "Another such model; each row then says how much it gains by it.",
        ["creditDays"] = "How many days before a conversion a visit may lie, 1 to 90; 45 where it is left out.",
        ["compare"] =
            "A span to compare with: before, yearBefore, or two days such as 2026-01-01,2026-01-31; or 2 to 6 campaigns side by side, each from its own first day, such as campaigns:seed_swap,bulb_sale.",
        ["codes"] = "True puts each code as a picture into the sheet.",
        ["compact"] = "True writes the address in capitals, which makes some codes smaller.",
        ["correction"] = "Error correction: L, M, Q or H (ISO/IEC 18004).",
        ["dark"] = "Foreground colour, as #rrggbb.",
        ["descending"] = "True begins with the largest.",
        ["domain"] = "Id or host of a short domain; the first where it is left out.",
        ["dpi"] = "Dots per inch of a picture.",
        ["system"] = "The other system the figures are of, at most 80 characters.",
        ["dry"] = "True shows what would be done, and does nothing.",
        ["from"] = "The first day, as 2026-12-03.",
        ["id"] = "Id of what the call is about.",
        ["k"] = "The site's measuring key.",
        ["link"] = "Only those of this link, by its id.",
        ["light"] = "Colour of the background, as #rrggbb.",
        ["logo"] = "Id of a logo in the middle.",
        ["logoShare"] = "Width of the logo in per cent of the code's.",
        ["long"] = "True makes the code of the tagged address instead of the short link.",
        ["mm"] = "Printed width in millimetres, with the quiet zone.",
        ["measures"] =
            "Figures that are wanted, with commas between; without visitors among them the answer comes soonest. All of them but costs where it is left out.",
        ["most"] = "How many are given at most.",
        ["name"] = "What it is called.",
        ["open"] = "The rows that are open, outermost first, as often as wanted: a field, is and a value with colons between.",
        ["order"] = "What comes first, by the name of a column; a minus in front turns it round.",
        ["original"] = "True leaves out every column that was not there before, but for the link.",
        ["outcome"] = "Only rows with this outcome.",
        ["olderThan"] = "Id of a change; only older ones are listed.",
        ["page"] = "Which page of the list, from 1; for a slug the address it is to open.",
        ["placement"] = "Id or name of a placement.",
        ["png"] = "True gives PNG instead of SVG.",
        ["publisher"] = "Who runs a placement.",
        ["range"] = "A span by its name, such as last30Days.",
        ["retired"] = "True lists what is no longer offered too.",
        ["revision"] = "The revision that was looked at; another one is refused with 409.",
        ["rows"] =
            "What the rows are by, at most five, with commas between: such as campaign, landingPage, attribute.region or part.utm_campaign.2.",
        ["rule"] = "Only those that this rule speaks about.",
        ["search"] = "Words that all occur, in any order.",
        ["sheet"] = "Id of a batch; only pages that its links lead to.",
        ["set"] = "A set that all of them go into; made where there is none.",
        ["series"] = "What a point of the series stands for: day, week or month; with it the first six rows have lines of their own.",
        ["size"] = "How many are on a page.",
        ["skip"] = "How many are left out before the first.",
        ["slug"] = "A slug to be looked at.",
        ["sort"] = "Column the rows are ordered by; a minus in front turns it round.",
        ["state"] = "Only those in this state.",
        ["stations"] = "Figures on the line, with commas between; at most 6.",
        ["step"] =
            "A step of a way, in order, 2 to 8: page, pageBegins or pagePattern and an address, event and its name, clicked and a spot, or conversion and its kind, each with a colon between.",
        ["text"] = "Words to find.",
        ["title"] = "What stands at its head.",
        ["thing"] = "Id of what was changed.",
        ["to"] = "The last day, as 2026-12-03.",
        ["token"] = "What the address of a results page ends in.",
        ["topic"] = "Only links with this topic.",
        ["u"] = "The page's own address; it comes last, and is read to the end of the line where it is not encoded.",
        ["version"] = "A version of the convention; the one that holds where it is left out.",
        ["visitsFrom"] = "Only links behind visits from this day on, as 2026-12-03.",
        ["visitsTo"] = "Only links behind visits up to this day, as 2026-12-03.",
        ["visitsWhere"] = "Only links behind visits that fulfil this, as where narrows a report; as often as wanted.",
        ["wait"] = "Most seconds to wait for the end, 0 to 20; 20 where it is left out.",
        ["where"] =
            "Narrows visits down, as often as wanted: a field, a test (is, not, contains, in) and a value with colons between, such as source:is:the_trellis. An empty value stands for visits without one; in with the same field is one of several.",
        ["what"] = "What kind of thing was changed, such as link-route.",
        ["who"] = "Name of the person or key that changed something.",
    }.ToFrozenDictionary();

    /// <summary>With what a call may be refused, by its status.</summary>
    private static readonly FrozenDictionary<int, string> Refusals = new Dictionary<int, string>
    {
        [StatusCodes.Status400BadRequest] = "The request can't be read, or something in it is out of range.",
        [StatusCodes.Status401Unauthorized] = "Nobody is signed in, and no key was sent.",
        [StatusCodes.Status403Forbidden] = "The caller's role may not do this.",
        [StatusCodes.Status404NotFound] = "There is no such thing in the workspace.",
        [StatusCodes.Status409Conflict] = "Somebody else changed it, or something stands in the way.",
        [StatusCodes.Status413PayloadTooLarge] = "The body is too large.",
        [StatusCodes.Status422UnprocessableEntity] = "It can be read, but not be done; the sentence says why.",
        [StatusCodes.Status429TooManyRequests] = "Too much came from here; Retry-After says when to come back.",
    }.ToFrozenDictionary();

    /// <summary>Says how callers prove who they are.</summary>
    public static Task DescribeAsync(OpenApiDocument api, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        // Where this copy runs is no part of the description, which is checked in.
        api.Info.Title = "Precise Beacon";
        api.Servers?.Clear();
        api.Components ??= new OpenApiComponents();
        ApiProperties.Describe(api);
        api.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
        {
            [Key] = new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.Http,
                Scheme = "bearer",
                Description = "A key from Workspace → Keys.",
            },
            [Session] = new OpenApiSecurityScheme
            {
                Type = SecuritySchemeType.ApiKey,
                In = ParameterLocation.Cookie,
                Name = "beacon",
                Description = "A signed-in person; what changes something sends the token of /api/account as X-Beacon-Token too.",
            },
        };
        api.Components.Responses = Refusals.ToDictionary(
            r => NameOf(r.Key),
            r =>
                (IOpenApiResponse)
                    new OpenApiResponse
                    {
                        Description = r.Value,
                        Content = new Dictionary<string, OpenApiMediaType> { [ProblemType] = new() { Schema = Problem() } },
                    }
        );
        return Task.CompletedTask;
    }

    /// <summary>An enumeration has its own values alone; that a property may be null is said where it is.</summary>
    public static Task DescribeAsync(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        if ((Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type).IsEnum && schema.Enum is { } values)
        {
            schema.Enum = [.. values.Where(v => v is not null && v.GetValueKind() != System.Text.Json.JsonValueKind.Null)];
            schema.Type &= ~JsonSchemaType.Null;
        }

        return Task.CompletedTask;
    }

    /// <summary>Says who may make a call, what its parameters mean and with what it may be refused.</summary>
    public static Task DescribeAsync(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        // A list that is left out is an empty one.
        foreach (var list in operation.Parameters?.OfType<OpenApiParameter>().Where(p => p.Schema?.Type == JsonSchemaType.Array) ?? [])
        {
            list.Required = false;
        }

        foreach (
            var parameter in operation
                .Parameters?.OfType<OpenApiParameter>()
                .Where(p => p.Name is not null && string.IsNullOrEmpty(p.Description))
                ?? []
        )
        {
            parameter.Description = Parameters.GetValueOrDefault(parameter.Name!);
        }

        var callers = context.Description.ActionDescriptor.EndpointMetadata.OfType<AllowedCallers>().LastOrDefault()?.Callers ?? 0;
        bool isOpen = (callers & Caller.Stranger) != 0;
        if (!isOpen)
        {
            operation.Security = [Requirement(Key), Requirement(Session)];
            operation.Description ??= $"For {Called(callers)}.";
        }

        bool changes = context.Description.HttpMethod is "POST" or "PUT" or "DELETE";
        bool isOne = context.Description.RelativePath?.Contains("{id", StringComparison.Ordinal) == true;
        Add(StatusCodes.Status400BadRequest, changes || operation.Parameters?.Count > 0);
        Add(StatusCodes.Status401Unauthorized, !isOpen);
        Add(StatusCodes.Status403Forbidden, !isOpen);
        Add(StatusCodes.Status404NotFound, isOne);
        Add(StatusCodes.Status409Conflict, changes);
        Add(StatusCodes.Status413PayloadTooLarge, changes && operation.RequestBody is not null);
        Add(StatusCodes.Status422UnprocessableEntity, changes);
        Add(StatusCodes.Status429TooManyRequests, true);
        return Task.CompletedTask;

        OpenApiSecurityRequirement Requirement(string scheme) =>
            new() { [new OpenApiSecuritySchemeReference(scheme, context.Document)] = [] };

        void Add(int status, bool applies)
        {
            operation.Responses ??= [];
            string code = status.ToString(CultureInfo.InvariantCulture);
            if (applies && !operation.Responses.ContainsKey(code))
            {
                operation.Responses.Add(code, new OpenApiResponseReference(NameOf(status), context.Document));
            }
        }
    }

    private static string NameOf(int status) => $"Refused{status.ToString(CultureInfo.InvariantCulture)}";

    /// <summary>Problem details (RFC 9457) with a machine word beside the sentence.</summary>
    private static OpenApiSchema Problem() =>
        new()
        {
            Type = JsonSchemaType.Object,
            Properties = new Dictionary<string, IOpenApiSchema>
            {
                ["status"] = new OpenApiSchema { Type = JsonSchemaType.Integer, Description = "The HTTP status." },
                ["title"] = new OpenApiSchema { Type = JsonSchemaType.String, Description = "The status in words." },
                ["detail"] = new OpenApiSchema
                {
                    Type = JsonSchemaType.String,
                    Description = "One sentence: what is wrong and what to do.",
                },
                ["rule"] = new OpenApiSchema { Type = JsonSchemaType.String, Description = "A machine word, such as slug-taken." },
            },
        };

    private static string Called(Caller callers) =>
        callers switch
        {
            Caller.Owner => "owners",
            Caller.Builders => "owners and editors",
            Caller.Readers => "owners, editors and viewers",
            Caller.Shortener => "keys that only shorten",
            Caller.Measuring => "keys that only report conversions",
            _ => string.Join(
                    ", ",
                    Enum.GetValues<Caller>()
                        .Where(c => c is not (Caller.Readers or Caller.Builders or Caller.Anybody) && callers.HasFlag(c))
                )
                .ToLowerInvariant(),
        };
}
