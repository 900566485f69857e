using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Addresses;

/// <summary>The workspace's short domains, and hosts nothing may lead to.</summary>
public static class AddressEndpoints
{
    public static void MapAddresses(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Workspace");
        group.MapGet("/short-domains", async (ShortDomains domains, CancellationToken cancel) => TypedResults.Ok(await domains.ListAsync(cancel)));
        group.MapPost("/short-domains", AddAsync);
        group.MapPost("/short-domains/{id:guid}/check", CheckAsync);
        group.MapPost("/short-domains/{id:guid}/put-first", PutFirstAsync);
        group.MapDelete("/short-domains/{id:guid}", RemoveAsync);
        group.MapGet("/refused-hosts", async (RefusedHostList hosts, CancellationToken cancel) => TypedResults.Ok(await hosts.ListAsync(cancel)));
        group.MapPost("/refused-hosts/count", CountAsync);
        group.MapPost("/refused-hosts", RefuseAsync);
        group.MapDelete("/refused-hosts/{id:guid}", AllowAsync);
    }

    private static async Task<Results<Ok<ShortDomainAnswer>, ProblemHttpResult>> AddAsync(NewShortDomain domain, ShortDomains domains, CancellationToken cancel)
    {
        var (answer, refusal) = await domains.AddAsync(domain.Address, cancel);
        return answer is null ? refusal! : TypedResults.Ok(answer);
    }

    private static async Task<Results<Ok<ShortDomainAnswer>, ProblemHttpResult>> CheckAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.CheckAsync(id, cancel) is { } answer ? TypedResults.Ok(answer) : Refusal.NotFound("short domain");

    private static async Task<Results<NoContent, ProblemHttpResult>> PutFirstAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.PutFirstAsync(id, cancel) is { } refusal ? refusal : TypedResults.NoContent();

    private static async Task<Results<NoContent, ProblemHttpResult>> RemoveAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.RemoveAsync(id, cancel) is { } refusal ? refusal : TypedResults.NoContent();

    private static async Task<Results<Ok<RefusedHostEffect>, ProblemHttpResult>> CountAsync(NewRefusedHost host, RefusedHostList hosts, CancellationToken cancel)
    {
        var (effect, refusal) = await hosts.CountAsync(host.Host, cancel);
        return effect is null ? refusal! : TypedResults.Ok(effect);
    }

    private static async Task<Results<Ok<RefusedHostEffect>, ProblemHttpResult>> RefuseAsync(NewRefusedHost host, RefusedHostList hosts, CancellationToken cancel)
    {
        var (effect, refusal) = await hosts.AddAsync(host.Host, cancel);
        return effect is null ? refusal! : TypedResults.Ok(effect);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> AllowAsync(Guid id, RefusedHostList hosts, CancellationToken cancel) =>
        await hosts.RemoveAsync(id, cancel) is { } refusal ? refusal : TypedResults.NoContent();
}
