using Microsoft.Extensions.Options;
using MimeKit;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outbox;

/// <summary>Mails on their way out: written with what they are about, sent soon after.</summary>
public sealed class OutboxWriter(BeaconDb db, MailQueue queue, OutboxSignal signal, IOptions<BeaconOptions> options, TimeProvider clock)
{
    /// <summary>There is a mail server, and somebody mails are from.</summary>
    public bool IsOn => OutboxSettings.FromOf(options.Value) is not null;

    /// <summary>Writes a mail within the transaction of the database context; <see cref="Wake"/> once that has committed.</summary>
    public Task AddAsync(string recipient, OutgoingMail mail, CancellationToken cancel) =>
        MailQueue.AddAsync(db, recipient, mail, clock.GetUtcNow(), cancel);

    /// <summary>Has what was written sent now.</summary>
    public void Wake() => signal.Wake();

    /// <summary>Notes that somebody forgot their password.</summary>
    public async Task AddForgottenAsync(string recipient, CancellationToken cancel)
    {
        await queue.AddForgottenAsync(recipient, clock.GetUtcNow(), cancel);
        signal.Wake();
    }
}

/// <summary>Wakes whoever sends mails in this process, so that nobody waits for its next look.</summary>
public sealed class OutboxSignal : IDisposable
{
    private readonly SemaphoreSlim _something = new(0, 1);

    /// <summary>There is something to send.</summary>
    public void Wake()
    {
        try
        {
            _something.Release();
        }
        catch (SemaphoreFullException)
        {
            // It is awake already.
        }
    }

    /// <summary>Waits until there is something, or for so long.</summary>
    public Task WaitAsync(TimeSpan longest, CancellationToken cancel) => _something.WaitAsync(longest, cancel);

    /// <inheritdoc />
    public void Dispose() => _something.Dispose();
}

/// <summary>What the settings say of mails.</summary>
public static class OutboxSettings
{
    /// <summary>Who mails are from; null where none are sent.</summary>
    public static MailboxAddress? FromOf(BeaconOptions options) =>
        options.Smtp is { Host.Length: > 0, From: { Length: > 0 } from } && MailboxAddress.TryParse(from, out var read) ? read : null;
}
