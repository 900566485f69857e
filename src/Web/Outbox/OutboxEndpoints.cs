using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outbox;

/// <summary>What was sent, what waits, and whether mails go out at all.</summary>
public static class OutboxEndpoints
{
    private const int MostShown = 100;

    public static void MapOutbox(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/outgoing-mails").WithTags("Outgoing mails");
        group
            .MapGet("", ListAsync)
            .WithName("ListOutgoingMails")
            .WithSummary("Tells whether mails are sent, and what became of the newest 100.")
            .For(Caller.Owner);
        group.MapPost("/test", TestAsync).WithName("SendOwnTestMail").WithSummary("Sends a test mail to whoever asks.").For(Caller.Owner);
    }

    private static async Task<Ok<OutboxAnswer>> ListAsync(
        BeaconDb db,
        MailQueue queue,
        IOptions<BeaconOptions> options,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            new OutboxAnswer(
                OutboxSettings.FromOf(options.Value) is { } from
                    ? from.Name is { Length: > 0 } name
                        ? $"{name} ({from.Address})"
                        : from.Address
                    : null,
                await queue.ListAsync(db.CurrentWorkspaceId, MostShown, cancel)
            )
        );

    private static async Task<Refusal?> TestAsync(
        HttpContext context,
        BeaconDb db,
        OutboxWriter outbox,
        IOptions<BeaconOptions> options,
        CancellationToken cancel
    )
    {
        if (!outbox.IsOn)
        {
            return Refusal.Unacceptable("mail-off", "No mails are sent from here; set the mail server first (docs/mail.md).");
        }

        if (
            BeaconClaims.PersonOf(context.User) is not { } id
            || await db.Users.Where(u => u.Id == id).Select(u => u.Email).SingleOrDefaultAsync(cancel) is not { } recipient
        )
        {
            return Refusal.NotFound("person");
        }

        string workspace = await db.Workspaces.Where(w => w.Id == db.CurrentWorkspaceId).Select(w => w.Name).SingleAsync(cancel);
        await outbox.AddAsync(recipient, AccountMails.Test(workspace, options.Value.PublicUrl), cancel);
        outbox.Wake();
        return null;
    }
}

/// <summary>Mails of the workspace.</summary>
/// <param name="From">Who mails are from; null where none are sent.</param>
/// <param name="Mails">The newest 100, the newest first.</param>
public sealed record OutboxAnswer(string? From, IReadOnlyList<MailState> Mails);
