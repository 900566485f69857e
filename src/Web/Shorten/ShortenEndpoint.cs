using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Shorten;

/// <summary>For tools that can only call a URL pattern: a long URL in, a tagged short one out, as plain text.</summary>
public static class ShortenEndpoint
{
    private const string UrlParameter = "url=";

    public static void MapShorten(this IEndpointRouteBuilder app) =>
        app.MapGet(ShortenPattern.Path, ShortenAsync)
            .WithName("ShortenByAddress")
            .WithSummary("Makes a short link, or finds the one there is, by one address that other tools can call.")
            .For(Caller.Shortener)
            .WithTags("Shorten")
            .WithMetadata(new KeyInAddress())
            .Produces<string>(contentType: "text/plain");

    private static async Task<IResult> ShortenAsync(
        HttpContext context,
        BeaconDb db,
        LinkComposition composition,
        LinkWriter writer,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        context.Response.Headers.CacheControl = "no-store";
        var (parameters, url) = Read(context.Features.Get<IHttpRequestFeature>()!.RawTarget);
        if (string.IsNullOrWhiteSpace(url))
        {
            return PlainLine.Of(StatusCodes.Status400BadRequest, "Put the URL at the end, after “&url=”.");
        }

        string? placement = parameters.GetValueOrDefault("placement").ToString() is { Length: > 0 } p ? p : null;
        string? campaign = parameters.GetValueOrDefault("campaign").ToString() is { Length: > 0 } c ? c : null;
        var worked = await composition.ComposeAsync([new ComposeRequest(url, campaign, placement, Existing: ExistingTags.Keep)], cancel);
        if (!worked[0].Composed.Ready)
        {
            var stop = worked[0].Composed.Notices.First(n => n.Severity == Severity.Error);
            return PlainLine.Of(
                stop.Rule == NoticeRules.DestinationRefused.Name
                    ? StatusCodes.Status400BadRequest
                    : StatusCodes.Status422UnprocessableEntity,
                stop.Message
            );
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        string made = worked[0].Composed.Tagged!.Url;

        // The same input at the same moment waits here, and then finds the link the other one made.
        await RowLock.TextAsync(db, made, cancel);
        var placementId = worked[0].Placement?.Id;
        var link = await db
            .Links.AsNoTracking()
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .Where(l => l.Url == made && l.PlacementId == placementId && l.ShortLinks.Any(s => s.Use == ShortLinkUse.Text))
            .OrderBy(l => l.CreatedAt)
            .FirstOrDefaultAsync(cancel);
        string? shortUrl;
        bool waiting;
        if (link is not null)
        {
            var text = link.ShortLinks.Single(s => s.Use == ShortLinkUse.Text);
            (shortUrl, waiting) = (text.ShortDomain!.UrlOf(text.Slug), link.IsWaiting);
        }
        else
        {
            var stored = await writer.SaveAsync(worked, auditLog.Who, cancel);
            if (stored.IsRefused)
            {
                return PlainLine.Of(Refusals.StatusOf(stored.Refusal.Kind), stored.Refusal.Message);
            }

            await transaction.CommitAsync(cancel);
            var saved = SavedLink.Of(stored.Value[0]);
            (shortUrl, waiting) = (saved.ShortUrl, saved.Waiting);
        }

        return shortUrl is null ? PlainLine.Of(StatusCodes.Status409Conflict, "This workspace has no short domain yet; ask its owner.")
            : waiting
                ? PlainLine.Of(
                    StatusCodes.Status403Forbidden,
                    $"“{worked[0].Composed.Destination!.HostAndPort}” is not one of this workspace's hosts; an owner was asked to approve it."
                )
            : PlainLine.Of(StatusCodes.Status200OK, shortUrl);
    }

    /// <summary>The parameters before the URL, and the URL: decoded where it was encoded, else raw to the end of the line.</summary>
    private static (Dictionary<string, Microsoft.Extensions.Primitives.StringValues> Parameters, string Url) Read(string target)
    {
        int query = target.IndexOf('?', StringComparison.Ordinal);
        int at = -1;
        for (int from = query; from >= 0 && at < 0; from = target.IndexOf('&', from + 1))
        {
            if (string.CompareOrdinal(target, from + 1, UrlParameter, 0, UrlParameter.Length) == 0)
            {
                at = from + 1;
            }
        }

        string before = query < 0 ? "" : target[query..(at < 0 ? target.Length : at)];
        string raw = at < 0 ? "" : target[(at + UrlParameter.Length)..];
        bool encoded =
            raw.StartsWith("http%3A", StringComparison.OrdinalIgnoreCase) || raw.StartsWith("https%3A", StringComparison.OrdinalIgnoreCase);
        return (QueryHelpers.ParseQuery(before), encoded ? PercentEncoding.Decode(raw) : raw);
    }
}
