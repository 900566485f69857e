using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Makes trials of links: what the fetch of their pages sees, and an address to open.</summary>
public sealed class TrialStarter(
    TraceFactsReader sites,
    PageTracer tracer,
    SlugTable slugs,
    AuditLog auditLog,
    TimeProvider clock,
    IOptions<BeaconOptions> options
)
{
    /// <summary>What the workspace's sites are like, for <see cref="TraceAsync"/>.</summary>
    public Task<TraceFacts> FactsAsync(Guid workspaceId, CancellationToken cancel) =>
        sites.ReadAsync(workspaceId, clock.GetUtcNow(), cancel);

    /// <summary>Fetches a link's page with and without tags.</summary>
    /// <param name="link">The link, with its short links.</param>
    /// <param name="facts">See <see cref="FactsAsync"/>.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<TrialTrace> TraceAsync(Link link, TraceFacts facts, CancellationToken cancel)
    {
        var target = link.ShortLinks.OrderBy(s => s.Use).Select(s => s.Target).FirstOrDefault() ?? link.Url;
        var tagged = await tracer.TraceAsync(target, IsCounted, cancel);
        string page = link.LeadsTo ?? link.Destination;
        var plain =
            tagged.Problem == TraceProblem.Unsubscribes || Core.Links.DestinationReader.Read(page).Destination is not { } untagged
                ? null
                : await tracer.TraceAsync(TagWriter.WriteBare(untagged), IsCounted, cancel);
        return new TrialTrace(tagged, plain, TraceFindings.Of(tagged, plain, facts));
    }

    /// <summary>A trial that begins now, with an address nobody can guess.</summary>
    /// <param name="link">The link, with its short links and their domains.</param>
    /// <param name="trace">See <see cref="TraceAsync"/>.</param>
    /// <param name="mail">Where in a mail the link is sent; null where it is tried alone.</param>
    public Trial Begin(Link link, TrialTrace trace, TrialInMail? mail = null)
    {
        var now = clock.GetUtcNow();
        string token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(TrialDoor.TokenLength / 2));
        return new Trial(
            Guid.CreateVersion7(now),
            link.WorkspaceId,
            link.Id,
            token,
            link.ShortLinks.OrderBy(s => s.Use).FirstOrDefault()?.ShortDomain is { } domain
                ? $"{domain.Scheme}://{domain.Host}/{TrialDoor.Prefix}/{token}"
                : $"{options.Value.PublicUrl.TrimEnd('/')}/{TrialDoor.Prefix}/{token}",
            now,
            auditLog.Who,
            now + TrialProgress.Lasts,
            trace,
            [.. trace.Tagged.Hops.Select(h => PageKey.OfAddress(h.Url)).Distinct()],
            mail
        );
    }

    private bool IsCounted(string host) => slugs.Domain(host) is not null;
}

/// <summary>Begins trials of links, and tells how far they have come.</summary>
public sealed class TrialStore(
    BeaconDb db,
    TrialBook book,
    TrialStarter starter,
    ConventionReader conventions,
    PlanOfVisitsReader plans,
    FindingBook findings,
    TimeProvider clock
)
{
    /// <summary>Fetches a link's page with and without tags, and gives out an address to open.</summary>
    public async Task<Outcome<TrialRunAnswer>> StartAsync(Guid? linkId, CancellationToken cancel)
    {
        var link = await db
            .Links.AsNoTracking()
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .SingleOrDefaultAsync(l => l.Id == linkId, cancel);
        if (link is null)
        {
            return Refusal.NotFound("link");
        }

        if (link.IsWaiting)
        {
            return Refusal.Unacceptable(
                "host-waiting",
                "The link leads to a host that no owner has approved yet; try it once it is approved."
            );
        }

        var trial = starter.Begin(link, await starter.TraceAsync(link, await starter.FactsAsync(link.WorkspaceId, cancel), cancel));
        await book.AddAsync([trial], cancel);
        await findings.MarkDueAsync(trial.WorkspaceId, cancel);
        return (await AnswersAsync([trial], cancel))[0];
    }

    /// <summary>How far a trial has come.</summary>
    public async Task<Outcome<TrialRunAnswer>> ReadAsync(Guid id, CancellationToken cancel) =>
        await book.FindAsync(db.CurrentWorkspaceId!.Value, id, cancel) is { } trial
            ? (await AnswersAsync([trial], cancel))[0]
            : Refusal.NotFound("trial");

    /// <summary>Trials, the newest first.</summary>
    public async Task<List<TrialRunAnswer>> ListAsync(Guid? linkId, int most, CancellationToken cancel) =>
        await AnswersAsync(await book.ListAsync(db.CurrentWorkspaceId!.Value, linkId, most, cancel), cancel);

    /// <summary>Whether all steps of a trial are done, so that its address ends.</summary>
    public async Task<bool> IsDoneAsync(Trial trial, CancellationToken cancel) =>
        (await AnswersAsync([trial], cancel)) is [{ Verdict: TrialVerdict.Works or TrialVerdict.WorksWithFindings }];

    /// <summary>Trials as they are answered, in their order; those whose link is gone are left out.</summary>
    public async Task<List<TrialRunAnswer>> AnswersAsync(IReadOnlyCollection<Trial> trials, CancellationToken cancel)
    {
        if (trials.Count == 0)
        {
            return [];
        }

        Guid[] ids = [.. trials.Select(t => t.Id)];
        var hits = WithScans(await book.HitsAsync(trials, cancel)).ToLookup(h => h.TrialId);
        var visits = (await book.VisitsAsync(ids, cancel)).ToLookup(v => v.TrialId);
        Guid[] linkIds = [.. trials.Select(t => t.LinkId).Distinct()];
        var links = await db.Links.AsNoTracking().Where(l => linkIds.Contains(l.Id)).ToDictionaryAsync(l => l.Id, cancel);
        var sorter = new TrialSorter(
            await conventions.ReadAsync(cancel),
            (await plans.ReadAsync(db.CurrentWorkspaceId!.Value, cancel)).With(
                links.Values.Select(l => new LinkOfVisit(l.Id, l.Title ?? l.Url, l.CampaignId, l.PlacementId))
            )
        );
        var now = clock.GetUtcNow();
        return
        [
            .. trials
                .Where(t => links.ContainsKey(t.LinkId))
                .Select(t =>
                    TrialRunAnswer.Of(
                        t,
                        links[t.LinkId],
                        sorter.ProgressOf(t, links[t.LinkId], hits[t.Id], visits[t.Id], now),
                        hits[t.Id].Count(h => h.Kind != HitKind.Person),
                        now
                    )
                ),
        ];
    }

    /// <summary>Openings, with those by programs that followed all links of a mail as what they are.</summary>
    private static IEnumerable<KeptTrialHit> WithScans(IReadOnlyList<KeptTrialHit> hits)
    {
        var programs = hits.Where(h => h is { Kind: HitKind.Person, RunId: not null })
            .GroupBy(h => h.RunId)
            .SelectMany(g => MailScan.ProgramsIn(g.Select(h => new MailOpening(h.Id, h.TrialId, h.Visitor, h.At))))
            .ToHashSet();
        return hits.Select(h => programs.Contains(h.Id) ? h with { Kind = HitKind.Prefetch } : h);
    }
}

/// <summary>Sorts what happened on trials' addresses as reports sort visits.</summary>
/// <param name="convention">The convention of today.</param>
/// <param name="plan">The plan, with the links tried.</param>
public sealed class TrialSorter(Convention convention, PlanOfVisits plan)
{
    private readonly TagVocabulary _vocabulary = TagVocabulary.Of(convention.Tags);

    /// <summary>How far a trial has come.</summary>
    public TrialProgress ProgressOf(
        Trial trial,
        Link link,
        IEnumerable<KeptTrialHit> hits,
        IEnumerable<KeptTrialVisit> visits,
        DateTimeOffset now
    ) => TrialProgress.Of([.. hits.Select(h => ClickOf(h, link))], [.. visits.Select(v => VisitOf(v, link))], trial.Trace.Findings, now);

    private TrialClick ClickOf(KeptTrialHit hit, Link link)
    {
        var due = DueOf(hit.Address, link);
        return new TrialClick(
            hit.Id,
            hit.At,
            hit.Kind,
            hit.UserAgent,
            hit.Outcome,
            hit.Address,
            due,
            Sorted(due, "", Guid.Empty, link).KeyOf(new RowField(RowKind.Channel))!
        );
    }

    /// <summary>What a visit must arrive with; a sealed link's code stands for its values.</summary>
    private RawTags DueOf(string? address, Link link)
    {
        if (address is null || Core.Links.DestinationReader.Read(address).Destination is not { } page)
        {
            return RawTags.None;
        }

        string? codeKey = convention.Settings.SealedKey;
        var tags = RawTags.Of(page, key => _vocabulary.IsTagLike(key) || key.Equals(codeKey, StringComparison.OrdinalIgnoreCase));
        return codeKey is not null && tags.Values.ContainsKey(codeKey.ToLowerInvariant()) ? tags.Unsealed(codeKey, link.Values) : tags;
    }

    private TrialVisit VisitOf(KeptTrialVisit visit, Link link)
    {
        var sorted = Sorted(visit.Tags, visit.ReferrerHost, visit.SiteId, link);
        string? campaign = sorted.KeyOf(new RowField(RowKind.Campaign));
        return new TrialVisit(
            visit.HitId,
            visit.StartedAt,
            visit.LandingPage,
            visit.Tags,
            sorted.KeyOf(new RowField(RowKind.Channel))!,
            sorted.KeyOf(new RowField(RowKind.Source)),
            sorted.KeyOf(new RowField(RowKind.Medium)),
            plan.Campaigns.FirstOrDefault(c => c.Value == campaign)?.Name ?? campaign,
            sorted.KeyOf(new RowField(RowKind.Placement))
        );
    }

    private ReadSource Sorted(RawTags tags, string referrerHost, Guid siteId, Link link) =>
        new(new TrafficSource(0, tags, referrerHost, SiteId: siteId, LinkId: link.Id), convention, plan);
}
