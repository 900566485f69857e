using Microsoft.EntityFrameworkCore;

namespace PreciseBeacon.Data.LinkReviews;

/// <summary>How often a rule speaks in a link review.</summary>
/// <param name="Rule">Name of the rule.</param>
/// <param name="Links">Links it speaks about.</param>
/// <param name="Mended">Those of them that could be repaired.</param>
/// <param name="Example">What it says about the first of them.</param>
public sealed record LinkReviewCount(string Rule, int Links, int Mended, string Example);

/// <summary>Counts the notices of a link review by rule.</summary>
public static class LinkReviewCounts
{
    public static Task<List<LinkReviewCount>> ReadAsync(BeaconDb db, Guid review, CancellationToken cancel) =>
        db
            .Database.SqlQuery<LinkReviewCount>(
                $"""
                select u.rule, count(*)::int as links, (count(*) filter (where l.state = 'Mended'))::int as mended, (array_agg(l.says[u.place] order by l.number))[1] as example
                from reviewed_links l cross join lateral unnest(l.rules) with ordinality as u(rule, place)
                where l.link_review_id = {review} group by u.rule
                """
            )
            .ToListAsync(cancel);
}
