using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Proofs;

/// <summary>
/// How far a trial has come: clicked, redirected, arrived with its tags, measured and sorted (reports, section 5). Of several clicks the
/// one counts that came furthest, so that a scanner which opens the address first spoils nothing.
/// </summary>
public sealed record TrialProgress
{
    /// <summary>The steps, in their order; always four.</summary>
    public required IReadOnlyList<TrialStep> Steps { get; init; }

    /// <summary>What was found, the gravest first.</summary>
    public required IReadOnlyList<Finding> Findings { get; init; }

    /// <summary>The click it is told of; null before the first.</summary>
    public TrialClick? Click { get; init; }

    /// <summary>The visit of that click; null before it came.</summary>
    public TrialVisit? Visit { get; init; }

    /// <summary>All four steps are done.</summary>
    public bool IsDone => Steps.All(s => s.State == TrialStepState.Done);

    /// <summary>What came of it until a moment.</summary>
    /// <param name="now">The moment.</param>
    /// <param name="endsAt">When the trial's address ends.</param>
    public TrialVerdict VerdictAt(DateTimeOffset now, DateTimeOffset endsAt) =>
        Steps.Any(s => s.State == TrialStepState.Failed) ? TrialVerdict.Fails
        : IsDone
            ? Findings.Any(f => f.Severity > Severity.Info) ? TrialVerdict.WorksWithFindings
                : TrialVerdict.Works
        : Click is not null ? TrialVerdict.Underway
        : now >= endsAt ? TrialVerdict.NotTried
        : TrialVerdict.Waiting;

    /// <summary>The verdict in one sentence or two.</summary>
    public string SaysAt(DateTimeOffset now, DateTimeOffset endsAt) =>
        VerdictAt(now, endsAt) switch
        {
            TrialVerdict.Works => $"The link works. It arrives as {Arrives}.",
            TrialVerdict.WorksWithFindings => $"The link arrives as {Arrives}, but look at what was found.",
            TrialVerdict.Fails => Findings[0].Message,
            TrialVerdict.Underway => "The browser was sent on. Waiting for the page to report.",
            TrialVerdict.NotTried => "Nobody opened the address within 30 minutes.",
            _ => "Open the address on any device. Each step lights up as it happens.",
        };

    private string Arrives =>
        Visit is not { } visit
            ? ""
            : string.Join(
                ", ",
                new[]
                {
                    visit.Channel,
                    visit.Campaign is { } campaign ? $"campaign {campaign}" : null,
                    visit.Placement is { } placement ? $"placement {placement}" : null,
                }.OfType<string>()
            );

    /// <summary>So long after a click without a visit something is wrong (ours; what a page reports is seen within two seconds).</summary>
    public static readonly TimeSpan MeasuredWithin = TimeSpan.FromSeconds(20);

    /// <summary>How long a trial's address works.</summary>
    public static readonly TimeSpan Lasts = TimeSpan.FromMinutes(30);

    /// <summary>Judges a trial.</summary>
    /// <param name="clicks">Openings of its address, in the order of time.</param>
    /// <param name="visits">Visits that began with one of them.</param>
    /// <param name="trace">What the fetch before it found.</param>
    /// <param name="now">The moment it is asked.</param>
    public static TrialProgress Of(
        IReadOnlyList<TrialClick> clicks,
        IReadOnlyList<TrialVisit> visits,
        IReadOnlyList<Finding> trace,
        DateTimeOffset now
    )
    {
        var visitOf = visits.GroupBy(v => v.ClickId).ToDictionary(g => g.Key, g => g.MinBy(v => v.StartedAt)!);
        var click = clicks
            .Where(c => c.Kind == HitKind.Person)
            .OrderByDescending(c =>
                visitOf.TryGetValue(c.Id, out var v)
                    ? Carries(v.Tags, c.Due)
                        ? 2
                        : 1
                    : 0
            )
            .ThenByDescending(c => c.At)
            .FirstOrDefault();
        if (click is null)
        {
            return new TrialProgress { Steps = NoneYet(), Findings = trace };
        }

        var visit = visitOf.GetValueOrDefault(click.Id);
        bool redirected = click.Outcome == RouteOutcome.Redirects;
        bool over = now - click.At >= MeasuredWithin;
        var found = new List<Finding>();
        TrialStepState arrived = TrialStepState.Waiting,
            measured = TrialStepState.Waiting;
        if (!redirected)
        {
            found.Add(Stopped(click.Outcome));
            (arrived, measured) = (TrialStepState.Failed, TrialStepState.Failed);
        }
        else if (visit is null)
        {
            if (over)
            {
                found.Add(NotMeasured(trace));
                (arrived, measured) = (TrialStepState.Failed, TrialStepState.Failed);
            }
        }
        else
        {
            bool carries = Carries(visit.Tags, click.Due);
            (arrived, measured) = (carries ? TrialStepState.Done : TrialStepState.Failed, TrialStepState.Done);
            if (!carries)
            {
                found.Add(WithoutTags(visit.Tags, click.Due, trace));
            }
            else if (visit.Channel != click.DueChannel)
            {
                found.Add(
                    new Finding(
                        FindingRules.SortedElsewhere,
                        Severity.Info,
                        $"By its tags alone the link is {click.DueChannel}; with where the visit came from it is {visit.Channel}. Compare the channels table."
                    )
                );
            }
        }

        return new TrialProgress
        {
            Click = click,
            Visit = visit,
            Steps =
            [
                new TrialStep(TrialStepKind.Clicked, TrialStepState.Done, click.At),
                new TrialStep(TrialStepKind.Redirected, redirected ? TrialStepState.Done : TrialStepState.Failed, click.At),
                new TrialStep(TrialStepKind.Arrived, arrived, visit?.StartedAt),
                new TrialStep(TrialStepKind.Measured, measured, visit?.StartedAt),
            ],
            Findings = [.. found.Concat(trace).OrderByDescending(f => f.Severity)],
        };
    }

    private static TrialStep[] NoneYet() =>
        [.. Enum.GetValues<TrialStepKind>().Select(kind => new TrialStep(kind, TrialStepState.Waiting, null))];

    private static bool Carries(RawTags tags, RawTags due) =>
        due.Values.All(d => tags.Values.TryGetValue(d.Key, out string? value) && value == d.Value);

    private static Finding Stopped(RouteOutcome outcome) =>
        outcome == RouteOutcome.Paused
            ? new Finding(
                FindingRules.LinkPaused,
                Severity.Error,
                "The link is paused, so nobody comes to the page. Resume it on the link's page in the Ledger."
            )
            : new Finding(
                FindingRules.LinkEnded,
                Severity.Error,
                "The link has ended and has no page for afterwards, so nobody comes to the page. Give it another end on the link's page in the Ledger."
            );

    private static Finding NotMeasured(IReadOnlyList<Finding> trace) =>
        new(
            FindingRules.NotMeasured,
            Severity.Error,
            "The browser was sent on, but the page was not measured. "
                + (
                    trace
                        .FirstOrDefault(f =>
                            f.Rule
                                is FindingRules.ErrorStatus
                                    or FindingRules.PageUnreachable
                                    or FindingRules.PageTooSlow
                                    or FindingRules.TooManyRedirects
                                    or FindingRules.ScriptOfAnotherSite
                                    or FindingRules.ScriptMissing
                        )
                        ?.Rule switch
                    {
                        FindingRules.ErrorStatus
                        or FindingRules.PageUnreachable
                        or FindingRules.PageTooSlow
                        or FindingRules.TooManyRedirects => "The page itself did not answer as it should; see below.",
                        FindingRules.ScriptOfAnotherSite => "Its script has the key of another site.",
                        FindingRules.ScriptMissing => "Its measuring script is missing.",
                        _ =>
                            "Its script is there, so the browser blocks it, asks not to be followed, or was closed at once. Try another browser.",
                    }
                )
        );

    private static Finding WithoutTags(RawTags tags, RawTags due, IReadOnlyList<Finding> trace)
    {
        var lost = due.Values.Where(d => tags.Values.GetValueOrDefault(d.Key) != d.Value).Select(d => d.Key).ToList();
        var where = trace.FirstOrDefault(f => f.Rule is FindingRules.TagsDropped or FindingRules.TagsChanged);
        return new Finding(
            FindingRules.ArrivedWithoutTags,
            Severity.Error,
            $"The visit arrived without {string.Join(", ", lost)}. "
                + (
                    where is null
                        ? "The fetch kept them, so something in the page, or a redirect that only browsers see, removes them before the script runs."
                        : $"They are lost at redirect {where.Hop}; see below."
                ),
            where?.Hop
        );
    }
}

/// <summary>What came of a trial.</summary>
public enum TrialVerdict
{
    /// <summary>Nobody has opened its address yet.</summary>
    Waiting,

    /// <summary>It was opened, and its page has not reported yet.</summary>
    Underway,

    /// <summary>All steps are done and nothing was found.</summary>
    Works,

    /// <summary>All steps are done, and something was found on the way.</summary>
    WorksWithFindings,

    /// <summary>A step failed.</summary>
    Fails,

    /// <summary>Its time is over, and nobody opened its address.</summary>
    NotTried,
}

/// <summary>The four steps of a trial.</summary>
public enum TrialStepKind
{
    /// <summary>A person opened the trial's address.</summary>
    Clicked,

    /// <summary>The answer sent them on to the page.</summary>
    Redirected,

    /// <summary>The page was seen with every tag of the link.</summary>
    Arrived,

    /// <summary>Its script reported, and the visit has a channel.</summary>
    Measured,
}

/// <summary>How a step of a trial stands.</summary>
public enum TrialStepState
{
    Waiting,
    Done,
    Failed,
}

/// <summary>One step of a trial.</summary>
/// <param name="Kind">Which.</param>
/// <param name="State">How it stands.</param>
/// <param name="At">When it happened; null while it has not.</param>
public sealed record TrialStep(TrialStepKind Kind, TrialStepState State, DateTimeOffset? At);

/// <summary>One opening of a trial's address.</summary>
/// <param name="Id">Its id.</param>
/// <param name="At">When, UTC.</param>
/// <param name="Kind">What opened it; only a person's counts.</param>
/// <param name="UserAgent">What it said it is.</param>
/// <param name="Outcome">What the link did.</param>
/// <param name="Address">Where it led; null for nowhere.</param>
/// <param name="Due">The tags of that address, which have to arrive.</param>
/// <param name="DueChannel">The channel these alone are sorted into.</param>
public sealed record TrialClick(
    Guid Id,
    DateTimeOffset At,
    HitKind Kind,
    string UserAgent,
    RouteOutcome Outcome,
    string? Address,
    RawTags Due,
    string DueChannel
);

/// <summary>The visit of a trial.</summary>
/// <param name="ClickId">The click it began with.</param>
/// <param name="StartedAt">When it began, UTC.</param>
/// <param name="Page">Its first page, host and path.</param>
/// <param name="Tags">The tags it arrived with.</param>
/// <param name="Channel">The channel it is sorted into.</param>
/// <param name="Source">Its source; null where its tags say none, as is the medium.</param>
/// <param name="Medium">Its medium.</param>
/// <param name="Campaign">Its campaign; null for none.</param>
/// <param name="Placement">Its placement; null for none.</param>
public sealed record TrialVisit(
    Guid ClickId,
    DateTimeOffset StartedAt,
    string Page,
    RawTags Tags,
    string Channel,
    string? Source,
    string? Medium,
    string? Campaign,
    string? Placement
);
