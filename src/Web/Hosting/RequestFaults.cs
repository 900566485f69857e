using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Says in a sentence what is wrong with a request that no call could make sense of, or that the database is away; whatever else breaks stays a fault of ours.</summary>
public sealed partial class RequestFaults : IExceptionHandler
{
    /// <summary>The rule of a request that can't be read.</summary>
    internal const string Unreadable = "request-unreadable";

    /// <summary>The sentence about a request of which no more can be said.</summary>
    internal const string SaysUnreadable = "The request can't be read; see /openapi/v1.json.";

    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var (status, rule, says) = exception switch
        {
            BadHttpRequestException bad => (bad.StatusCode, Unreadable, Says(bad)),
            _ when DatabaseSetup.IsAway(exception) => (
                StatusCodes.Status503ServiceUnavailable,
                "database-away",
                "The database can't be reached right now; try again in a few seconds."
            ),
            _ when DatabaseSetup.IsStandoff(exception) => (
                StatusCodes.Status503ServiceUnavailable,
                "saved-meanwhile",
                "Somebody else was saving the same at the same moment; your change was not stored. Send it again."
            ),
            _ when IsMeanwhile(exception) => (
                StatusCodes.Status409Conflict,
                "changed-meanwhile",
                "Somebody else changed this at the same moment; your change was not stored. Review their version, then do it again."
            ),
            _ when IsUnkeepable(exception) => (
                StatusCodes.Status400BadRequest,
                Unreadable,
                "A text contains the character U+0000, which can't be stored; remove it and send it again."
            ),
            _ => (0, "", ""),
        };
        if (status == 0)
        {
            return false;
        }

        if (status == StatusCodes.Status503ServiceUnavailable)
        {
            httpContext.Response.Headers.RetryAfter = StartGate.RetrySeconds;
        }

        await Refusals.WriteAsync(httpContext, status, rule, says);
        return true;
    }

    /// <summary>Fills in what the framework's own problems leave out.</summary>
    public static void Complete(ProblemDetailsContext context) =>
        context.ProblemDetails.Detail ??= context.HttpContext.Response.StatusCode switch
        {
            StatusCodes.Status404NotFound => "There is nothing at this address; check how it is written.",
            StatusCodes.Status405MethodNotAllowed => $"This address does not take {context.HttpContext.Request.Method}.",
            StatusCodes.Status415UnsupportedMediaType => "Send it as application/json.",
            >= StatusCodes.Status500InternalServerError => "Something went wrong on the server; try again in a moment.",
            _ => null,
        };

    private static string Says(BadHttpRequestException bad)
    {
        if (bad.InnerException is JsonException { Path: var path })
        {
            return path is { Length: > 2 }
                ? $"The value at “{path[2..]}” can't be read; see /openapi/v1.json."
                : "The JSON can't be read; see /openapi/v1.json.";
        }

        return bad.StatusCode switch
        {
            StatusCodes.Status413PayloadTooLarge => "The request is too large; send less at once.",
            StatusCodes.Status415UnsupportedMediaType => "Send it as application/json.",
            _ when Bound().Match(bad.Message) is { Success: true } bound => UnreadableParameter
                .Says(bound.Groups["value"].Value, Named(bound))
                .Message,
            _ when Required().Match(bad.Message) is { Success: true } required => $"“{Named(required)}” is missing; send it.",
            _ => SaysUnreadable,
        };
    }

    /// <summary>Two changed the same thing: it is not any more what this one saw, or what it refers to is gone, or what it adds is there.</summary>
    private static bool IsMeanwhile(Exception exception) =>
        exception is DbUpdateConcurrencyException
        || (exception as PostgresException ?? exception.InnerException as PostgresException)?.SqlState
            is PostgresErrorCodes.UniqueViolation
                or PostgresErrorCodes.ForeignKeyViolation;

    /// <summary>PostgreSQL's texts hold every sign but U+0000 ("Character Types"; codes of "PostgreSQL Error Codes", class 22).</summary>
    private static bool IsUnkeepable(Exception exception) =>
        (exception as PostgresException ?? exception.InnerException as PostgresException)?.SqlState
            is PostgresErrorCodes.CharacterNotInRepertoire
                or PostgresErrorCodes.UntranslatableCharacter;

    /// <summary>The parameter as requests write it.</summary>
    private static string Named(Match match) => JsonNamingPolicy.CamelCase.ConvertName(match.Groups["name"].Value);

    // The framework's own sentences name types of the code, which nobody outside knows.
    [GeneratedRegex("^Failed to bind parameter \"[^\"]* (?<name>[A-Za-z0-9_]+)\" from \"(?<value>.*)\"\\.$", RegexOptions.Singleline)]
    private static partial Regex Bound();

    [GeneratedRegex("^Required parameter \"[^\"]* (?<name>[A-Za-z0-9_]+)\" was not provided")]
    private static partial Regex Required();
}
