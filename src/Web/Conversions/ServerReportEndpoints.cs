using System.Text.Json;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Conversions;

/// <summary>Conversions and refunds that a shop's, or a partner's, server reports with a key.</summary>
public static class ServerReportEndpoints
{
    private const long LargestRequest = 8 << 20;

    public static void MapServerReports(this IEndpointRouteBuilder app) =>
        app.MapPost("/api/v1/conversions", KeepAsync)
            .WithTags("Conversions")
            .WithName("ReportConversions")
            .WithSummary("Takes conversions and refunds from a server; the same event again changes nothing.")
            .WithDescription(
                $"One event, or a list of up to {ServerReportBook.Most:N0}. A conversion: {{eventId, site, orderId, kind, value: {{amount, currency}}, items, at, clickId or visitorId}}. It counts with the visit its click began, else with the last page its visitor saw on the site, else in the place of the order that a page reported; and then what the server says goes before what the page said. A refund: {{eventId, refundOf: order id, value}}. It counts on its own day, and never more than the order’s value. A single event that can't be kept is refused with 422; of a list each is answered for itself."
            )
            .For(Caller.Measuring | Caller.Owner)
            .Accepts<List<ServerReport>>("application/json")
            .Produces<ServerReportsAnswer>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity)
            .WithMetadata(new RequestSizeLimitAttribute(LargestRequest));

    private static async Task<IResult> KeepAsync(JsonElement body, ServerReportBook book, CancellationToken cancel)
    {
        bool single = body.ValueKind == JsonValueKind.Object;
        if (!single && body.ValueKind != JsonValueKind.Array)
        {
            return Refusal.Invalid("events-malformed", "Send one event as a JSON object, or a list of them.").ToResult();
        }

        List<ServerReport?> given = single ? [Read(body)] : [.. body.EnumerateArray().Take(ServerReportBook.Most + 1).Select(Read)];
        if (given.Count is 0 or > ServerReportBook.Most)
        {
            return Refusal.Invalid("events-count", $"Send 1 to {ServerReportBook.Most:N0} events at once.").ToResult();
        }

        var answer = await book.KeepAsync(given, cancel);
        return single && answer.Events[0] is { Outcome: ReportOutcome.Refused, Rule: { } rule, Detail: { } detail }
            ? new Refusal(given[0] is null ? RefusalKind.Invalid : RefusalKind.Unacceptable, rule, detail).ToResult()
            : TypedResults.Ok(answer);
    }

    /// <summary>One event; null for what is none, so that it holds up none of the others.</summary>
    private static ServerReport? Read(JsonElement one)
    {
        try
        {
            return one.Deserialize<ServerReport>(JsonSerializerOptions.Web);
        }
        catch (Exception broken) when (broken is JsonException or InvalidOperationException)
        {
            return null;
        }
    }
}
