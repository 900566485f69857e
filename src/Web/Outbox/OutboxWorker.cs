using Microsoft.Extensions.Options;
using MimeKit;
using Npgsql;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outbox;

/// <summary>
/// Sends the mails that wait, in every process: each is claimed by one. A process that dies between handing a mail over and saying so has it
/// sent again, with the same id, two minutes later; none is lost.
/// </summary>
public sealed partial class OutboxWorker(
    DatabaseSetup setup,
    MailQueue queue,
    OutboxSignal signal,
    SmtpSender sender,
    IServiceScopeFactory scopes,
    IOptions<BeaconOptions> options,
    TimeProvider clock,
    ILogger<OutboxWorker> log
) : DatabaseWorker(setup)
{
    /// <summary>Mails of other processes, and those whose pause is over, are looked for so often.</summary>
    private static readonly TimeSpan LooksEvery = TimeSpan.FromSeconds(10);

    private readonly Outage _outage = new(log, "Mails are sent later.");

    protected override async Task WorkAsync(CancellationToken stopping)
    {
        if (OutboxSettings.FromOf(options.Value) is not { } from)
        {
            return;
        }

        while (!stopping.IsCancellationRequested)
        {
            try
            {
                while (await queue.ClaimAsync(clock.GetUtcNow(), stopping) is { } mail)
                {
                    await SendAsync(mail, from, stopping);
                }

                _outage.End();
                await sender.CloseAsync();
                await signal.WaitAsync(LooksEvery, stopping);
            }
            catch (Exception failure) when (failure is NpgsqlException or TimeoutException or IOException)
            {
                _outage.Begin(failure);
                await Task.Delay(LooksEvery, stopping).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
            catch (OperationCanceledException)
            {
                return;
            }
        }
    }

    private async Task SendAsync(QueuedMail mail, MailboxAddress from, CancellationToken stopping)
    {
        var delivery = await HandOverAsync(mail, from, stopping);
        var now = clock.GetUtcNow();
        switch (delivery)
        {
            case null:
                await queue.DropAsync(mail.Id, stopping);
                break;
            case { What: Handed.Over }:
                // Also while the process stops: it was sent, and is not to be sent again.
                await queue.SentAsync(mail.Id, now, delivery.Answer, CancellationToken.None);
                break;
            case { What: Handed.Refused }:
                await queue.FailedAsync(mail.Id, now, null, delivery.Answer, stopping);
                break;
            default:
                await queue.FailedAsync(mail.Id, now, DeliverySchedule.Next(mail.Tries, mail.MadeAt, now), delivery.Answer, stopping);
                break;
        }
    }

    /// <summary>Null when there is nobody to send it to.</summary>
    private async Task<Delivery?> HandOverAsync(QueuedMail mail, MailboxAddress from, CancellationToken stopping)
    {
        if (!MailboxAddress.TryParse(mail.Recipient, out var to))
        {
            return new Delivery(Handed.Refused, "This is no mail address.");
        }

        if (await sender.ConnectAsync(stopping) is { } away)
        {
            return new Delivery(Handed.Later, away);
        }

        try
        {
            return await ComposeAsync(mail, from, to, stopping) is { } message ? await sender.SendAsync(message, stopping) : null;
        }
        catch (Exception failure) when (failure is not OperationCanceledException)
        {
            // One mail that can't be written holds up no other.
            LogFault(mail.Id, failure);
            return new Delivery(Handed.Later, "The mail could not be written; the log says why.");
        }
    }

    /// <summary>The mail as it goes out; null when there is nobody to send it to.</summary>
    private async Task<MimeMessage?> ComposeAsync(QueuedMail mail, MailboxAddress from, MailboxAddress to, CancellationToken cancel)
    {
        var (subject, text, html) = (mail.Subject, mail.Text, mail.Html);
        if (mail.Kind == MailKinds.Forgotten)
        {
            await using var scope = scopes.CreateAsyncScope();
            var passwords = scope.ServiceProvider.GetRequiredService<IForgottenPasswords>();
            if (await passwords.WriteAsync(mail.Recipient, mail.MadeAt, cancel) is not { } written)
            {
                return null;
            }

            (subject, text, html) = (written.Subject, written.Text(), written.Html());
        }

        var message = new MimeMessage
        {
            Subject = subject,
            Date = mail.MadeAt,
            // The same at every try, so that whoever gets it twice can tell (RFC 5322, section 3.6.4).
            MessageId = $"{mail.Id:N}@{(from.Domain is { Length: > 0 } domain ? domain : "localhost")}",
            Body = new BodyBuilder { TextBody = text, HtmlBody = html }.ToMessageBody(),
        };
        message.From.Add(from);
        message.To.Add(to);

        if (mail.StopAddress is { } stop)
        {
            // One click in the mail program ends them (RFC 2369, section 3.2; RFC 8058, section 3.1).
            message.Headers.Add(HeaderId.ListUnsubscribe, $"<{stop}>");
            message.Headers.Add(HeaderId.ListUnsubscribePost, "List-Unsubscribe=One-Click");
        }

        // Nobody's absence note answers it (RFC 3834, section 5).
        message.Headers.Add("Auto-Submitted", "auto-generated");
        return message;
    }

    [LoggerMessage(LogLevel.Error, "The mail {Id} could not be written; it is tried again later.")]
    private partial void LogFault(Guid id, Exception failure);
}
