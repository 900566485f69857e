using PreciseBeacon.Core.Outbox;

namespace PreciseBeacon.Web.Outbox;

/// <summary>Writes to somebody who forgot their password, at the moment the mail goes out.</summary>
public interface IForgottenPasswords
{
    /// <summary>The mail with its link.</summary>
    /// <param name="recipient">The mail address that was typed.</param>
    /// <param name="askedAt">When it was typed.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>Null when nobody has that address, or they were sent a link just before.</returns>
    Task<OutgoingMail?> WriteAsync(string recipient, DateTimeOffset askedAt, CancellationToken cancel);
}
