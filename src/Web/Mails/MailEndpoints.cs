using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Mails;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Mails;

/// <summary>HTML mails in, each of their links tagged, the same mail out.</summary>
public static class MailEndpoints
{
    public static void MapMails(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Mails").TellTheLater();
        group
            .MapGet("/mails", async (MailStore store, CancellationToken cancel) => TypedResults.Ok(await store.ListAsync(cancel)))
            .WithName("ListMails")
            .WithSummary("Lists uploaded mails.")
            .For(Caller.Readers);
        group
            .MapPost("/mails", UploadAsync)
            .WithName("BringMail")
            .WithSummary("Takes an HTML mail in.")
            .For(Caller.Builders)
            .WithMetadata(new RequestSizeLimitAttribute((MailStore.MostMegabytes + 1L) << 20));
        group.MapGet("/mails/{id:guid}", OneAsync).WithName("ReadMail").WithSummary("Reads a mail with its links.").For(Caller.Readers);
        group
            .MapPut("/mails/{id:guid}", ChooseAsync)
            .WithName("ChooseForMail")
            .WithSummary("Chooses what the links of a mail get.")
            .For(Caller.Builders);
        group
            .MapPost("/mails/{id:guid}/make", MakeAsync)
            .WithName("WriteMailLinks")
            .WithSummary("Writes the links into a mail.")
            .For(Caller.Builders);
        group
            .MapPost("/mails/{id:guid}/send", SendAsync)
            .WithName("SendTestMail")
            .WithSummary("Sends the mail to the inbox that stands in for a real one.")
            .For(Caller.Builders);
        group
            .MapGet("/mails/{id:guid}/result", ResultAsync)
            .WithName("ReadMailResult")
            .WithSummary("Gives the mail with its links.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "message/rfc822");
        group
            .MapGet("/mails/{id:guid}/before", BeforeAsync)
            .WithName("ShowMailBefore")
            .WithSummary("Shows the mail as it came, shut in.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/html");
        group
            .MapGet("/mails/{id:guid}/after", AfterAsync)
            .WithName("ShowMailAfter")
            .WithSummary("Shows the mail with its links, shut in.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/html");
    }

    /// <summary>Takes a mail in: the body is HTML, or a message as it was saved (.eml); <c>name</c> is the file's.</summary>
    private static async Task<Results<Created<MailMade>, ProblemHttpResult>> UploadAsync(
        HttpContext context,
        MailStore store,
        CancellationToken cancel,
        string name = "Mail"
    )
    {
        var (file, refusal) = await UploadedFile.ReadAsync(context, MailStore.MostMegabytes, "A mail", cancel);
        using (file)
        {
            if (refusal is not null)
            {
                return refusal.ToResult();
            }

            try
            {
                var mail = await store.TakeInAsync(Path.GetFileName(name), file.ToArray(), cancel);
                return TypedResults.Created($"/api/v1/mails/{mail.Id}", new MailMade(mail.Id));
            }
            catch (FormatException broken)
            {
                return Refusal.Unacceptable("mail-refused", broken.Message).ToResult();
            }
        }
    }

    private static async Task<Outcome<MailAnswer>> OneAsync(Guid id, MailStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is { } mail ? await store.AnswerAsync(mail, cancel) : Refusal.NotFound("mail");

    private static async Task<Outcome<MailAnswer>> ChooseAsync(Guid id, MailChoices choices, MailStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is not { } mail ? Refusal.NotFound("mail")
        : await store.ChooseAsync(mail, choices, cancel) is { } refusal ? refusal
        : await store.AnswerAsync(mail, cancel);

    private static async Task<Outcome<MailAnswer>> MakeAsync(Guid id, MailStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is not { } mail ? Refusal.NotFound("mail")
        : await store.MakeAsync(mail, cancel) is { } refusal ? refusal
        : await store.AnswerAsync((await store.FindAsync(id, cancel))!, cancel);

    /// <summary>Sends the mail with its links to the inbox, to be looked at and clicked.</summary>
    private static async Task<Outcome<TrialSent>> SendAsync(Guid id, MailStore store, Inbox inbox, CancellationToken cancel)
    {
        if (await store.FindAsync(id, cancel) is not { } mail)
        {
            return Refusal.NotFound("mail");
        }

        if (inbox.Address is null)
        {
            return Refusal.Conflict("no-inbox", "This installation has no test inbox; download the mail and send it with your own tool.");
        }

        if (mail.Written.Count == 0)
        {
            return Refusal.Conflict("links-not-made", "The mail’s links are not created yet; create them first, then send the test mail.");
        }

        var file = MailFile.Read(mail.File);
        return await inbox.SendAsync(file.With(MailStore.Written(mail)), file.IsMessage, mail.Subject ?? mail.Name, cancel) is { } where
            ? new TrialSent(where)
            : Refusal.OutsideFailed("inbox-away", "The inbox does not answer; nothing was sent. Try again in a moment.");
    }

    private static async Task<IResult> ResultAsync(Guid id, MailStore store, CancellationToken cancel)
    {
        if (await store.FindAsync(id, cancel) is not { } mail)
        {
            return Refusal.NotFound("mail").ToResult();
        }

        var file = MailFile.Read(mail.File);
        string type = file.IsMessage ? ".eml" : ".html";
        return Results.Bytes(
            file.With(MailStore.Written(mail)),
            file.IsMessage ? "message/rfc822" : "application/octet-stream",
            $"{Path.GetFileNameWithoutExtension(mail.Name)} – tagged{type}"
        );
    }

    private static async Task<IResult> BeforeAsync(Guid id, HttpContext context, MailStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is { } mail
            ? Preview(context, MailFile.Read(mail.File).Readable)
            : Refusal.NotFound("mail").ToResult();

    private static async Task<IResult> AfterAsync(Guid id, HttpContext context, MailStore store, CancellationToken cancel) =>
        await store.FindAsync(id, cancel) is { } mail
            ? Preview(context, MailFile.Read(mail.File).ReadableWith(await store.AddressesAsync(mail, cancel)))
            : Refusal.NotFound("mail").ToResult();

    /// <summary>A stranger's HTML is shown in a sandbox with an origin of its own: no script, no form, nothing fetched, no way out of its frame.</summary>
    private static IResult Preview(HttpContext context, string html)
    {
        context.Response.Headers.ContentSecurityPolicy =
            "sandbox; default-src 'none'; img-src data:; style-src 'unsafe-inline'; form-action 'none'; base-uri 'none'; frame-ancestors 'self'";
        context.Response.Headers.XFrameOptions = "SAMEORIGIN";
        context.Response.Headers.CacheControl = "no-store";
        return Results.Text(html, "text/html; charset=utf-8");
    }
}
