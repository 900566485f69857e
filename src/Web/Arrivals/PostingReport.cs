using System.Globalization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Reports;
using Calendar = PreciseBeacon.Core.Reports.Calendar;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Answers what came of share texts after they were posted, and when posting brings most.</summary>
public sealed class PostingReport(BeaconDb db, PostingReader postings, TimeProvider clock)
{
    /// <summary>More than a page of the screen shows well; it says so where there are others.</summary>
    private const int Most = 2_000;
    private const int HoursADay = 24;
    private const int HoursAWeek = 7 * HoursADay;

    /// <summary>Shuffling begins alike each time, so that the same postings say the same.</summary>
    private const int Seed = 20_261_130;

    public async Task<Outcome<PostingsAnswer>> ReadAsync(DateOnly? from, DateOnly? to, string[]? where, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        var campaigns = await db
            .Campaigns.AsNoTracking()
            .Select(c => new
            {
                c.Id,
                c.Name,
                c.Value,
            })
            .ToListAsync(cancel);
        var placements = await db.Placements.AsNoTracking().Select(p => new { p.Id, p.Name }).ToListAsync(cancel);
        var now = clock.GetUtcNow();
        var zone = TimeZoneInfo.FindSystemTimeZoneById(workspace.TimeZone);
        var read = await postings.ReadAsync(
            workspace.Id,
            StartOf(request.From),
            StartOf(request.To.AddDays(1)),
            Narrowed(RowKind.Campaign, campaigns.Select(c => (c.Id, c.Value))),
            Narrowed(RowKind.Placement, placements.Select(p => (p.Id, p.Name))),
            Most + 1,
            cancel
        );
        var answers = read.Take(Most)
            .Select(p =>
            {
                var local = TimeZoneInfo.ConvertTime(p.At, zone);
                return (
                    Posting: p,
                    Answer: new PostingAnswer(
                        p.LinkId,
                        p.Title,
                        placements.Find(x => x.Id == p.PlacementId)?.Name,
                        campaigns.Find(x => x.Id == p.CampaignId)?.Name,
                        p.At,
                        int.Parse(Calendar.NameOf(RowKind.Weekday, DateOnly.FromDateTime(local.DateTime)), CultureInfo.InvariantCulture),
                        local.Hour,
                        p.Visits,
                        p.Conversions,
                        (int)Math.Clamp((now - p.At).TotalHours, 0, HoursAWeek)
                    )
                );
            })
            .ToList();

        // What still lasts would count too little.
        var over = answers.Where(a => a.Answer.Hours >= HoursADay).ToList();
        return new PostingsAnswer(
            request.From,
            request.To,
            [.. answers.Select(a => a.Answer)],
            [
                .. over.GroupBy(a => a.Answer.Placement)
                    .Select(g => GroupOf(g.Key, [.. g.Select(a => a.Answer)]))
                    .OrderByDescending(g => g.VisitsEach)
                    .ThenBy(g => g.Name, StringComparer.OrdinalIgnoreCase),
            ],
            [.. Enumerable.Range(1, 7).Select(day => GroupOf(Number(day), [.. over.Select(a => a.Answer).Where(a => a.Weekday == day)]))],
            [
                .. Enumerable
                    .Range(0, HoursADay)
                    .Select(hour => GroupOf(Number(hour), [.. over.Select(a => a.Answer).Where(a => a.Hour == hour)])),
            ],
            BestOf(a => a.Weekday),
            BestOf(a => a.Hour),
            [
                .. request
                    .Where.Select(w => w.Field)
                    .Where(f => f.Kind is not (RowKind.Campaign or RowKind.Placement))
                    .Select(f => f.ToString())
                    .Distinct(),
            ],
            workspace.RawFrom is { } raw && request.From < raw ? raw : null,
            read.Count > Most
        );

        BestTime? BestOf(Func<PostingAnswer, int> group) =>
            PostingTimes.Of(
                [.. over.Select(a => new PostingOutcome(a.Posting.PlacementId, group(a.Answer), a.Answer.Visits.Day))],
                new Random(Seed)
            );

        List<Guid>? Narrowed(RowKind kind, IEnumerable<(Guid Id, string Key)> known)
        {
            var conditions = request.Where.Where(w => w.Field.Kind == kind).ToList();
            return conditions.Count == 0 ? null : [.. known.Where(k => conditions.TrueForAll(c => c.Holds(k.Key))).Select(k => k.Id)];
        }

        DateTimeOffset StartOf(DateOnly day) =>
            WorkspaceMoment.Read(day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), workspace.TimeZone)!.Value;
    }

    private static PostingGroup GroupOf(string? name, List<PostingAnswer> postings)
    {
        long visits = postings.Sum(p => p.Visits.Day);
        return new PostingGroup(
            name,
            postings.Count,
            visits,
            postings.Sum(p => p.Conversions.Day),
            postings.Count == 0 ? null : (decimal)visits / postings.Count
        );
    }

    private static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);
}
