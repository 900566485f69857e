using System.Net;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Measuring;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Marks an endpoint that tells how the process is: it answers on any host, and before anything else does.</summary>
public sealed record ProbeEndpoint;

/// <summary>Marks an endpoint that answers on short domains and on the hosts of sites too.</summary>
public sealed record OnEveryHost;

/// <summary>
/// Decides by the host a request names what it may reach: the interface is on the public URL's host alone, so that a name
/// somebody else leads here shows nothing (OWASP ASVS 4.0.3, 14.5.3; RFC 9110 §7.4); short domains have their links and pages.
/// </summary>
public sealed class HostGate(
    RequestDelegate next,
    SlugTable slugs,
    SiteTable sites,
    ShortDomainPages pages,
    IHostEnvironment environment,
    IOptions<BeaconOptions> options
)
{
    private readonly string _publicHost = options.Value.PublicHost;
    private readonly bool _allowsThisMachine = environment.IsDevelopment() || options.Value.Demo;

    public Task InvokeAsync(HttpContext context)
    {
        string host = context.Request.Host.Value ?? "";
        var endpoint = context.GetEndpoint();
        if (IsMain(context.Request.Host) || endpoint?.Metadata.GetMetadata<ProbeEndpoint>() is not null)
        {
            return next(context);
        }

        bool isShort = slugs.Domain(host) is not null;
        if (endpoint?.Metadata.GetMetadata<OnEveryHost>() is not null && (isShort || sites.HasHost(host)))
        {
            return next(context);
        }

        return isShort ? pages.AnswerAsync(context)
            // Until the table was filled, nobody can say whether another host is a short domain.
            : !slugs.IsFilled ? pages.SayNotYetAsync(context)
            : AnswerStrangeHostAsync(context, endpoint);
    }

    /// <summary>A short domain added a moment ago, here or by another process, may not have been heard of yet: 421 would be a guess.</summary>
    private async Task AnswerStrangeHostAsync(HttpContext context, Endpoint? endpoint)
    {
        if (await pages.HeardOfNowAsync(context))
        {
            await (endpoint?.Metadata.GetMetadata<OnEveryHost>() is null ? pages.AnswerAsync(context) : next(context));
            return;
        }

        await Refusals.WriteAsync(
            context,
            StatusCodes.Status421MisdirectedRequest,
            "host-unknown",
            $"Precise Beacon is not at this host; open it at {options.Value.PublicUrl}."
        );
    }

    /// <summary>In the demo and while developing, every name of this machine is as good as the public URL's.</summary>
    private bool IsMain(HostString host) =>
        host.HasValue
        && (
            host.Value.Equals(_publicHost, StringComparison.OrdinalIgnoreCase)
            || (
                _allowsThisMachine
                && (
                    host.Host.Equals("localhost", StringComparison.OrdinalIgnoreCase)
                    || (IPAddress.TryParse(host.Host.Trim('[', ']'), out var address) && IPAddress.IsLoopback(address))
                )
            )
        );
}
