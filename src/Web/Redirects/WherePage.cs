using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Redirects;

/// <summary>The public page that says where a short link leads, since when, and whose it is; following it is left to the reader.</summary>
public sealed class WherePage(BeaconDb db, IOptions<BeaconOptions> options, TimeProvider clock)
{
    /// <summary>Shows the page of a slug that is known.</summary>
    public async Task ShowAsync(HttpContext context, SlugEntry entry, CancellationToken cancel)
    {
        var found = await db
            .ShortLinks.IgnoreQueryFilters()
            .AsNoTracking()
            .Where(s => s.Id == entry.ShortLinkId)
            .Select(s => new
            {
                s.Link!.Title,
                s.Target,
                s.CreatedAt,
                s.Link.RoutedAt,
                s.Link.UsesLeft,
                Results = db
                    .ResultPages.IgnoreQueryFilters()
                    .Where(p => p.LinkId == s.LinkId && p.RevokedAt == null && p.OnWherePage)
                    .Select(p => p.Token)
                    .FirstOrDefault(),
                Workspace = db.Workspaces.Where(w => w.Id == s.WorkspaceId).Select(w => new { w.Name, w.TimeZone }).Single(),
            })
            .SingleOrDefaultAsync(cancel);
        if (found is null)
        {
            await PlainPage.WriteAsync(
                context,
                StatusCodes.Status404NotFound,
                "No such link",
                "There is no link at this address; check the spelling, or ask whoever gave it to you."
            );
            return;
        }

        var now = clock.GetUtcNow();
        var (outcome, address) = (entry.Conditions ?? new RouteConditions(false, null, null)).At(
            found.Target,
            now,
            Device.Of(context.Request.Headers.UserAgent.ToString())
        );
        string since = WorkspaceDay
            .At(found.RoutedAt ?? found.CreatedAt, found.Workspace.TimeZone)
            .ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        string title = found.Title ?? "A short link";
        if (address is null || DestinationReader.Read(address).Destination is not { } page)
        {
            await PlainPage.WriteAsync(
                context,
                StatusCodes.Status200OK,
                title,
                outcome == RouteOutcome.Paused
                    ? $"This short link of {found.Workspace.Name} is paused."
                    : $"This short link of {found.Workspace.Name} has ended."
            );
            return;
        }

        string ends =
            entry.Conditions?.EndsAt is { } end && end > now
                ? $" It ends on {WorkspaceDay.At(end, found.Workspace.TimeZone).ToString("d MMMM yyyy", CultureInfo.InvariantCulture)}."
                : "";
        ends += found.UsesLeft is > 0 and var left ? $" It ends after {left:N0} more {(left == 1 ? "click" : "clicks")}." : "";
        ends += entry.Conditions?.Turns is not null ? " At other times, or on another kind of device, it may lead elsewhere." : "";
        await PlainPage.WriteAsync(
            context,
            StatusCodes.Status200OK,
            title,
            $"This short link of {found.Workspace.Name} leads to the page below, since {since}.{ends}",
            page: ($"{page.Scheme}://{(page.Port is null ? page.Host.Shown : $"{page.Host.Shown}:{page.Port}")}{page.Path}", address),
            results: found.Results is null ? null : $"{options.Value.PublicUrl.TrimEnd('/')}/results/{found.Results}"
        );
    }
}
