namespace PreciseBeacon.Core.Outbox;

/// <summary>
/// When a mail that could not be handed over is tried again. RFC 5321, section 4.5.4.1, asks for pauses of 30 minutes and for four to five
/// days before one gives up; the first tries come sooner here, because somebody waits for the mail.
/// </summary>
public static class DeliverySchedule
{
    /// <summary>How long a mail is tried for.</summary>
    public static readonly TimeSpan GivenUpAfter = TimeSpan.FromDays(4);

    private static readonly TimeSpan First = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(30);

    /// <summary>When to try next: after 1, 2, 4, … and then every 30 minutes.</summary>
    /// <param name="tries">How often it was tried, from 1.</param>
    /// <param name="madeAt">When the mail was written.</param>
    /// <param name="now">The time.</param>
    /// <returns>Null where it is given up.</returns>
    public static DateTimeOffset? Next(int tries, DateTimeOffset madeAt, DateTimeOffset now)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(tries, 1);
        var pause = tries > 6 ? Longest : First * Math.Pow(2, tries - 1);
        var next = now + (pause < Longest ? pause : Longest);
        return next - madeAt > GivenUpAfter ? null : next;
    }

    /// <summary>A mail server's answer 5xx says that trying again is in vain (RFC 5321, section 4.2.1).</summary>
    /// <param name="code">The answer's code.</param>
    public static bool IsFinal(int code) => code is >= 500 and <= 599;
}
