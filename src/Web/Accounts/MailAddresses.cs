using System.Net.Mail;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Mail addresses as people type them.</summary>
public static class MailAddresses
{
    private const int Longest = 254; // RFC 5321, section 4.5.3.1.3, less its brackets

    /// <summary>The address without spaces around it; null where it is none.</summary>
    public static string? Read(string? typed) =>
        typed?.Trim() is { Length: > 0 and <= Longest } address && MailAddress.TryCreate(address, out var read) && read.Address == address
            ? address
            : null;

    /// <summary>What is said of anything else.</summary>
    public static Refusal Refused() => Refusal.Invalid("mail-refused", "Give a mail address, such as wren@marrowmere.example.");
}
