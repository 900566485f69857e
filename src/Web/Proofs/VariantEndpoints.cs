using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Chance;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Tests of links that are variants of each other.</summary>
public static class VariantEndpoints
{
    private const int UsualDays = 90;

    /// <summary>Links with the most visits that are looked through (ours).</summary>
    private const int MostLinks = 5_000;
    private const int MostTests = 50;
    private const int MostVariants = 200;

    public static void MapVariantTests(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/variant-tests", ReadAsync)
            .WithTags("Proof")
            .WithName("ReadVariantTests")
            .WithSummary("Compares links of one campaign, placement and page that differ in content or term.")
            .For(Caller.Readers);

    internal static async Task<Outcome<VariantTestsAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        VariantReader variants,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var today = Core.Plan.WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from ?? (to ?? today).AddDays(1 - UsualDays), to, "", null);
        if (request is null)
        {
            return refusal!;
        }

        var convention = await conventions.ReadAsync(cancel);
        var visits = (await arrivals.LinksAsync(request, convention, MostLinks, cancel)).ToDictionary(v => v.LinkId, v => v.Visits);
        var ids = visits.Keys.ToList();
        var links = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id) && l.CampaignId != null)
            .Select(l => new
            {
                l.Id,
                l.CampaignId,
                l.PlacementId,
                l.Page,
                l.Values,
            })
            .ToListAsync(cancel);
        var groups = VariantGroups.Of(
            links.Select(l => new VariantLink(l.Id, l.CampaignId, l.PlacementId, l.Page, l.Values, visits[l.Id])),
            convention.KeyOf(FieldMeaning.Content),
            convention.KeyOf(FieldMeaning.Term),
            MostTests,
            MostVariants
        );
        var figures = await variants.ReadAsync(workspace.Id, groups, request.From, request.To, cancel);
        var campaigns = await db.Campaigns.AsNoTracking().ToDictionaryAsync(c => c.Id, c => c.Name, cancel);
        var placements = await db.Placements.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
        return new VariantTestsAnswer(
            request.From,
            request.To,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null,
            [
                .. groups
                    .Select(
                        (g, i) =>
                            VariantTestAnswer.Of(
                                g,
                                figures[i],
                                campaigns.GetValueOrDefault(g.CampaignId),
                                g.PlacementId is { } placement ? placements.GetValueOrDefault(placement) : null
                            )
                    )
                    .Where(t => t.Variants.Count(v => v.Trials > 0) > 1),
            ]
        );
    }
}

/// <summary>Tests of variants.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; only those from then on are compared. Null else.</param>
/// <param name="Tests">At most fifty, those with the most visits first.</param>
public sealed record VariantTestsAnswer(DateOnly From, DateOnly To, DateOnly? RawFrom, IReadOnlyList<VariantTestAnswer> Tests);

/// <summary>A test: links of one campaign, placement and page that differ in content or term.</summary>
/// <param name="CampaignId">The campaign.</param>
/// <param name="Campaign">Its name; null where it is gone.</param>
/// <param name="PlacementId">The placement; null for none.</param>
/// <param name="Placement">Its name; null for none.</param>
/// <param name="Page">Host and path of the page.</param>
/// <param name="Unit">What is counted: <c>visitors</c> where all carry an id of the site, <c>visits</c> where none does, else <c>both</c>.</param>
/// <param name="Outcome">What can be told.</param>
/// <param name="Says">The verdict in words.</param>
/// <param name="Best">Place of the variant with the highest rate; null without visits.</param>
/// <param name="MoreNeeded">About how many more visitors are needed to tell; null where it is told, or where nobody can say.</param>
/// <param name="Variants">The variants, those with the most visits first.</param>
public sealed record VariantTestAnswer(
    Guid CampaignId,
    string? Campaign,
    Guid? PlacementId,
    string? Placement,
    string Page,
    string Unit,
    VariantOutcome Outcome,
    string Says,
    int? Best,
    long? MoreNeeded,
    IReadOnlyList<VariantAnswer> Variants
)
{
    internal static VariantTestAnswer Of(VariantGroup group, VariantFigures figures, string? campaign, string? placement)
    {
        var variants = figures.Variants;
        var verdict = VariantTest.Of(variants);
        string unit =
            figures.WithId == figures.All ? "visitors"
            : figures.WithId == 0 ? "visits"
            : "both";
        return new VariantTestAnswer(
            group.CampaignId,
            campaign,
            group.PlacementId,
            placement,
            group.Page,
            unit,
            verdict.Outcome,
            VariantText.Of(verdict, [.. group.Variants.Select(v => v.Name)], unit == "visits" ? unit : "visitors"),
            verdict.Best,
            verdict.MoreNeeded,
            [.. group.Variants.Select((v, i) => VariantAnswer.Of(v, variants[i], verdict.Comparisons.FirstOrDefault(c => c.Other == i)))]
        );
    }
}

/// <summary>One variant of a test.</summary>
/// <param name="Name">What it is called: its content and term.</param>
/// <param name="Links">Its links.</param>
/// <param name="AlsoDiffersIn">Keys of other fields in which it is not as the others; it tests more than its content then.</param>
/// <param name="Trials">Visitors, or visits of those without an id.</param>
/// <param name="Converted">How many of them converted.</param>
/// <param name="Rate">Converted of them; null without any.</param>
/// <param name="Low">What the rate is at least, with 95 % (Wilson); null without any.</param>
/// <param name="High">What it is at most.</param>
/// <param name="BehindAtLeast">The best one's rate less this one's, at least and at any look, 0 to 1; null for the best one, and while nothing may be told.</param>
/// <param name="BehindAtMost">The same at most.</param>
public sealed record VariantAnswer(
    string Name,
    IReadOnlyList<Guid> Links,
    IReadOnlyList<string> AlsoDiffersIn,
    long Trials,
    long Converted,
    double? Rate,
    double? Low,
    double? High,
    double? BehindAtLeast,
    double? BehindAtMost
)
{
    internal static VariantAnswer Of(LinkVariant links, Variant variant, VariantComparison? behind)
    {
        RateInterval? interval = variant.Trials > 0 ? RateInterval.Wilson(variant.Successes, variant.Trials) : null;
        return new VariantAnswer(
            links.Name,
            links.Links,
            links.AlsoDiffersIn,
            variant.Trials,
            variant.Successes,
            variant.Trials > 0 ? (double)variant.Successes / variant.Trials : null,
            interval?.Low,
            interval?.High,
            behind?.Low,
            behind?.High
        );
    }
}
