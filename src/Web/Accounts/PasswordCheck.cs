using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Compares passwords. Whether the account exists shows neither in the answer nor in the time it takes.</summary>
public sealed class PasswordCheck(IPasswordHasher<AppUser> hasher, SignInThrottle throttle, KnownDevice devices)
{
    private static readonly AppUser Nobody = new() { DisplayName = "" };

    // Made once: neither what it is compared with nor the answer matters.
    private static readonly Lazy<string> NobodysHash = new(() =>
        new PasswordHasher<AppUser>().HashPassword(Nobody, Guid.NewGuid().ToString())
    );

    /// <summary>Why a sign-in is refused; null when account and password go together.</summary>
    /// <param name="context">The request.</param>
    /// <param name="mail">The mail address as typed.</param>
    /// <param name="user">Whose it is; null for nobody's.</param>
    /// <param name="password">The password as typed.</param>
    public async Task<Refusal?> CheckAsync(HttpContext context, string mail, AppUser? user, string password)
    {
        string? device = user is not null && devices.Of(context) is { } known && known.UserId == user.Id ? known.Device : null;
        if (!throttle.MayTry(mail, context.Connection.RemoteIpAddress, device))
        {
            context.Response.Headers.RetryAfter = "120";
            return Refusal.TooOften(
                "too-many-wrong-passwords",
                "Too many wrong passwords were tried for this account from here; wait two minutes and try again."
            );
        }

        string typed = password.Length <= PasswordRules.Longest ? password : "";
        var outcome = await Task.Run(
            () => hasher.VerifyHashedPassword(user ?? Nobody, user?.PasswordHash ?? NobodysHash.Value, typed),
            context.RequestAborted
        );
        if (outcome != PasswordVerificationResult.Failed && user?.PasswordHash is not null)
        {
            return null;
        }

        throttle.CountWrong(mail, context.Connection.RemoteIpAddress, device);
        return Refusal.Invalid("sign-in-failed", "Wrong mail address or password; check both.");
    }

    /// <summary>Why a new password is refused; null when it is accepted.</summary>
    /// <param name="password">The password as typed.</param>
    /// <param name="ownWords">What is known about the person.</param>
    public static Refusal? WhyNot(string password, IEnumerable<string> ownWords) =>
        PasswordRules.FaultOf(password, ownWords) switch
        {
            PasswordFault.TooShort => Refused(
                $"A password has at least {PasswordRules.Shortest} characters; a few words in a row are easy to remember."
            ),
            PasswordFault.TooLong => Refused($"A password has at most {PasswordRules.Longest} characters."),
            PasswordFault.Common => Refused("This password is one of the most common ones; choose another."),
            PasswordFault.OwnWords => Refused(
                "This password is made of your name, address or organisation; choose words nobody connects with you."
            ),
            _ => null,
        };

    private static Refusal Refused(string says) => Refusal.Invalid("password-refused", says);
}
