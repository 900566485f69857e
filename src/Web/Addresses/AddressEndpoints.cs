using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.Web.Addresses;

/// <summary>The workspace's short domains, and hosts nothing may lead to.</summary>
public static class AddressEndpoints
{
    public static void MapAddresses(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Workspace");
        group.MapGet("/short-domains", async (ShortDomains domains, CancellationToken cancel) => TypedResults.Ok(await domains.ListAsync(cancel)))
            .WithName("ListShortDomains").WithSummary("Lists short domains.").For(Caller.Readers);
        group.MapPost("/short-domains", AddAsync)
            .WithName("AddShortDomain").WithSummary("Adds a short domain.").For(Caller.Owner);
        group.MapPost("/short-domains/{id:guid}/check", CheckAsync)
            .WithName("CheckShortDomain").WithSummary("Checks whether a short domain leads here.").For(Caller.Owner);
        group.MapPost("/short-domains/{id:guid}/make-default", PutFirstAsync)
            .WithName("PutShortDomainFirst").WithSummary("Makes new links on this short domain.").For(Caller.Owner);
        group.MapDelete("/short-domains/{id:guid}", RemoveAsync)
            .WithName("RemoveShortDomain").WithSummary("Removes a short domain that has no slugs.").For(Caller.Owner);
        group.MapGet("/refused-hosts", async (RefusedHostList hosts, CancellationToken cancel) => TypedResults.Ok(await hosts.ListAsync(cancel)))
            .WithName("ListRefusedHosts").WithSummary("Lists hosts that no link may lead to.").For(Caller.Readers);
        group.MapPost("/refused-hosts/count", CountAsync)
            .WithName("CountRefused").WithSummary("Counts the links that refusing a host would stop.").For(Caller.Owner);
        group.MapPost("/refused-hosts", RefuseAsync)
            .WithName("RefuseHost").WithSummary("Refuses a host.").For(Caller.Owner);
        group.MapDelete("/refused-hosts/{id:guid}", AllowAsync)
            .WithName("AllowHost").WithSummary("Allows a host again.").For(Caller.Owner);
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
