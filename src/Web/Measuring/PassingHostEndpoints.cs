using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>Hosts people pass through without beginning a visit.</summary>
public static class PassingHostEndpoints
{
    public static void MapPassingHosts(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/passing-hosts").WithTags("Measuring");
        group
            .MapGet("", async (PassingHostList hosts, CancellationToken cancel) => TypedResults.Ok(await hosts.ListAsync(cancel)))
            .WithName("ListPassingHosts")
            .WithSummary("Lists hosts that people pass through, and hosts that look like it.")
            .For(Caller.Readers);
        group
            .MapPost("/count", CountAsync)
            .WithName("CountPassing")
            .WithSummary("Counts the visits that listing a host would change.")
            .For(Caller.Owner);
        group.MapPost("", AddAsync).WithName("AddPassingHost").WithSummary("Lists a host that people pass through.").For(Caller.Owner);
        group
            .MapDelete("/{id:guid}", RemoveAsync)
            .WithName("RemovePassingHost")
            .WithSummary("Takes a host off the list.")
            .For(Caller.Owner);
    }

    private static async Task<Outcome<PassingHostEffect>> CountAsync(
        NewPassingHost host,
        PassingHostList hosts,
        CancellationToken cancel
    ) => await hosts.CountAsync(host.Host, cancel);

    private static async Task<Outcome<PassingHostEffect>> AddAsync(NewPassingHost host, PassingHostList hosts, CancellationToken cancel) =>
        await hosts.AddAsync(host.Host, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, PassingHostList hosts, CancellationToken cancel) =>
        await hosts.RemoveAsync(id, cancel) is { } refusal ? refusal : null;
}
