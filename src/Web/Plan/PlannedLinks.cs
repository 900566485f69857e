using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Links written down before anything is built, and made in one stroke.</summary>
public sealed class PlannedLinks(
    BeaconDb db,
    LinkComposition composition,
    LinkWriter writer,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    CampaignStore campaigns,
    AuditLog auditLog
)
{
    public const int MostRows = 1_000;
    private const int LongestText = 500;
    private const int LongestPage = 8_000;

    /// <summary>A campaign's planned links in their order, each with what would come of it.</summary>
    public async Task<IReadOnlyList<PlannedAnswer>> ListAsync(Guid campaignId, CancellationToken cancel)
    {
        var rows = await RowsAsync(campaignId, cancel);
        var worked = await WorkAsync(rows.Where(r => r.LinkId is null && WhatIsMissing(r) is null).ToList(), cancel);
        var convention = await conventions.ReadAsync(cancel);
        var today = await workspaces.TodayAsync(cancel);
        return [.. rows.Select(row => AnswerOf(row, worked.GetValueOrDefault(row.Id), convention, today))];
    }

    /// <summary>Takes changes in, all of them or none.</summary>
    /// <returns>Why not, or null.</returns>
    public async Task<Refusal?> ChangeAsync(Guid campaignId, PlannedChange change, CancellationToken cancel)
    {
        if (await db.Campaigns.SingleOrDefaultAsync(c => c.Id == campaignId, cancel) is not { } campaign)
        {
            return Refusal.NotFound("campaign");
        }

        if (campaign.Revision != change.Revision)
        {
            return await campaigns.ChangedMeanwhileAsync(campaign, cancel);
        }

        var rows = await db.PlannedLinks.Where(p => p.CampaignId == campaignId).OrderBy(p => p.Position).ToListAsync(cancel);
        var placements = await db.Placements.Select(p => p.Id).ToHashSetAsync(cancel);
        var written = change.Rows ?? [];
        if (WhyWrong(written, placements) is { } why)
        {
            return Refusal.Invalid("planned-refused", why);
        }

        db.PlannedLinks.RemoveRange(rows.Where(r => change.Removed?.Contains(r.Id) == true));
        int next = rows.Count == 0 ? 0 : rows[^1].Position + 1;
        foreach (var row in written)
        {
            var kept = row.Id is { } id ? rows.SingleOrDefault(r => r.Id == id) : null;
            if (row.Id is not null && kept is null)
            {
                return Refusal.NotFound("planned link");
            }

            if (kept is null)
            {
                kept = new PlannedLink { CampaignId = campaignId, Position = next++ };
                db.PlannedLinks.Add(kept);
                rows.Add(kept);
            }

            kept.Page = row.Page?.Trim() ?? "";
            kept.PlacementId = row.PlacementId;
            kept.Content = TypedText.OrNull(row.Content);
            kept.Owner = TypedText.OrNull(row.Owner);
            kept.DueOn = row.DueOn;
            kept.Note = TypedText.OrNull(row.Note);
        }

        if (rows.Count - (change.Removed?.Count ?? 0) > MostRows)
        {
            return Refusal.Invalid(
                "planned-refused",
                $"A campaign has at most {MostRows:N0} planned links; create another campaign for the rest."
            );
        }

        campaign.Revision++;
        auditLog.Add("planned-links", campaignId, null, new { written = written.Count, removed = change.Removed?.Count ?? 0 });
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            return await campaigns.ChangedMeanwhileAsync(await db.Campaigns.SingleAsync(c => c.Id == campaignId, cancel), cancel);
        }

        return null;
    }

    /// <summary>Makes every planned link that can be made, in one transaction.</summary>
    /// <returns>How many were made, and how many got a link that existed already.</returns>
    public async Task<Outcome<PlannedMade>> MakeAsync(Guid campaignId, MakeRequest request, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Two people who make the same plan at one moment wait for each other here.
        if (!await RowLock.CampaignAsync(db, campaignId, cancel))
        {
            return Refusal.NotFound("campaign");
        }

        var rows = (await RowsAsync(campaignId, cancel))
            .Where(r => r.LinkId is null && WhatIsMissing(r) is null && (request.Ids is null || request.Ids.Contains(r.Id)))
            .ToList();
        var worked = await WorkAsync(rows, cancel);
        var ready = rows.Where(r => worked[r.Id].Composed.Ready).ToList();
        if (ready.Count == 0)
        {
            return new PlannedMade(0, 0);
        }

        var used = request.Again ? [] : ready.Where(r => IsThere(worked[r.Id])).ToDictionary(r => r.Id, r => worked[r.Id].Existing!.Id);
        var fresh = ready.Where(r => !used.ContainsKey(r.Id)).ToList();
        var made = new Dictionary<Guid, Guid>();
        if (fresh.Count > 0)
        {
            var saved = await writer.SaveQuietlyAsync([.. fresh.Select(r => worked[r.Id])], auditLog.Who, cancel);
            if (saved.IsRefused)
            {
                return saved.Refusal;
            }

            made = fresh.Select((row, i) => (row.Id, Link: saved.Value[i])).ToDictionary(p => p.Id, p => p.Link);
        }

        db.ChangeTracker.Clear();
        var readyIds = ready.Select(r => r.Id).ToList();
        var kept = await db.PlannedLinks.Where(p => readyIds.Contains(p.Id)).ToDictionaryAsync(p => p.Id, cancel);
        foreach (var (id, row) in kept)
        {
            row.LinkId = used.TryGetValue(id, out var link) ? link : made[id];
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new PlannedMade(made.Count, used.Count);
    }

    private Task<List<PlannedLink>> RowsAsync(Guid campaignId, CancellationToken cancel) =>
        db
            .PlannedLinks.AsNoTracking()
            .Include(p => p.Placement)
            .Include(p => p.Link!)
                .ThenInclude(l => l.ShortLinks)
                    .ThenInclude(s => s.ShortDomain)
            .AsSplitQuery()
            .Where(p => p.CampaignId == campaignId)
            .OrderBy(p => p.Position)
            .ThenBy(p => p.Id)
            .ToListAsync(cancel);

    private async Task<Dictionary<Guid, PreparedLink>> WorkAsync(List<PlannedLink> rows, CancellationToken cancel)
    {
        if (rows.Count == 0)
        {
            return [];
        }

        var convention = await conventions.ReadAsync(cancel);
        string? contentKey = convention.KeyOf(FieldMeaning.Content);
        var requests = rows.Select(r => new ComposeRequest(
                r.Page,
                r.CampaignId.ToString(),
                r.PlacementId?.ToString(),
                r.Content is { } content && contentKey is not null ? new() { [contentKey] = content } : null
            ))
            .ToList();
        var worked = await composition.ComposeAsync(requests, cancel);
        return rows.Zip(worked).ToDictionary(p => p.First.Id, p => p.Second);
    }

    private static PlannedAnswer AnswerOf(PlannedLink row, PreparedLink? worked, Convention convention, DateOnly today)
    {
        var notice = worked?.Composed.Notices.FirstOrDefault(n => n.Severity != Severity.Info);
        var state =
            row.LinkId is not null ? PlannedState.Made
            : worked is null ? PlannedState.Incomplete
            : worked.Composed.Ready ? PlannedState.Ready
            : PlannedState.Stopped;
        return new PlannedAnswer(
            row.Id,
            row.Page,
            row.PlacementId,
            row.Placement?.Name,
            row.Content,
            row.Owner,
            row.DueOn,
            row.Note,
            state,
            state != PlannedState.Made && row.DueOn < today,
            state switch
            {
                PlannedState.Made => null,
                PlannedState.Incomplete => WhatIsMissing(row),
                _ => notice?.Message,
            },
            state is PlannedState.Ready or PlannedState.Stopped ? notice?.Severity : null,
            row.Link is { } made
                ? LinkStrip.Of(made.Url, SealedLinks.TagsOf(convention), convention.Settings with { Style = made.Style })
                : worked?.Composed.Tagged?.Strip ?? [],
            row.LinkId,
            row.Link?.Url,
            row.Link?.ShortLinks.FirstOrDefault(s => s.Use == ShortLinkUse.Text) is { } link ? link.ShortDomain!.UrlOf(link.Slug) : null,
            state == PlannedState.Ready && IsThere(worked!)
        );
    }

    /// <summary>A plan gives every link a short link.</summary>
    private static bool IsThere(PreparedLink worked) => worked.Existing?.CanStandIn(needsShortLink: true) == true;

    private static string? WhatIsMissing(PlannedLink row) =>
        (row.Page.Length == 0, row.PlacementId is null) switch
        {
            (true, true) => "Page and placement are missing.",
            (true, false) => "The page is missing.",
            (false, true) => "The placement is missing.",
            _ => null,
        };

    private static string? WhyWrong(IReadOnlyList<PlannedRow> rows, HashSet<Guid> placements)
    {
        if (rows.Count > MostRows || rows.Any(r => r is null))
        {
            return $"Send at most {MostRows:N0} rows at once.";
        }

        return rows.Any(r => r.Page?.Length > LongestPage || new[] { r.Content, r.Owner, r.Note }.Any(t => t?.Length > LongestText))
                ? $"A page's address has at most {LongestPage:N0} characters, every other text {LongestText}; shorten it."
            : rows.Any(r => r.PlacementId is { } id && !placements.Contains(id))
                ? "A row names a placement this workspace doesn't have; choose another one."
            : null;
    }
}

/// <summary>How many planned links were made, and how many got a link that existed already.</summary>
public sealed record PlannedMade(int Made, int Used);
