using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Which mails one gets, and the way out of them that a mail itself holds.</summary>
public static class OwnMailEndpoints
{
    public static void MapOwnMails(this IEndpointRouteBuilder app)
    {
        var own = app.MapGroup("/api/account/mails").WithTags("Account");
        own.MapGet("", ChosenAsync).WithName("ListOwnMails").WithSummary("Tells which mails one gets.").For(Caller.Readers);
        own.MapPut("", ChooseAsync)
            .WithName("ChooseOwnMails")
            .WithSummary("Has mails of a kind sent to oneself, or none any more.")
            .For(Caller.Readers);

        // A mail program follows it by itself, without anybody's cookie (RFC 8058, section 3.1).
        app.MapGet("/no-more-mails/{token}", AskAsync).For(Caller.Anybody).ExcludeFromDescription();
        app.MapPost("/no-more-mails/{token}", StopAsync).For(Caller.Anybody).WithMetadata(new OpenToAllSites()).ExcludeFromDescription();
    }

    private static async Task<Outcome<OwnMails>> ChosenAsync(
        HttpContext context,
        BeaconDb db,
        MailChoices choices,
        OutboxWriter outbox,
        CancellationToken cancel
    ) =>
        BeaconClaims.PersonOf(context.User) is { } person
            ? new OwnMails(outbox.IsOn, await choices.OfAsync(db.CurrentWorkspaceId, person, cancel))
            : Refusal.NotFound("person");

    private static async Task<Refusal?> ChooseAsync(
        OwnMailChoice choice,
        HttpContext context,
        BeaconDb db,
        MailChoices choices,
        CancellationToken cancel
    )
    {
        if (BeaconClaims.PersonOf(context.User) is not { } person)
        {
            return Refusal.NotFound("person");
        }

        if (choice.Kind is not { } kind || !MailKinds.Wanted.Contains(kind))
        {
            return Refusal.Invalid("mail-kind", $"There are mails of these kinds: {string.Join(", ", MailKinds.Wanted)}.");
        }

        await choices.ChooseAsync(db.CurrentWorkspaceId, person, kind, choice.Wanted, cancel);
        return null;
    }

    /// <summary>Programs that look at the links of a mail end nothing by it: a person presses the button.</summary>
    private static Task AskAsync(string token, HttpContext context, MailStop stops, GuessThrottle guesses)
    {
        SecretPage.Guard(context);
        return stops.Read(token) is null
            ? SecretPage.NobodyAsync(context, guesses)
            : PlainPage.WriteAsync(
                context,
                StatusCodes.Status200OK,
                "Your mails",
                "Do you want no more of these mails?",
                button: "No more of these mails"
            );
    }

    private static async Task StopAsync(
        string token,
        HttpContext context,
        MailStop stops,
        MailChoices choices,
        GuessThrottle guesses,
        CancellationToken cancel
    )
    {
        SecretPage.Guard(context);
        if (stops.Read(token) is not var (workspace, user, kind))
        {
            await SecretPage.NobodyAsync(context, guesses);
            return;
        }

        await choices.ChooseAsync(workspace, user, kind, wanted: false, cancel);
        await PlainPage.WriteAsync(
            context,
            StatusCodes.Status200OK,
            "Your mails",
            "You get no more of these mails. You can ask for them again in your account."
        );
    }
}

/// <summary>Mails a member gets.</summary>
/// <param name="SendsMail">Mails are sent at all.</param>
/// <param name="Kinds">The kinds they asked for.</param>
public sealed record OwnMails(bool SendsMail, IReadOnlyList<string> Kinds);

/// <summary>A wish about mails.</summary>
/// <param name="Kind"><c>page-findings</c>.</param>
/// <param name="Wanted">To get them from now on, or none any more.</param>
public sealed record OwnMailChoice(string? Kind, bool Wanted);
