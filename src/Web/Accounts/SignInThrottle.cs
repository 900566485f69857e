using System.Net;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// Slows guessing of passwords down without ever locking anybody out. Every sign-in is limited by its network; wrong
/// passwords by account and network together, so that a guesser slows only themselves; and by account over all networks
/// (OWASP ASVS 4.0.3, 2.2.1), which one network alone can't use up. A known device of the account is counted by itself.
/// </summary>
public sealed class SignInThrottle : IDisposable
{
    /// <summary>Name of the endpoint policy.</summary>
    public const string Policy = "sign-in";

    private const string RetrySeconds = "60";

    private readonly PartitionedRateLimiter<(string Account, IPAddress Network)> _pairs = TokenBuckets.Of<(string, IPAddress)>(
        burst: 10,
        again: 1,
        every: TimeSpan.FromMinutes(2)
    );
    private readonly PartitionedRateLimiter<string> _accounts = TokenBuckets.Of<string>(
        burst: 100,
        again: 5,
        every: TimeSpan.FromMinutes(3)
    );
    private readonly PartitionedRateLimiter<string> _devices = TokenBuckets.Of<string>(burst: 20, again: 1, every: TimeSpan.FromMinutes(1));

    /// <summary>Whether a password may be tried; only wrong ones use anything up.</summary>
    /// <param name="account">The mail address as typed; it need not belong to anybody.</param>
    /// <param name="address">The client's address.</param>
    /// <param name="device">A known device of this very account; null for none.</param>
    public bool MayTry(string account, IPAddress? address, string? device) =>
        device is not null
            ? IsLeft(_devices, device)
            : IsLeft(_pairs, (Key(account), ClientNetwork.Of(address))) && IsLeft(_accounts, Key(account));

    /// <summary>Counts a wrong password.</summary>
    public void CountWrong(string account, IPAddress? address, string? device)
    {
        if (device is not null)
        {
            _devices.AttemptAcquire(device).Dispose();
            return;
        }

        _pairs.AttemptAcquire((Key(account), ClientNetwork.Of(address))).Dispose();
        _accounts.AttemptAcquire(Key(account)).Dispose();
    }

    public void Dispose()
    {
        _pairs.Dispose();
        _accounts.Dispose();
        _devices.Dispose();
    }

    /// <summary>The endpoint's own limit: every sign-in tried, whoever is named.</summary>
    public static void Configure(RateLimiterOptions options)
    {
        options.AddPolicy(Policy, context =>
        {
            string? device = context.RequestServices.GetRequiredService<KnownDevice>().Of(context)?.Device;
            return RateLimitPartition.GetTokenBucketLimiter(device ?? ClientNetwork.Of(context.Connection.RemoteIpAddress).ToString(), _ =>
                TokenBuckets.Options(burst: 60, again: 20, TimeSpan.FromMinutes(1))
            );
        });
        options.OnRejected = (rejected, _) =>
        {
            rejected.HttpContext.Response.Headers.RetryAfter = RetrySeconds;
            return new ValueTask(
                Refusals.WriteAsync(
                    rejected.HttpContext,
                    StatusCodes.Status429TooManyRequests,
                    "too-many-sign-ins",
                    "Too many sign-ins were tried from here; wait a minute and try again."
                )
            );
        };
    }

    private static string Key(string account) =>
        account.Trim().ToUpperInvariant() is { Length: > 256 } much ? much[..256] : account.Trim().ToUpperInvariant();

    // Asking for no permit is granted on any fraction of one that has grown again, so what is left is counted.
    private static bool IsLeft<T>(PartitionedRateLimiter<T> limiter, T key) =>
        limiter.GetStatistics(key) is not { CurrentAvailablePermits: < 1 };
}
