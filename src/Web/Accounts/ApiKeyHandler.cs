using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Accounts;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Recognises programs by their key. Only a hash of a key is stored, and keys never reach the log.</summary>
public sealed class ApiKeyHandler(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    BeaconDb db,
    RunMode mode,
    KeyThrottle throttle,
    KeyUses uses,
    TimeProvider clock
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    public new const string Scheme = "Bearer";

    private const string GuessedTooOften = "key-guessed-too-often";

    /// <summary>True when wrong keys came too often from the client's address.</summary>
    public static bool IsGuessing(HttpContext context) => context.Items[GuessedTooOften] is true;

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        string header = Request.Headers.Authorization.ToString();
        bool inAddress = header.Length == 0 && KeyInAddress.Of(Context) is not null && Request.Query["key"].Count > 0;
        if (!inAddress && !header.StartsWith(Scheme + " ", StringComparison.OrdinalIgnoreCase))
        {
            return AuthenticateResult.NoResult();
        }

        var now = clock.GetUtcNow();
        byte[] hash = ApiKey.HashOf(inAddress ? Request.Query["key"][0]! : header[(Scheme.Length + 1)..].Trim());
        var key = await db
            .ApiKeys.IgnoreQueryFilters()
            .AsNoTracking()
            .SingleOrDefaultAsync(
                k => k.Hash == hash && k.RevokedAt == null && (k.ExpiresAt == null || k.ExpiresAt > now),
                Context.RequestAborted
            );
        // A key in an address is easily seen by others, so only the kind that can do nothing else is taken from there.
        if (key is null || (key.DemoOnly && !mode.IsDemo) || (inAddress && key.Role != Role.Shortener))
        {
            // A right key is never held up; whoever guesses is, by the gate.
            Context.Items[GuessedTooOften] = !throttle.CountWrong(Context.Connection.RemoteIpAddress);
            return AuthenticateResult.Fail("The key is not known.");
        }

        uses.Mark(key.Id, now);
        var identity = new ClaimsIdentity(
            [
                new Claim(ClaimTypes.Name, key.Name),
                new Claim(BeaconClaims.Workspace, key.WorkspaceId.ToString()),
                new Claim(BeaconClaims.Role, key.Role.ToString()),
            ],
            Scheme
        );
        return AuthenticateResult.Success(new AuthenticationTicket(new ClaimsPrincipal(identity), Scheme));
    }
}

/// <summary>Marks an endpoint for tools that can only call a URL pattern: its key may stand in the address, and it answers in one plain line.</summary>
public sealed record KeyInAddress
{
    /// <summary>The mark of the endpoint a request is for; null where there is none.</summary>
    public static KeyInAddress? Of(HttpContext context) => context.GetEndpoint()?.Metadata.GetMetadata<KeyInAddress>();
}
