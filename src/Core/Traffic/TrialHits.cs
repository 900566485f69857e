namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Openings of trials' addresses, by which visits that belong to a trial are told from all others: the visitor's first view, within
/// <see cref="VisitLinks.HitWithin"/>, of a page the trial leads to. Each serves one visit; what else the visitor does is no trial's.
/// </summary>
public sealed class TrialHits
{
    /// <summary>No trials.</summary>
    public static readonly TrialHits None = new([]);

    private readonly ILookup<Guid, TrialHit> _byVisitor;
    private readonly HashSet<Guid> _taken = [];

    /// <param name="hits">The openings, in any order. What one run has taken is not there for another, so each gets its own.</param>
    public TrialHits(IEnumerable<TrialHit> hits) => _byVisitor = hits.ToLookup(h => h.Visitor);

    /// <summary>When the first view among some events came that one of some openings may have led to; the end of time where none did.</summary>
    public static DateTimeOffset FirstViewAfter(IEnumerable<RawPageEvent> events, IReadOnlyCollection<TrialHit> hits) =>
        events
            .Where(e => e.Kind == PageEventKind.View && hits.Any(h => h.At <= e.At && e.At - h.At <= VisitLinks.HitWithin))
            .Select(e => e.At)
            .DefaultIfEmpty(DateTimeOffset.MaxValue)
            .Min();

    /// <summary>The opening that led to a page view, the latest of several; null where none did.</summary>
    /// <param name="view">The view.</param>
    /// <param name="page">Its page; see <see cref="PageView.Page"/>.</param>
    public TrialHit? Take(RawPageEvent view, string page)
    {
        if (_byVisitor.Count == 0)
        {
            return null;
        }

        long key = PageKey.Of(page);
        var hit = _byVisitor[view.DayVisitor ?? view.Visitor]
            .Concat(view.EarlierVisitor is { } earlier ? _byVisitor[earlier] : [])
            .Where(h => h.WorkspaceId == view.WorkspaceId && h.At <= view.At && view.At - h.At <= VisitLinks.HitWithin)
            .Where(h => h.PageKeys.Contains(key) && !_taken.Contains(h.Id))
            .MaxBy(h => (h.At, h.Id));
        if (hit is not null)
        {
            _taken.Add(hit.Id);
        }

        return hit;
    }
}

/// <summary>One opening of a trial's address that led to a page.</summary>
/// <param name="Id">Its id.</param>
/// <param name="TrialId">The trial.</param>
/// <param name="WorkspaceId">Whose trial it is.</param>
/// <param name="At">When, UTC.</param>
/// <param name="Visitor">Keyed hash of the visitor under the day's salt.</param>
/// <param name="PageKeys">Keys of the pages on the way, the last one among them; see <see cref="PageKey"/>.</param>
public sealed record TrialHit(Guid Id, Guid TrialId, Guid WorkspaceId, DateTimeOffset At, Guid Visitor, IReadOnlyList<long> PageKeys);
