using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Clicks beside visits, link by link.</summary>
public static class ClickGapEndpoints
{
    private const int UsualDays = 28;
    private const int MostListed = 200;

    public static void MapClickGaps(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/click-gaps", ReadAsync)
            .WithTags("Proof")
            .WithName("ReadClickGaps")
            .WithSummary("Compares people's clicks on each link with the visits measured after them, and says why some are missing.")
            .For(Caller.Readers);

    private static async Task<Outcome<ClickGapsAnswer>> ReadAsync(
        BeaconDb db,
        ClickGapReader gaps,
        TrialBook trials,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, workspace.TimeZone);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from ?? (to ?? today).AddDays(1 - UsualDays), to, "", null);
        if (request is null)
        {
            return refusal!;
        }

        var evidence = await gaps.ReadAsync(workspace.Id, request.From, request.To, now, cancel);
        var found = await trials.LatestFindingsAsync(workspace.Id, [.. evidence.Keys], cancel);
        var judged = evidence
            .Select(e => (LinkId: e.Key, Gap: ClickGap.Of(e.Value, found.GetValueOrDefault(e.Key) ?? [])))
            .OrderByDescending(g => g.Gap.Verdict)
            .ThenByDescending(g => g.Gap.Evidence.Expected - g.Gap.Evidence.Measured)
            .ThenBy(g => g.LinkId)
            .ToList();
        var listed = judged.Take(MostListed).ToList();
        var ids = listed.ConvertAll(g => g.LinkId);
        var links = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .Select(l => new
            {
                l.Id,
                l.Title,
                l.Url,
            })
            .ToDictionaryAsync(l => l.Id, cancel);
        int Having(GapVerdict verdict) => judged.Count(g => g.Gap.Verdict == verdict);
        return new ClickGapsAnswer(
            request.From,
            request.To,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null,
            Having(GapVerdict.Finding),
            Having(GapVerdict.Ordinary),
            Having(GapVerdict.Quiet),
            Having(GapVerdict.TooFew),
            [
                .. listed
                    .Where(g => links.ContainsKey(g.LinkId))
                    .Select(g => ClickGapAnswer.Of(g.LinkId, links[g.LinkId].Title ?? links[g.LinkId].Url, g.Gap)),
            ]
        );
    }
}

/// <summary>Clicks beside visits.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="RawFrom">The first day clicks and visits are kept one by one where the range begins earlier; only those from then on are compared. Null else.</param>
/// <param name="Findings">Links with a gap worth looking into.</param>
/// <param name="Ordinary">Links with a gap as it often is.</param>
/// <param name="Quiet">Links with a small one.</param>
/// <param name="TooFew">Links with too few clicks for any word.</param>
/// <param name="Links">At most two hundred, findings and those with the most missing visits first.</param>
public sealed record ClickGapsAnswer(
    DateOnly From,
    DateOnly To,
    DateOnly? RawFrom,
    int Findings,
    int Ordinary,
    int Quiet,
    int TooFew,
    IReadOnlyList<ClickGapAnswer> Links
);

/// <summary>One link's clicks beside its visits.</summary>
/// <param name="LinkId">The link.</param>
/// <param name="Title">Its title, or its address.</param>
/// <param name="Expected">People's clicks on its short links, gathered into visits by the half hour.</param>
/// <param name="Measured">Those whose visit was measured.</param>
/// <param name="WithoutClick">Visits with its tags that came without its short links.</param>
/// <param name="Gap">Share of the expected visits that is missing, 0 to 1; null with none expected.</param>
/// <param name="Verdict">What is to be said of it.</param>
/// <param name="Causes">Likely causes, those with the most missing visits first.</param>
public sealed record ClickGapAnswer(
    Guid LinkId,
    string Title,
    long Expected,
    long Measured,
    long WithoutClick,
    double? Gap,
    GapVerdict Verdict,
    IReadOnlyList<GapCause> Causes
)
{
    internal static ClickGapAnswer Of(Guid linkId, string title, ClickGap gap) =>
        new(linkId, title, gap.Evidence.Expected, gap.Evidence.Measured, gap.Evidence.WithoutClick, gap.Gap, gap.Verdict, gap.Causes);
}
