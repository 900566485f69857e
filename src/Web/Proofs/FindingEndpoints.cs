using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Findings of all checks in one list.</summary>
public static class FindingEndpoints
{
    private const int MostQuietDays = 365;
    private const int LongestReason = 300;

    public static void MapFindings(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/findings").WithTags("Proof");
        group
            .MapGet("", ReadAsync)
            .WithName("ReadFindings")
            .WithSummary("Lists what all checks found: what is new, worse, known and gone.")
            .For(Caller.Readers);
        group
            .MapPut("/{id:guid}/quiet", QuietAsync)
            .WithName("QuietFinding")
            .WithSummary("Leaves a finding out of the count for some days, with a reason, or no longer.")
            .For(Caller.Builders);
    }

    private static async Task<FindingsAnswer> ReadAsync(BeaconDb db, FindingBook book, TimeProvider clock, CancellationToken cancel)
    {
        var (at, findings) = await book.ReadAsync(db.CurrentWorkspaceId!.Value, cancel);
        return FindingsAnswer.Of(at, findings, clock.GetUtcNow());
    }

    private static async Task<Refusal?> QuietAsync(
        Guid id,
        FindingQuiet request,
        BeaconDb db,
        FindingBook book,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (request.Days is < 1 or > MostQuietDays)
        {
            return Refusal.Invalid("days-refused", $"A finding is quiet for 1 to {MostQuietDays} days, or not at all.");
        }

        string? reason = string.IsNullOrWhiteSpace(request.Reason) ? null : request.Reason.Trim();
        if (request.Days is not null && reason is null)
        {
            return Refusal.Invalid("reason-missing", "Say why the finding may stay, so that others know.");
        }

        if (reason?.Length > LongestReason)
        {
            return Refusal.Unacceptable("reason-long", $"A reason has at most {LongestReason} characters; shorten it.");
        }

        DateTimeOffset? until = request.Days is { } days ? clock.GetUtcNow().AddDays(days) : null;
        string? by = until is null ? null : auditLog.Who;
        if (!await book.QuietAsync(db.CurrentWorkspaceId!.Value, id, until, until is null ? null : reason, by, cancel))
        {
            return Refusal.NotFound("finding");
        }

        auditLog.Add("finding-quiet", id, null, new { until, reason });
        await db.SaveChangesAsync(cancel);
        return null;
    }
}

/// <summary>How long a finding is quiet.</summary>
/// <param name="Days">For so many days, 1 to 365; null for no longer.</param>
/// <param name="Reason">Why it may stay, up to 300 characters; needed with days.</param>
public sealed record FindingQuiet(int? Days, string? Reason);

/// <summary>Findings of all checks.</summary>
/// <param name="At">When they were gathered; null for not yet.</param>
/// <param name="Open">How many errors and warnings there are that are neither gone nor quiet.</param>
/// <param name="Findings">The gravest and newest first, then those that are quiet, then those that are gone since a fortnight.</param>
public sealed record FindingsAnswer(DateTimeOffset? At, int Open, IReadOnlyList<ListedFindingAnswer> Findings)
{
    internal static FindingsAnswer Of(DateTimeOffset? at, IReadOnlyList<KeptFinding> kept, DateTimeOffset now)
    {
        var findings = kept.Select(k => ListedFindingAnswer.Of(k, now)).ToList();
        return new FindingsAnswer(
            at,
            findings.Count(f => f.Change != FindingChange.Gone && f.QuietUntil is null && f.Severity != Severity.Info),
            [
                .. findings
                    .OrderBy(f => f.Change == FindingChange.Gone)
                    .ThenBy(f => f.QuietUntil is not null)
                    .ThenByDescending(f => f.Severity)
                    .ThenBy(f => f.Change)
                    .ThenByDescending(f => f.Weight),
            ]
        );
    }
}

/// <summary>A finding.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Area">What it is about.</param>
/// <param name="About">Which of them: a page's address, a stray as it arrived, a link's or a trial's id.</param>
/// <param name="Severity">How grave it is.</param>
/// <param name="Subject">What it is about, as people call it.</param>
/// <param name="Message">What was found and what to do.</param>
/// <param name="Weight">How much it touches, in visits or links.</param>
/// <param name="Then">How much it touched when it was found.</param>
/// <param name="Change">What became of it.</param>
/// <param name="FirstSeen">When it was found.</param>
/// <param name="GoneAt">Since when it is found no longer; null while it is.</param>
/// <param name="QuietUntil">Until when it is left out of the count; null for not.</param>
/// <param name="QuietReason">Why.</param>
/// <param name="QuietBy">Who said so.</param>
public sealed record ListedFindingAnswer(
    Guid Id,
    FindingArea Area,
    string About,
    Severity Severity,
    string Subject,
    string Message,
    long Weight,
    long Then,
    FindingChange Change,
    DateTimeOffset FirstSeen,
    DateTimeOffset? GoneAt,
    DateTimeOffset? QuietUntil,
    string? QuietReason,
    string? QuietBy
)
{
    internal static ListedFindingAnswer Of(KeptFinding kept, DateTimeOffset now)
    {
        bool quiet = kept.QuietUntil > now;
        return new ListedFindingAnswer(
            kept.Id,
            kept.Found.Area,
            kept.Found.About,
            kept.Found.Severity,
            kept.Found.Subject,
            kept.Found.Message,
            kept.Found.Weight,
            kept.Then,
            FindingChanges.Of(kept.FirstSeen, kept.GoneAt is not null, kept.Then, kept.Found.Weight, now),
            kept.FirstSeen,
            kept.GoneAt,
            quiet ? kept.QuietUntil : null,
            quiet ? kept.QuietReason : null,
            quiet ? kept.QuietBy : null
        );
    }
}
