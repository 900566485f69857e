using Microsoft.AspNetCore.Http.HttpResults;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Refusals as problem details (RFC 9457) with a machine word and the way out.</summary>
public static class Refusal
{
    /// <summary>A refusal to be returned by an endpoint.</summary>
    /// <param name="status">HTTP status.</param>
    /// <param name="rule">Machine word in lower case with hyphens.</param>
    /// <param name="detail">One sentence: what is wrong and what to do.</param>
    public static ProblemHttpResult Of(int status, string rule, string detail) =>
        TypedResults.Problem(detail: detail, statusCode: status, extensions: new Dictionary<string, object?> { ["rule"] = rule });

    public static ProblemHttpResult NotFound(string what) =>
        Of(StatusCodes.Status404NotFound, "not-found", $"There is no such {what} in this workspace; it may have been removed, or the address is mistyped.");

    /// <summary>Writes a refusal where there is no endpoint to return it.</summary>
    public static Task WriteAsync(HttpContext context, int status, string rule, string detail) => Of(status, rule, detail).ExecuteAsync(context);
}
