using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;

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
        PersonOf(context) is { } person
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
        if (PersonOf(context) is not { } person)
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
    private static ContentHttpResult AskAsync(string token, MailStop stops) =>
        stops.Read(token) is null
            ? Page(
                "This link is not complete. Use the one in the mail, or choose your mails in your account.",
                StatusCodes.Status404NotFound
            )
            : Page(
                "Do you want no more of these mails?",
                StatusCodes.Status200OK,
                "<form method=\"post\"><button>No more of these mails</button></form>"
            );

    private static async Task<ContentHttpResult> StopAsync(string token, MailStop stops, MailChoices choices, CancellationToken cancel)
    {
        if (stops.Read(token) is not var (workspace, user, kind))
        {
            return Page(
                "This link is not complete. Use the one in the mail, or choose your mails in your account.",
                StatusCodes.Status404NotFound
            );
        }

        await choices.ChooseAsync(workspace, user, kind, wanted: false, cancel);
        return Page("You get no more of these mails. You can ask for them again in your account.", StatusCodes.Status200OK);
    }

    private static ContentHttpResult Page(string says, int status, string form = "") =>
        TypedResults.Content(
            $"<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\"><title>Mails</title></head><body><main><h1>Mails</h1><p>{says}</p>{form}</main></body></html>",
            "text/html",
            System.Text.Encoding.UTF8,
            status
        );

    private static Guid? PersonOf(HttpContext context) =>
        Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : null;
}

/// <summary>Mails a member gets.</summary>
/// <param name="SendsMail">Mails are sent at all.</param>
/// <param name="Kinds">The kinds they asked for.</param>
public sealed record OwnMails(bool SendsMail, IReadOnlyList<string> Kinds);

/// <summary>A wish about mails.</summary>
/// <param name="Kind"><c>page-findings</c>.</param>
/// <param name="Wanted">To get them from now on, or none any more.</param>
public sealed record OwnMailChoice(string? Kind, bool Wanted);
