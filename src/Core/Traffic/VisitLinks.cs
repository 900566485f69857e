namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Finds what led to a visit. The hit: the visitor's latest within <see cref="HitWithin"/> before the first page view whose answer led to
/// that page; each hit serves one visit. The link: that of the hit; else, by exact tags, the best one made before the visit. A visit that
/// goes on from an earlier one has the link of that one.
/// </summary>
public static class VisitLinks
{
    /// <summary>How long after a hit its visit begins at the latest (ours).</summary>
    public static readonly TimeSpan HitWithin = TimeSpan.FromMinutes(2);

    /// <summary>The visits in the same order, each with its hit, its link and whether it came through a printed code.</summary>
    /// <param name="visits">Visits of whole visitor days.</param>
    /// <param name="hits">Hits that fit a visit by visitor, time and page, by the visit's id.</param>
    /// <param name="links">Links that fit a visit's tags, by the visit's tags and landing page; the best first.</param>
    public static List<Visit> Find(
        IReadOnlyList<Visit> visits,
        ILookup<Guid, HitOfVisit> hits,
        ILookup<(Guid WorkspaceId, RawTags Tags, string Page), LinkByTags> links
    )
    {
        var taken = new HashSet<Guid>();
        var matched = new Dictionary<Guid, HitOfVisit>();
        foreach (var visit in visits.OrderBy(v => v.StartedAt).ThenBy(v => v.Id))
        {
            foreach (var hit in hits[visit.Id].OrderByDescending(h => h.At).ThenByDescending(h => h.HitId))
            {
                if (taken.Add(hit.HitId))
                {
                    matched[visit.Id] = hit;
                    break;
                }
            }
        }

        var linkOf = visits.ToDictionary(
            v => v.Id,
            v => matched.GetValueOrDefault(v.Id)?.LinkId ?? ByTags(v, links[(v.WorkspaceId, v.Tags, v.LandingPage)])
        );
        return
        [
            .. visits.Select(v =>
                v with
                {
                    HitId = matched.GetValueOrDefault(v.Id)?.HitId,
                    Printed = matched.GetValueOrDefault(v.SourceVisit)?.Printed ?? false,
                    Typed = matched.GetValueOrDefault(v.SourceVisit)?.Typed ?? "",
                    LinkId = linkOf.TryGetValue(v.SourceVisit, out var link) ? link : linkOf[v.Id],
                }
            ),
        ];
    }

    private static Guid? ByTags(Visit visit, IEnumerable<LinkByTags> fitting) =>
        fitting.FirstOrDefault(l => l.MadeAt <= visit.StartedAt)?.LinkId;
}

/// <summary>A hit that may have led to a visit.</summary>
/// <param name="HitId">Its id.</param>
/// <param name="At">When it came.</param>
/// <param name="LinkId">The link whose short link it was on.</param>
/// <param name="Printed">Its short link is the one in a printed code.</param>
/// <param name="Typed">What was typed behind the short link; empty for nothing.</param>
public sealed record HitOfVisit(Guid HitId, DateTimeOffset At, Guid LinkId, bool Printed, string Typed = "");

/// <summary>A link whose tags are those of a visit.</summary>
/// <param name="LinkId">Its id.</param>
/// <param name="MadeAt">A link made later than the visit is not behind it.</param>
public sealed record LinkByTags(Guid LinkId, DateTimeOffset MadeAt);
