using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Web.Accounts;

/// <summary>
/// A mark on a browser somebody has signed in with. It lets nobody in; but where others try wrong passwords, its owner is
/// not slowed down along with them.
/// </summary>
public sealed class KnownDevice(IDataProtectionProvider protection)
{
    private const string CookieName = "beacon-device";
    private const string AccountPath = "/api/account";
    private static readonly TimeSpan KeptFor = TimeSpan.FromDays(365);

    private readonly ITimeLimitedDataProtector _protector = protection.CreateProtector(nameof(KnownDevice)).ToTimeLimitedDataProtector();

    /// <summary>Marks the browser as one of a person's.</summary>
    public void Mark(HttpContext context, Guid userId) =>
        context.Response.Cookies.Append(
            CookieName,
            _protector.Protect($"{userId:N}{Guid.NewGuid():N}", KeptFor),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Strict,
                Secure = context.Request.IsHttps,
                Path = AccountPath,
                MaxAge = KeptFor,
                IsEssential = true,
            }
        );

    /// <summary>The person whose browser this is, and which of theirs; null for a browser nobody has signed in with.</summary>
    public (Guid UserId, string Device)? Of(HttpContext context)
    {
        if (context.Request.Cookies[CookieName] is not { Length: > 0 and < 1_000 } mark)
        {
            return null;
        }

        try
        {
            string says = _protector.Unprotect(mark);
            return says.Length == 64 && Guid.TryParseExact(says[..32], "N", out var userId) ? (userId, says[32..]) : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }
}
