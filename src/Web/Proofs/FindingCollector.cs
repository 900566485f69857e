using System.Globalization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Gathers what all checks find in the current workspace.</summary>
public sealed class FindingCollector(
    BeaconDb db,
    ConventionReader conventions,
    ArrivalsReader arrivals,
    PageCheckBook pages,
    StrayReader strays,
    InsideTagReader inside,
    ClickGapReader gaps,
    TrialBook trialBook,
    TrialStore trials,
    VariantReader variants,
    FigureBook figures,
    ReconcileReader reconcile,
    TimeProvider clock
)
{
    private const int StrayDays = 90;
    private const int GapDays = 28;

    /// <summary>Strays of fewer visits are listed among the strays and nowhere else (ours).</summary>
    private const long LeastStrayVisits = 10;

    /// <summary>Findings of one area, those that touch the most (ours).</summary>
    private const int MostOfArea = 50;

    private const int TrialsLookedAt = 200;
    private const int LongestSubject = 200;
    private const int LongestAbout = 2_000;
    private static readonly TimeSpan TrialsOf = TimeSpan.FromDays(30);

    /// <summary>Everything that is found now, each key once.</summary>
    public async Task<IReadOnlyList<ListedFinding>> CollectAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, workspace.TimeZone);
        List<ListedFinding> all =
        [
            .. await PagesAsync(workspace.Id, cancel),
            .. await StraysAsync(workspace.Id, today, cancel),
            .. await InsideAsync(workspace.Id, today, cancel),
            .. await GapsAsync(workspace.Id, today, now, cancel),
            .. await TrialsAsync(now, cancel),
            .. await VariantsAsync(cancel),
            .. await FiguresAsync(workspace, now, cancel),
        ];
        return [.. all.DistinctBy(f => f.Key)];
    }

    private async Task<IEnumerable<ListedFinding>> PagesAsync(Guid workspaceId, CancellationToken cancel) =>
        (await pages.ReadAsync(workspaceId, null, cancel))
            .Pages.SelectMany(p => p.Findings.Select(f => (Page: p, Finding: f)))
            .Where(f => f.Finding is { GoneAt: null, MutedBy: null, Severity: not Severity.Info })
            .OrderByDescending(f => f.Finding.Severity)
            .ThenByDescending(f => f.Page.Links)
            .Take(MostOfArea)
            .Select(f =>
                Of(FindingArea.Page, f.Page.Page, f.Finding.Rule, f.Finding.Severity, f.Page.Page, f.Finding.Message, f.Page.Links)
            );

    private async Task<IEnumerable<ListedFinding>> StraysAsync(Guid workspaceId, DateOnly today, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        var traffic = await strays.ReadAsync(workspaceId, today.AddDays(1 - StrayDays), today, cancel);
        return StrayFinder
            .Find(traffic.Sources, traffic.VisitsOf, convention, traffic.Plan)
            .Where(g => !g.IsSettled && g.Visits >= LeastStrayVisits)
            .Take(MostOfArea)
            .Select(g =>
            {
                string first = g.Strays[0].Shown;
                string label = g.Field is { } key ? convention.Find(key)?.Label ?? key : "";
                string means = g.Likely is null ? "Nothing the convention knows is near." : $"It probably means “{g.Likely}”.";
                return Of(
                    FindingArea.Stray,
                    first,
                    $"{g.Kind}\n{g.Field}",
                    Severity.Warning,
                    string.Join(", ", g.Strays.Take(2).Select(s => s.Shown)),
                    $"{Visits(g.Visits)} in {StrayDays} days {SaysOf(g.Kind, label)}. {means}",
                    g.Visits
                );
            });
    }

    private async Task<IEnumerable<ListedFinding>> InsideAsync(Guid workspaceId, DateOnly today, CancellationToken cancel) =>
        (await inside.ReadAsync(workspaceId, today.AddDays(1 - StrayDays), today, MostOfArea, cancel))
            .GroupBy(i => i.StandsOn, StringComparer.Ordinal)
            .Select(g =>
                Of(
                    FindingArea.Inside,
                    g.Key,
                    "",
                    Severity.Warning,
                    g.Key,
                    $"Links on this page carry tags and were followed {Number(g.Sum(i => i.Times))} times. Remove the tags: by them, other systems forget where the visit came from.",
                    g.Sum(i => i.Times)
                )
            );

    private async Task<IEnumerable<ListedFinding>> GapsAsync(Guid workspaceId, DateOnly today, DateTimeOffset now, CancellationToken cancel)
    {
        var evidence = await gaps.ReadAsync(workspaceId, today.AddDays(1 - GapDays), today, now, cancel);
        var found = await trialBook.LatestFindingsAsync(workspaceId, [.. evidence.Keys], cancel);
        var judged = evidence
            .Select(e => (LinkId: e.Key, Gap: ClickGap.Of(e.Value, found.GetValueOrDefault(e.Key) ?? [])))
            .Where(g => g.Gap.Verdict == GapVerdict.Finding)
            .OrderByDescending(g => g.Gap.Evidence.Expected - g.Gap.Evidence.Measured)
            .Take(MostOfArea)
            .ToList();
        var ids = judged.ConvertAll(g => g.LinkId);
        var titles = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .ToDictionaryAsync(l => l.Id, l => l.Title ?? l.Url, cancel);
        return judged
            .Where(g => titles.ContainsKey(g.LinkId))
            .Select(g =>
            {
                var e = g.Gap.Evidence;
                return Of(
                    FindingArea.Gap,
                    g.LinkId.ToString(),
                    "",
                    Severity.Warning,
                    titles[g.LinkId],
                    $"{Number(e.Expected - e.Measured)} of {Visits(e.Expected)} expected from clicks in {GapDays} days are missing. {(g.Gap.Causes is [var likeliest, ..] ? likeliest.Says : "")}",
                    e.Expected - e.Measured
                );
            });
    }

    private async Task<IEnumerable<ListedFinding>> TrialsAsync(DateTimeOffset now, CancellationToken cancel) =>
        (await trials.ListAsync(null, TrialsLookedAt, cancel))
            .Where(t => t.StartedAt > now - TrialsOf)
            .GroupBy(t => t.LinkId)
            .Select(g => g.MaxBy(t => t.StartedAt)!)
            .Where(t => t.Verdict == TrialVerdict.Fails)
            .Take(MostOfArea)
            .Select(t =>
                Of(
                    FindingArea.Trial,
                    t.Id.ToString(),
                    "",
                    Severity.Error,
                    t.Title ?? t.Url,
                    $"The last trial of this link failed. {t.Findings.OrderByDescending(f => f.Severity).FirstOrDefault()?.Message}",
                    1
                ) with
                {
                    Key = $"trial\n{t.LinkId}",
                }
            );

    private async Task<IEnumerable<ListedFinding>> VariantsAsync(CancellationToken cancel) =>
        (await VariantEndpoints.ReadAsync(db, conventions, arrivals, variants, clock, cancel))
            .Value!.Tests.Where(t => t.Outcome == VariantOutcome.Clear)
            .Take(MostOfArea)
            .Select(t =>
                Of(
                    FindingArea.Variant,
                    t.Page,
                    $"{t.CampaignId}\n{t.PlacementId}",
                    Severity.Info,
                    string.Join(", ", new[] { t.Campaign, t.Placement }.OfType<string>()),
                    t.Says,
                    t.Variants.Sum(v => v.Trials)
                )
            );

    /// <summary>Of the last four weeks that other systems have figures of.</summary>
    private async Task<IEnumerable<ListedFinding>> FiguresAsync(Workspace workspace, DateTimeOffset now, CancellationToken cancel)
    {
        if (await figures.LastDayAsync(workspace.Id, cancel) is not { } last)
        {
            return [];
        }

        var convention = await conventions.ReadAsync(cancel);
        var read = await reconcile.ReadAsync(workspace, convention, last.AddDays(1 - GapDays), last, now, cancel);
        return read
            .Figures.Where(f => f.Gap.Verdict == FigureVerdict.Finding)
            .Take(MostOfArea)
            .Select(f =>
            {
                long missing = (long)(f.Gap.Theirs - f.Gap.Ours);
                return Of(
                    FindingArea.Figure,
                    f.Key,
                    "",
                    Severity.Warning,
                    $"{string.Join(", ", f.Called)} · {f.System}",
                    $"{Number(missing)} of {Number((long)f.Gap.Theirs)} {FigureTextOf(f.Gap.Kind)} that {f.System} counts are missing here. {f.Gap.Likeliest?.Says}",
                    missing
                );
            });
    }

    private static string FigureTextOf(FigureKind kind) => kind.ToString().ToLowerInvariant();

    private static string SaysOf(StrayKind kind, string label) =>
        kind switch
        {
            StrayKind.Swapped => "have source and medium swapped",
            StrayKind.MisspeltKey => "carry a key that nobody reads",
            StrayKind.SecondQuestionMark => "have tags after a second question mark, which are lost",
            StrayKind.WrittenOtherwise => $"write {label} in another way, so it stands in two rows",
            _ => $"say something in {label} that the convention does not know",
        };

    private static ListedFinding Of(
        FindingArea area,
        string about,
        string what,
        Severity severity,
        string subject,
        string message,
        long weight
    )
    {
        string cut = about.Length > LongestAbout ? about[..LongestAbout] : about;
        return new ListedFinding(
            $"{area}\n{cut}\n{what}",
            area,
            cut,
            severity,
            subject.Length > LongestSubject ? subject[..LongestSubject] : subject,
            message.Trim(),
            weight
        );
    }

    private static string Number(long number) => number.ToString("N0", CultureInfo.InvariantCulture);

    private static string Visits(long number) => number == 1 ? "1 visit" : $"{Number(number)} visits";
}
