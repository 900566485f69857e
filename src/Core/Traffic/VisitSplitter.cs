namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Gathers one visitor's page events into visits. A gap over 30 minutes ends a visit; so does an arrival with other
/// tags or from another outside referrer. A referrer of one's own site never begins one by itself.
/// </summary>
public static class VisitSplitter
{
    /// <summary>Works out the visits of one visitor.</summary>
    /// <param name="events">All events of the visitor (under the hashes of adjoining days too), in the order of time, then id.</param>
    /// <param name="rules">The workspace's rules.</param>
    /// <param name="counts">Whether a conversion counts: only one event of each order id does.</param>
    /// <returns>The visits in the order they began; crawlers' events make none.</returns>
    public static IReadOnlyList<Visit> Sort(IEnumerable<RawPageEvent> events, VisitRules rules, Func<RawPageEvent, bool> counts)
    {
        var visits = new List<Visit>();
        Visit? current = null;
        foreach (var item in events)
        {
            if (Crawlers.IsCrawler(item.UserAgent))
            {
                continue;
            }

            var arrival = item.Kind == PageEventKind.View ? Arrival.Read(item, rules) : null;
            if (current is null || item.At - current.EndedAt > VisitRules.Gap || IsNewArrival(current, arrival))
            {
                if (current is not null)
                {
                    visits.Add(current);
                }

                current = Begin(item, arrival ?? Arrival.Read(item, rules) with { FromOwnSite = true }, visits, rules);
            }

            current = Add(current, item, arrival, counts);
        }

        if (current is not null)
        {
            visits.Add(current);
        }

        return visits;
    }

    private static bool IsNewArrival(Visit current, Arrival? arrival)
    {
        if (arrival is null || arrival.FromOwnSite)
        {
            return false;
        }

        return (arrival.Tags.Any && arrival.Tags != current.Tags)
            || (arrival.ReferrerHost.Length > 0 && arrival.ReferrerHost != current.ReferrerHost);
    }

    private static Visit Begin(RawPageEvent first, Arrival arrival, List<Visit> earlier, VisitRules rules)
    {
        var day = rules.DayOf(first.At);

        // Going on inside one's own site after a pause: the source is that of the last visit still going on that day (rule 6).
        var source = arrival.FromOwnSite ? earlier.LastOrDefault(v => rules.DayOf(v.EndedAt) == day) : null;
        return new Visit
        {
            Id = first.Id,
            WorkspaceId = first.WorkspaceId,
            SiteId = first.SiteId,
            Visitor = first.Visitor,
            Day = day,
            StartedAt = first.At,
            EndedAt = first.At,
            Tags = source?.Tags ?? (arrival.FromOwnSite ? ArrivalTags.None : arrival.Tags),
            ReferrerHost = source?.ReferrerHost ?? arrival.ReferrerHost,
            LandingPage = arrival.Page,
            Device = Traffic.Device.Of(first.UserAgent),
            HasId = first.HasId,
            DayVisitor = first.DayVisitor ?? first.Visitor,
            SourceVisit = source?.SourceVisit ?? first.Id,
        };
    }

    private static Visit Add(Visit visit, RawPageEvent item, Arrival? arrival, Func<RawPageEvent, bool> counts) =>
        visit with
        {
            EndedAt = item.At,
            PageViews = visit.PageViews + (item.Kind == PageEventKind.View ? 1 : 0),
            Events = visit.Events + (item.Kind == PageEventKind.Event ? 1 : 0),
            TaggedInside = visit.TaggedInside || (arrival is { FromOwnSite: true, Tags.Any: true }),
            Conversions = item.Kind == PageEventKind.Conversion && counts(item) ? With(visit.Conversions, item) : visit.Conversions,
        };

    // One list grows along with the visit: a visit with very many conversions takes no longer for each.
    private static List<RawPageEvent> With(IReadOnlyList<RawPageEvent> conversions, RawPageEvent item)
    {
        var list = conversions as List<RawPageEvent> ?? [];
        list.Add(item);
        return list;
    }
}
