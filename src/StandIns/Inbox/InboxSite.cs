using System.Text;
using MimeKit;

namespace PreciseBeacon.StandIns.Inbox;

/// <summary>An inbox that shows mails as they came and lets one click them. Nothing leaves this machine.</summary>
public static class InboxSite
{
    private const int MostKept = 50;
    private const int MostOctets = 11 << 20;

    /// <param name="app">Where its pages are.</param>
    /// <param name="letterbox">Where mails come in from mail servers.</param>
    public static void MapInbox(this IEndpointRouteBuilder app, Letterbox letterbox)
    {
        var mails = new List<ReceivedMail>();
        var guard = new Lock();
        int count = 0;
        var group = app.MapGroup("").RequireHost("inbox.localhost");
        letterbox.Came = (mail, cancel) => KeepAsync(mail, isMessage: true, "Mail", cancel);

        group.MapGet("/", () =>
        {
            lock (guard)
            {
                string rows = string.Concat(
                    mails
                        .AsEnumerable()
                        .Reverse()
                        .Select(m =>
                            $"<tr><td><a href=\"/mail/{m.Number}\">{PlainPage.Text(m.Subject)}</a></td><td>{PlainPage.Text(m.From)}</td><td>{PlainPage.Text(m.To)}</td><td>{m.At:HH:mm}</td></tr>"
                        )
                );
                return PlainPage.Show(
                    "Inbox of a friend of the garden",
                    (mails.Count == 0 ? "<p>No mail yet.</p>" : $"<table><tbody>{rows}</tbody></table>")
                        + "<form method=\"post\" action=\"/drop\" enctype=\"multipart/form-data\"><p><label>Mail <input type=\"file\" name=\"mail\" aria-label=\"Mail\"></label> <button>Put it into the inbox</button></p></form>"
                );
            }
        });

        group.MapGet("/mail/{number:int}", (int number) =>
            Find(number) is { } mail
                ? PlainPage.Show(
                    mail.Subject,
                    $"<p>From {PlainPage.Text(mail.From)}{(mail.To.Length > 0 ? $" to {PlainPage.Text(mail.To)}" : "")} · <a href=\"/\">Inbox</a></p><iframe title=\"Mail\" sandbox=\"allow-top-navigation-by-user-activation\" src=\"/mail/{number}/html\"></iframe>"
                )
                : Results.NotFound()
        );

        // A reader of mails opens links outside the mail; everything else is the mail as it came.
        group.MapGet("/mail/{number:int}/html", (HttpContext context, int number) =>
        {
            context.Response.Headers.ContentSecurityPolicy =
                "default-src 'none'; img-src data:; style-src 'unsafe-inline'; frame-ancestors 'self'";
            return Find(number) is { } mail
                ? Results.Text($"<base target=\"_top\">{mail.Html}", "text/html; charset=utf-8")
                : Results.NotFound();
        });

        group.MapPost("/received", async (HttpContext context, CancellationToken cancel, string? subject = null) =>
        {
            using var body = new MemoryStream();
            await context.Request.Body.CopyToAsync(body, cancel);
            return body.Length > MostOctets ? Results.StatusCode(StatusCodes.Status413PayloadTooLarge)
                : await KeepAsync(
                    body.ToArray(),
                    context.Request.ContentType?.StartsWith("message/", StringComparison.Ordinal) == true,
                    subject ?? "Mail",
                    cancel
                )
                    is { } mail
                    ? Results.Text($"/mail/{mail.Number}")
                : Results.BadRequest();
        });

        group
            .MapPost("/drop", async (HttpContext context, CancellationToken cancel) =>
            {
                var form = await context.Request.ReadFormAsync(cancel);
                if (form.Files["mail"] is not { Length: > 0 and < MostOctets } file)
                {
                    return Results.Redirect("/");
                }

                using var body = new MemoryStream();
                await file.CopyToAsync(body, cancel);
                var mail = await KeepAsync(
                    body.ToArray(),
                    file.FileName.EndsWith(".eml", StringComparison.OrdinalIgnoreCase),
                    file.FileName,
                    cancel
                );
                return Results.Redirect(mail is null ? "/" : $"/mail/{mail.Number}");
            })
            .DisableAntiforgery();

        ReceivedMail? Find(int number)
        {
            lock (guard)
            {
                return mails.FirstOrDefault(m => m.Number == number);
            }
        }

        async Task<ReceivedMail?> KeepAsync(byte[] file, bool isMessage, string subject, CancellationToken cancel)
        {
            string html = Encoding.UTF8.GetString(file),
                from = "the garden",
                to = "";
            if (isMessage)
            {
                using var stream = new MemoryStream(file);
                var message = await MimeMessage.LoadAsync(stream, cancel);
                (html, from, to, subject) = (
                    message.HtmlBody ?? "",
                    message.From.ToString(),
                    message.To.ToString(),
                    message.Subject ?? subject
                );
            }

            lock (guard)
            {
                var mail = new ReceivedMail(++count, subject, from, to, html, DateTimeOffset.Now);
                mails.Add(mail);
                if (mails.Count > MostKept)
                {
                    mails.RemoveAt(0);
                }

                return mail;
            }
        }
    }
}
