using System.Net;
using System.Threading.RateLimiting;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Slows down whoever tries many sign-ins from one address, whichever names they try.</summary>
public sealed class SignInThrottle : IDisposable
{
    private readonly PartitionedRateLimiter<IPAddress> _limiter = PartitionedRateLimiter.Create<IPAddress, IPAddress>(address =>
        RateLimitPartition.GetTokenBucketLimiter(address, static _ => new TokenBucketRateLimiterOptions
        {
            TokenLimit = 60,
            TokensPerPeriod = 20,
            ReplenishmentPeriod = TimeSpan.FromMinutes(1),
        }));

    public bool MayTry(IPAddress? address)
    {
        using var lease = _limiter.AttemptAcquire(address ?? IPAddress.None);
        return lease.IsAcquired;
    }

    public void Dispose() => _limiter.Dispose();
}

/// <summary>Holds sign-ins up that come too often.</summary>
public sealed class SignInGate(RequestDelegate next, SignInThrottle throttle)
{
    public Task InvokeAsync(HttpContext context)
    {
        if (throttle.MayTry(context.Connection.RemoteIpAddress))
        {
            return next(context);
        }

        context.Response.Headers.RetryAfter = "60";
        return Refusal.WriteAsync(context, StatusCodes.Status429TooManyRequests, "too-many-sign-ins", "Too many sign-ins were tried from here; wait a minute and try again.");
    }
}
