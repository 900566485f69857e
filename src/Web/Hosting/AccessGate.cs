using System.Security.Claims;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Lets a request through to its endpoint when the endpoint says that its caller may.</summary>
public static class AccessGate
{
    public static void UseAccessGate(this WebApplication app) => app.Use(PassAsync);

    /// <summary>Fails when an endpoint doesn't say who may call it.</summary>
    public static void CheckCallers(this WebApplication app)
    {
        var missing = Endpoints(((IEndpointRouteBuilder)app).DataSources.SelectMany(s => s.Endpoints))
            .Where(e => e.Callers is null)
            .Select(e => $"{e.Method} {e.Route}")
            .ToList();
        if (missing.Count > 0)
        {
            throw new InvalidOperationException(
                $"These endpoints don't say who may call them (“.For(Caller.…)”): {string.Join(", ", missing)}."
            );
        }
    }

    /// <summary>Endpoints by method and route, with who may call each; null for one that doesn't say.</summary>
    public static IEnumerable<(string Method, string Route, Caller? Callers)> Endpoints(IEnumerable<Endpoint> endpoints) =>
        endpoints
            .OfType<RouteEndpoint>()
            .SelectMany(e =>
                (e.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods ?? ["GET"]).Select(m =>
                    (m, "/" + (e.RoutePattern.RawText ?? "").Trim('/'), e.Metadata.GetMetadata<AllowedCallers>()?.Callers)
                )
            );

    private static async Task PassAsync(HttpContext context, RequestDelegate next)
    {
        if (context.GetEndpoint() is not RouteEndpoint endpoint)
        {
            await next(context);
            return;
        }

        var allowed = endpoint.Metadata.GetMetadata<AllowedCallers>()?.Callers ?? 0;
        var caller = CallerOf(context.User);
        if (ApiKeyHandler.IsGuessing(context))
        {
            context.Response.Headers.RetryAfter = "60";
            await RefuseAsync(
                context,
                StatusCodes.Status429TooManyRequests,
                "too-many-keys",
                "Too many wrong keys came from here; wait a minute and check the key."
            );
            return;
        }

        if ((allowed & caller) == 0)
        {
            await (
                caller == Caller.Stranger
                    ? RefuseAsync(
                        context,
                        StatusCodes.Status401Unauthorized,
                        "sign-in-needed",
                        "Nobody is signed in; sign in, or send a key as “Authorization: Bearer …”."
                    )
                    : RefuseAsync(
                        context,
                        StatusCodes.Status403Forbidden,
                        "not-allowed",
                        "Your role may not do this; ask an owner of the workspace."
                    )
            );
            return;
        }

        if (await ForgeryCheck.RefusalAsync(context, endpoint) is var (status, rule, says))
        {
            await Refusals.WriteAsync(context, status, rule, says);
            return;
        }

        if (Guid.TryParse(context.User.FindFirstValue(BeaconClaims.Workspace), out var workspace))
        {
            context.RequestServices.GetRequiredService<CurrentWorkspace>().Id = workspace;
        }

        await next(context);
    }

    /// <summary>Tools that only know a URL pattern show their people whatever comes, so they get one plain line.</summary>
    private static Task RefuseAsync(HttpContext context, int status, string rule, string detail) =>
        KeyInAddress.Of(context) is not null
            ? PlainLine.Of(status, detail).ExecuteAsync(context)
            : Refusals.WriteAsync(context, status, rule, detail);

    private static Caller CallerOf(ClaimsPrincipal person) =>
        person.FindFirstValue(BeaconClaims.Role) switch
        {
            nameof(Role.Owner) => Caller.Owner,
            nameof(Role.Editor) => Caller.Editor,
            nameof(Role.Viewer) => Caller.Viewer,
            nameof(Role.Shortener) => Caller.Shortener,
            nameof(Role.Measuring) => Caller.Measuring,
            _ => Caller.Stranger,
        };
}
