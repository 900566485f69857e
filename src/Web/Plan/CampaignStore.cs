using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Ledger;

namespace PreciseBeacon.Web.Plan;

/// <summary>Keeps campaigns: nothing that has links is ever deleted, and nobody overwrites what they have not seen.</summary>
public sealed class CampaignStore(
    BeaconDb db,
    WorkspaceReader workspaces,
    ConventionReader conventions,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const decimal LargestAmount = 1_000_000_000_000;
    private const int LongestText = 200;
    private const int LongestGoal = 2_000;
    private const int MostAdvertised = 200;

    /// <summary>Campaigns, newest first; archived ones only when asked for.</summary>
    public async Task<List<CampaignAnswer>> ListAsync(bool archived, CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        var campaigns = await db
            .Campaigns.AsNoTracking()
            .Where(c => archived || c.ArchivedAt == null)
            .OrderByDescending(c => c.StartsOn)
            .ThenBy(c => c.Name)
            .ToListAsync(cancel);
        var links = await CountedLinks
            .All(db, clock.GetUtcNow())
            .Where(l => l.CampaignId != null && l.State != CountedLinks.Retired)
            .GroupBy(l => l.CampaignId!.Value)
            .Select(g => new { g.Key, Count = g.Sum(l => l.Links) })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        var planned = await db
            .PlannedLinks.GroupBy(p => p.CampaignId)
            .Select(g => new
            {
                g.Key,
                Count = g.Count(),
                Missing = g.Count(p => p.LinkId == null),
            })
            .ToDictionaryAsync(g => g.Key, cancel);
        return
        [
            .. campaigns.Select(c =>
                CampaignAnswer.Of(
                    c,
                    today,
                    links.GetValueOrDefault(c.Id),
                    planned.GetValueOrDefault(c.Id)?.Count ?? 0,
                    planned.GetValueOrDefault(c.Id)?.Missing ?? 0
                )
            ),
        ];
    }

    /// <summary>What links of a campaign would say, before it is saved.</summary>
    public async Task<CampaignPreview> PreviewAsync(CampaignRequest request, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        if (convention.IndexOf(FieldMeaning.Campaign) is not (var at and >= 0))
        {
            return new CampaignPreview("", false, []);
        }

        var field = convention.Fields[at];
        if (field.Kind == FieldKind.Composed)
        {
            var choice = new CampaignChoice(request.Name?.Trim() ?? "", "", request.StartsOn, request.EndsOn, request.Attributes);
            return new CampaignPreview(NameExample.Of(convention, field, choice, await workspaces.TodayAsync(cancel)), true, []);
        }

        var notices = new List<Notice>();
        string given = string.IsNullOrWhiteSpace(request.Value) ? await ProposeAsync(field, request, cancel) : request.Value;
        var written = FieldValue.Write(field, new GivenValue(given, ValueOrigin.Campaign), notices);
        return new CampaignPreview(written.Value, false, LinkPipeline.Judged(convention, notices));
    }

    /// <summary>Makes a campaign, or changes the one with the id.</summary>
    public async Task<Outcome<CampaignAnswer>> SaveAsync(Guid? id, CampaignRequest request, CancellationToken cancel)
    {
        var attributes = await db.CampaignAttributes.AsNoTracking().ToListAsync(cancel);
        if (WhyWrong(request, attributes) is { } why)
        {
            return Refusal.Invalid("campaign-refused", why);
        }

        string name = request.Name!.Trim();
        if (await db.Campaigns.AnyAsync(c => c.Id != id && c.Name == name, cancel))
        {
            return NameTaken(name);
        }

        var preview = await PreviewAsync(request, cancel);
        if (!preview.Composed && (preview.Value.Length == 0 || preview.Notices.Any(n => n.Severity == Severity.Error)))
        {
            string message = preview.Notices.FirstOrDefault(n => n.Severity == Severity.Error)?.Message
                ?? "The name has no characters a link can carry; type the campaign’s tag value.";
            return Refusal.Unacceptable("campaign-value-refused", message);
        }

        var campaign = id is null
            ? new Campaign { Name = name, Value = "" }
            : await db.Campaigns.SingleOrDefaultAsync(c => c.Id == id, cancel);
        if (campaign is null)
        {
            return Refusal.NotFound("campaign");
        }

        if (id is not null && campaign.Revision != request.Revision)
        {
            return await ChangedMeanwhileAsync(campaign, cancel);
        }

        var today = await workspaces.TodayAsync(cancel);
        var before = id is null ? null : CampaignAnswer.Of(campaign, today);
        campaign.Name = name;
        campaign.Value = preview.Composed ? ValueNormaliser.Normalise(name, new ValueRules()).Written : preview.Value;
        campaign.StartsOn = request.StartsOn;
        campaign.EndsOn = request.EndsOn;
        campaign.Owner = TypedText.OrNull(request.Owner);
        campaign.Budget = request.Budget;
        campaign.Goal = TypedText.OrNull(request.Goal);
        campaign.Attributes = (request.Attributes ?? [])
            .Where(a => !string.IsNullOrWhiteSpace(a.Value))
            .ToDictionary(a => a.Key, a => a.Value.Trim());
        campaign.Advertises =
        [
            .. (request.Advertises ?? []).Select(TypedText.OrNull).OfType<string>().Distinct(StringComparer.OrdinalIgnoreCase),
        ];
        campaign.Revision++;
        if (id is null)
        {
            db.Campaigns.Add(campaign);
        }

        auditLog.Add("campaign", campaign.Id, before, CampaignAnswer.Of(campaign, today));
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            return await ChangedMeanwhileAsync(await db.Campaigns.SingleAsync(c => c.Id == id, cancel), cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return NameTaken(name);
        }

        return (await OneAsync(campaign.Id, cancel))!;
    }

    /// <summary>Plans a campaign anew for a later season: dates shifted, planned and made links planned again; nothing of the old one changes.</summary>
    public async Task<Outcome<CampaignAnswer>> TakeUpAsync(Guid id, NextSeasonRequest request, CancellationToken cancel)
    {
        var old = await db.Campaigns.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel);
        if (old is null)
        {
            return Refusal.NotFound("campaign");
        }

        var season = old.StartsOn is { } starts
            ? request.StartsOn is { } to
                ? new NextSeason(starts, to)
                : NextSeason.YearAfter(starts)
            : (NextSeason?)null;
        string name = TypedText.OrNull(request.Name) ?? season?.Rename(old.Name) ?? old.Name;
        if (name.Equals(old.Name, StringComparison.OrdinalIgnoreCase))
        {
            name = season is { } s ? $"{old.Name} {s.To.Year}" : $"{old.Name} again";
        }

        var wanted = new CampaignRequest(
            name,
            TypedText.OrNull(request.Value) ?? season?.Rename(old.Value),
            season?.Shift(old.StartsOn),
            season?.Shift(old.EndsOn),
            old.Owner,
            old.Budget,
            old.Goal,
            old.Attributes,
            Advertises: old.Advertises
        );
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (made, refusal) = await SaveAsync(null, wanted, cancel);
        if (made is null)
        {
            return refusal!;
        }

        var planned = await db.PlannedLinks.AsNoTracking().Where(p => p.CampaignId == id).OrderBy(p => p.Position).ToListAsync(cancel);
        var known = planned.Select(p => p.LinkId).OfType<Guid>().ToHashSet();
        string contentKey = (await conventions.ReadAsync(cancel)).KeyOf(FieldMeaning.Content) ?? StandardKeys.Content;
        var links = (await db.Links.AsNoTracking().Where(l => l.CampaignId == id).OrderBy(l => l.CreatedAt).ToListAsync(cancel)).Where(l =>
            !known.Contains(l.Id)
        );
        // What the placement says by itself is not typed again.
        var defaults = (await db.Placements.AsNoTracking().ToListAsync(cancel)).ToDictionary(
            p => p.Id,
            p => p.Defaults.GetValueOrDefault(contentKey)
        );
        var rows = planned
            .Select(p => new PlannedLink
            {
                Page = p.Page,
                PlacementId = p.PlacementId,
                Content = p.Content,
                Owner = p.Owner,
                DueOn = season?.Shift(p.DueOn),
                Note = p.Note,
            })
            .Concat(
                links.Select(l => new PlannedLink
                {
                    Page = l.Destination,
                    PlacementId = l.PlacementId,
                    Content =
                        l.Values.GetValueOrDefault(contentKey) is { } content
                        && content != defaults.GetValueOrDefault(l.PlacementId ?? Guid.Empty)
                            ? content
                            : null,
                })
            )
            .DistinctBy(p => (p.Page, p.PlacementId, p.Content))
            .ToList();
        for (int i = 0; i < rows.Count; i++)
        {
            rows[i].CampaignId = made.Id;
            rows[i].Position = i;
        }

        db.PlannedLinks.AddRange(rows);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return (await OneAsync(made.Id, cancel))!;
    }

    /// <summary>Puts a campaign out of sight, or back.</summary>
    public async Task<Refusal?> ArchiveAsync(Guid id, bool archive, CancellationToken cancel)
    {
        if (await db.Campaigns.SingleOrDefaultAsync(c => c.Id == id, cancel) is not { } campaign)
        {
            return Refusal.NotFound("campaign");
        }

        auditLog.Add("campaign", id, new { archived = campaign.ArchivedAt is not null }, new { archived = archive });
        campaign.ArchivedAt = archive ? clock.GetUtcNow() : null;
        campaign.Revision++;
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Deletes a campaign nobody made a link for.</summary>
    public async Task<Refusal?> DeleteAsync(Guid id, CancellationToken cancel)
    {
        if (await db.Campaigns.SingleOrDefaultAsync(c => c.Id == id, cancel) is not { } campaign)
        {
            return Refusal.NotFound("campaign");
        }

        int links = await db.Links.CountAsync(l => l.CampaignId == id, cancel);
        if (links > 0)
        {
            return Refusal.Conflict(
                "campaign-has-links",
                $"“{campaign.Name}” has {links:N0} links, which reports need; archive it instead."
            );
        }

        db.PageTexts.RemoveRange(await db.PageTexts.Where(t => t.CampaignId == id).ToListAsync(cancel));
        foreach (var partnerPage in await db.PartnerPages.Where(h => h.CampaignId == id).ToListAsync(cancel))
        {
            // Without its campaign it would show every link; whoever has the address shall not see more than before.
            db.PartnerPages.Remove(partnerPage);
        }

        auditLog.Add("campaign", id, CampaignAnswer.Of(campaign, await workspaces.TodayAsync(cancel)), null);
        db.Campaigns.Remove(campaign);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>One campaign with its counts.</summary>
    public async Task<CampaignAnswer?> OneAsync(Guid id, CancellationToken cancel) =>
        await db.Campaigns.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, cancel) is not { } campaign
            ? null
            : CampaignAnswer.Of(
                campaign,
                await workspaces.TodayAsync(cancel),
                await db.Links.CountAsync(l => l.CampaignId == id && l.RetiredAt == null, cancel),
                await db.PlannedLinks.CountAsync(p => p.CampaignId == id, cancel),
                await db.PlannedLinks.CountAsync(p => p.CampaignId == id && p.LinkId == null, cancel)
            );

    /// <summary>Says who was quicker, and what they wrote.</summary>
    public async Task<Refusal> ChangedMeanwhileAsync(Campaign campaign, CancellationToken cancel) =>
        Refusal.ChangedBy(await auditLog.LastAsync(campaign.Id, cancel), $"“{campaign.Name}”", await OneAsync(campaign.Id, cancel));

    private async Task<string> ProposeAsync(Field field, CampaignRequest request, CancellationToken cancel)
    {
        var others = await db
            .Campaigns.Where(c => c.StartsOn != null)
            .OrderByDescending(c => c.StartsOn)
            .Take(50)
            .Select(c => new { c.Value, c.StartsOn })
            .ToListAsync(cancel);
        return CampaignValue.Propose(request.Name ?? "", request.StartsOn, field.Rules, others.Select(o => (o.Value, o.StartsOn!.Value)));
    }

    private static string? WhyWrong(CampaignRequest request, List<CampaignAttribute> attributes)
    {
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Trim().Length > LongestText)
        {
            return $"A campaign needs a name of at most {LongestText} characters.";
        }

        if (new CampaignDates(request.StartsOn, request.EndsOn).AreTurnedAround)
        {
            return "The campaign would end before it begins; change one of the two days.";
        }

        if (request.Budget is < 0 or > LargestAmount)
        {
            return "A budget is an amount of 0 or more; check its digits.";
        }

        if (request.Goal?.Length > LongestGoal || request.Owner?.Length > LongestText || request.Value?.Length > LongestText)
        {
            return $"A goal has at most {LongestGoal:N0} characters, an owner and a value {LongestText}; shorten them.";
        }

        if (request.Advertises?.Count > MostAdvertised || request.Advertises?.Any(a => a?.Length > LongestText) == true)
        {
            return $"A campaign advertises at most {MostAdvertised} products or categories, each of at most {LongestText} characters.";
        }

        var strange = (request.Attributes ?? []).Keys.FirstOrDefault(k => attributes.All(a => a.Name != k));
        return strange is not null ? $"Campaigns of this workspace have no attribute “{strange}”; add it first."
            : (request.Attributes ?? []).Values.Any(v => v is null || v.Length > LongestText)
                ? $"An attribute has at most {LongestText} characters; shorten it."
            : null;
    }

    private static Refusal NameTaken(string name) =>
        Refusal.Conflict("name-taken", $"A campaign “{name}” already exists; choose another name, or open that one.");
}
