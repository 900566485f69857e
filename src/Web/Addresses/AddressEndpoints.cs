using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Addresses;

/// <summary>The workspace's short domains, and hosts nothing may lead to.</summary>
public static class AddressEndpoints
{
    public static void MapAddresses(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Workspace");
        group
            .MapGet("/short-domains", async (ShortDomains domains, CancellationToken cancel) =>
                TypedResults.Ok(await domains.ListAsync(cancel))
            )
            .WithName("ListShortDomains")
            .WithSummary("Lists short domains.")
            .For(Caller.Readers);
        group.MapPost("/short-domains", AddAsync).WithName("AddShortDomain").WithSummary("Adds a short domain.").For(Caller.Owner);
        group
            .MapPost("/short-domains/{id:guid}/check", CheckAsync)
            .WithName("CheckShortDomain")
            .WithSummary("Checks whether a short domain leads here.")
            .For(Caller.Owner);
        group
            .MapPost("/short-domains/{id:guid}/make-default", PutFirstAsync)
            .WithName("PutShortDomainFirst")
            .WithSummary("Makes new links on this short domain.")
            .For(Caller.Owner);
        group
            .MapDelete("/short-domains/{id:guid}", RemoveAsync)
            .WithName("RemoveShortDomain")
            .WithSummary("Removes a short domain that has no slugs.")
            .For(Caller.Owner);
        group
            .MapGet("/refused-hosts", async (RefusedHostList hosts, CancellationToken cancel) =>
                TypedResults.Ok(await hosts.ListAsync(cancel))
            )
            .WithName("ListRefusedHosts")
            .WithSummary("Lists hosts that no link may lead to.")
            .For(Caller.Readers);
        group
            .MapPost("/refused-hosts/count", CountAsync)
            .WithName("CountRefused")
            .WithSummary("Counts the links that refusing a host would stop.")
            .For(Caller.Owner);
        group.MapPost("/refused-hosts", RefuseAsync).WithName("RefuseHost").WithSummary("Refuses a host.").For(Caller.Owner);
        group.MapDelete("/refused-hosts/{id:guid}", AllowAsync).WithName("AllowHost").WithSummary("Allows a host again.").For(Caller.Owner);
    }

    private static async Task<Outcome<ShortDomainAnswer>> AddAsync(NewShortDomain domain, ShortDomains domains, CancellationToken cancel) =>
        await domains.AddAsync(domain.Address, cancel);

    private static async Task<Outcome<ShortDomainAnswer>> CheckAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.CheckAsync(id, cancel) is { } answer ? answer : Refusal.NotFound("short domain");

    private static async Task<Refusal?> PutFirstAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.PutFirstAsync(id, cancel) is { } refusal ? refusal : null;

    private static async Task<Refusal?> RemoveAsync(Guid id, ShortDomains domains, CancellationToken cancel) =>
        await domains.RemoveAsync(id, cancel) is { } refusal ? refusal : null;

    private static async Task<Outcome<RefusedHostEffect>> CountAsync(
        NewRefusedHost host,
        RefusedHostList hosts,
        CancellationToken cancel
    ) => await hosts.CountAsync(host.Host, cancel);

    private static async Task<Outcome<RefusedHostEffect>> RefuseAsync(
        NewRefusedHost host,
        RefusedHostList hosts,
        CancellationToken cancel
    ) => await hosts.AddAsync(host.Host, cancel);

    private static async Task<Refusal?> AllowAsync(Guid id, RefusedHostList hosts, CancellationToken cancel) =>
        await hosts.RemoveAsync(id, cancel) is { } refusal ? refusal : null;
}
