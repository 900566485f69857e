using Microsoft.AspNetCore.Mvc;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>What came of share texts after they were posted.</summary>
public static class PostingEndpoints
{
    public static void MapPostings(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/postings", ReadAsync)
            .WithName("ReadPostings")
            .WithSummary("Reports what came of share texts after they were posted.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<PostingsAnswer>> ReadAsync(
        PostingReport report,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null
    ) => await report.ReadAsync(from, to, where, cancel);
}

/// <summary>Share texts that were posted.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Postings">The newest first, at most 2,000.</param>
/// <param name="Placements">The same by placement, those with most visits for each posting first.</param>
/// <param name="Weekdays">By weekday: 7, Monday first.</param>
/// <param name="Hours">By the hour they were posted in: 24.</param>
/// <param name="BestWeekday">The weekday that brings more than others, where chance allows saying so; null else.</param>
/// <param name="BestHour">The hour that does; null else.</param>
/// <param name="Ignored">Fields that were filtered by and say nothing about postings.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; null else.</param>
/// <param name="More">There are older postings in the range; nothing here counts them.</param>
public sealed record PostingsAnswer(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<PostingAnswer> Postings,
    IReadOnlyList<PostingGroup> Placements,
    IReadOnlyList<PostingGroup> Weekdays,
    IReadOnlyList<PostingGroup> Hours,
    BestTime? BestWeekday,
    BestTime? BestHour,
    IReadOnlyList<string> Ignored,
    DateOnly? RawFrom,
    bool More
);

/// <summary>A share text that was posted.</summary>
/// <param name="LinkId">Its link.</param>
/// <param name="Title">The link's title, or its address.</param>
/// <param name="Placement">Where it was posted; null for none.</param>
/// <param name="Campaign">The link's campaign; null for none.</param>
/// <param name="At">When it was marked as placed.</param>
/// <param name="Weekday">ISO 8601, in the workspace's zone: 1 is Monday.</param>
/// <param name="Hour">The hour of the day, in the workspace's zone.</param>
/// <param name="Visits">Visits in the first hour, day and week; a span that still lasts has what came so far.</param>
/// <param name="Conversions">Conversions in the same spans.</param>
/// <param name="Hours">Hours since it was posted, at most those of a week.</param>
public sealed record PostingAnswer(
    Guid LinkId,
    string Title,
    string? Placement,
    string? Campaign,
    DateTimeOffset At,
    int Weekday,
    int Hour,
    FirstSpans Visits,
    FirstSpans Conversions,
    int Hours
);

/// <summary>Postings that have something in common, of those whose first day is over.</summary>
/// <param name="Name">The placement's name, the weekday or the hour; null for postings without a placement.</param>
/// <param name="Postings">How many.</param>
/// <param name="Visits">Visits on their first days, added up.</param>
/// <param name="Conversions">Conversions on their first days.</param>
/// <param name="VisitsEach">Visits for each posting; null without any.</param>
public sealed record PostingGroup(string? Name, int Postings, long Visits, long Conversions, decimal? VisitsEach);
