using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Http.Metadata;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Turns what came of a call into its answer: a value as JSON, a refusal as problem details (RFC 9457) with its rule and the way out.</summary>
public static class Refusals
{
    /// <summary>Calls may return an <see cref="Outcome{T}"/>, or a <see cref="Refusal"/> or null for 204; here they become answers, and are described as such.</summary>
    public static TBuilder WithOutcomes<TBuilder>(this TBuilder calls)
        where TBuilder : IEndpointConventionBuilder
    {
        calls.AddEndpointFilter(
            async (context, next) =>
                // Generated binding only sets the status where an optional parameter can't be read.
                context.HttpContext.Response.StatusCode == StatusCodes.Status400BadRequest
                    ? UnreadableParameter.Of(context.HttpContext).ToResult()
                    : await next(context) switch
                    {
                        IOutcome outcome => outcome.Refusal?.ToResult() ?? outcome.Value,
                        Refusal refusal => refusal.ToResult(),
                        null => TypedResults.NoContent(),
                        var other => other,
                    }
        );
        calls.Finally(Describe);
        return calls;
    }

    /// <summary>The refusal as an answer.</summary>
    public static ProblemHttpResult ToResult(this Refusal refusal)
    {
        var more = new Dictionary<string, object?> { ["rule"] = refusal.Rule };
        foreach (var (name, value) in refusal.More ?? new Dictionary<string, object?>())
        {
            more[name] = value;
        }

        return TypedResults.Problem(detail: refusal.Message, statusCode: StatusOf(refusal.Kind), extensions: more);
    }

    /// <summary>201 with the address of what was made, or the refusal.</summary>
    public static Results<Created<T>, ProblemHttpResult> ToCreated<T>(this Outcome<T> outcome, Func<T, string> address)
        where T : notnull => outcome.IsRefused ? outcome.Refusal.ToResult() : TypedResults.Created(address(outcome.Value), outcome.Value);

    /// <summary>Writes a refusal where there is no call to return it.</summary>
    /// <param name="context">The request.</param>
    /// <param name="status">HTTP status.</param>
    /// <param name="rule">Machine word in lower case with hyphens.</param>
    /// <param name="says">One sentence: what is wrong and what to do.</param>
    public static Task WriteAsync(HttpContext context, int status, string rule, string says) =>
        TypedResults
            .Problem(detail: says, statusCode: status, extensions: new Dictionary<string, object?> { ["rule"] = rule })
            .ExecuteAsync(context);

    /// <summary>The status of a kind (RFC 9110, section 15; RFC 6585 for 429).</summary>
    public static int StatusOf(RefusalKind kind) =>
        kind switch
        {
            RefusalKind.Invalid => StatusCodes.Status400BadRequest,
            RefusalKind.Forbidden => StatusCodes.Status403Forbidden,
            RefusalKind.Missing => StatusCodes.Status404NotFound,
            RefusalKind.Conflict => StatusCodes.Status409Conflict,
            RefusalKind.TooLarge => StatusCodes.Status413PayloadTooLarge,
            RefusalKind.Unacceptable => StatusCodes.Status422UnprocessableEntity,
            RefusalKind.TooOften => StatusCodes.Status429TooManyRequests,
            _ => StatusCodes.Status502BadGateway,
        };

    /// <summary>What a call returns is described by its value: nobody outside knows of outcomes.</summary>
    private static void Describe(EndpointBuilder call)
    {
        for (int i = 0; i < call.Metadata.Count; i++)
        {
            if (call.Metadata[i] is not IProducesResponseTypeMetadata { Type: { } type } answer)
            {
                continue;
            }

            if (type == typeof(Refusal))
            {
                call.Metadata[i] = new ProducesResponseTypeMetadata(StatusCodes.Status204NoContent, typeof(void));
            }
            else if (type.IsGenericType && type.GetGenericTypeDefinition() == typeof(Outcome<>))
            {
                call.Metadata[i] = new ProducesResponseTypeMetadata(
                    answer.StatusCode,
                    type.GetGenericArguments()[0],
                    [.. answer.ContentTypes]
                );
            }
        }
    }
}
