using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Traffic.UserAgents;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Gathers one visitor's page events into visits. A gap over 30 minutes ends a visit; so does an arrival with other
/// tags or from another outside referrer, and each site has visits of its own. A referrer of one's own site never begins one by itself.
/// </summary>
public static class VisitSplitter
{
    /// <summary>Works out the visits of one visitor.</summary>
    /// <param name="events">All events of the visitor (under the hashes of adjoining days too), in the order of time, then id.</param>
    /// <param name="rules">The workspace's rules.</param>
    /// <param name="counted">A conversion as it counts, or null: only one event of each order id does (<see cref="OrderOnce"/>).</param>
    /// <param name="trials">Openings of trials' addresses; null for none.</param>
    /// <returns>The visits in the order they began, those of trials marked; crawlers' events make none.</returns>
    public static IReadOnlyList<Visit> Sort(
        IEnumerable<RawPageEvent> events,
        VisitRules rules,
        Func<RawPageEvent, RawPageEvent?> counted,
        TrialHits? trials = null
    )
    {
        var visits = new List<Visit>();
        var open = new Dictionary<Guid, int>();
        foreach (var item in events)
        {
            // A server has no browser; one of its conversions that doesn't count makes no visit either.
            if (item.Verified ? counted(item) is null : Crawlers.IsCrawler(item.UserAgent))
            {
                continue;
            }

            // A visit belongs to one site: going on to another one begins a visit there, and coming back goes on with the first.
            var arrival = item.Kind == PageEventKind.View ? Arrival.Read(item, rules) : null;
            bool goesOn = open.TryGetValue(item.SiteId, out int current) && item.At - visits[current].EndedAt <= VisitRules.Gap;
            if (!goesOn && item.IsOfSpot)
            {
                continue; // a page that was left open is no visit
            }

            // A trial's visit is one of its own, whatever the person did before.
            var trial = arrival is null ? null : trials?.Take(item, arrival.Page);
            if (trial is not null || !goesOn || IsNewArrival(visits[current], arrival))
            {
                open[item.SiteId] = current = visits.Count;

                // An event may come before its page's view; it says as much of where the visitor came from.
                visits.Add(Begin(item, arrival ?? Arrival.Read(item, rules), visits, rules) with { Trial = trial });
            }

            int before = visits[current].Conversions.Count;
            var visit = Converted(Add(visits[current], item, arrival, counted), item, arrival, rules.Conversions);
            visits[current] = visit with { Spots = VisitSpot.After(visit.Spots, item, visit.Conversions.Count - before) };
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
        var source = arrival.FromOwnSite ? LatestOf(earlier, day, rules) : null;
        return new Visit
        {
            Id = first.Id,
            WorkspaceId = first.WorkspaceId,
            SiteId = first.SiteId,
            Visitor = first.Visitor,
            Day = day,
            StartedAt = first.At,
            EndedAt = first.At,
            Tags = source?.Tags ?? (arrival.FromOwnSite ? RawTags.None : arrival.Tags),
            ReferrerHost = source?.ReferrerHost ?? arrival.ReferrerHost,
            LandingPage = arrival.Page,
            Device = DeviceOf(first),
            Place = new Whereabouts(first.Country, first.Region, first.City),
            Hour = rules.HourOf(first.At),
            HasId = first.HasId,
            DayVisitor = first.DayVisitor ?? first.Visitor,
            SourceVisit = source?.SourceVisit ?? first.Id,
        };
    }

    private static VisitDevice DeviceOf(RawPageEvent item)
    {
        var said = UserAgentReader.Of(item.UserAgent);
        return new VisitDevice(said.Kind, said.Model, said.System, said.Browser, item.Language);
    }

    private static Visit? LatestOf(List<Visit> visits, DateOnly day, VisitRules rules) =>
        visits.Where(v => v.Trial is null && rules.DayOf(v.EndedAt) == day).MaxBy(v => v.EndedAt);

    private static Visit Add(Visit visit, RawPageEvent item, Arrival? arrival, Func<RawPageEvent, RawPageEvent?> counted) =>
        visit with
        {
            // Nobody is on the page any more when a server reports; and what is seen on a page takes no longer than the page.
            EndedAt = item.Verified || item.Kind == PageEventKind.SpotSeen ? visit.EndedAt : item.At,
            Views = arrival is null ? visit.Views : With(visit.Views, new PageView(item.At, arrival.Page)),
            Events = visit.Events + (item.Kind == PageEventKind.Event ? 1 : 0),
            EventNames = item.Kind == PageEventKind.Event ? Named(visit.EventNames, item.Name) : visit.EventNames,
            TaggedInside = visit.TaggedInside || (arrival is { FromOwnSite: true, Tags.Any: true }),
            Conversions =
                item.Kind == PageEventKind.Conversion && counted(item) is { } conversion
                    ? With(visit.Conversions, conversion)
                    : visit.Conversions,
        };

    /// <summary>What the owner counts as a conversion: once in a visit, unless every time counts.</summary>
    private static Visit Converted(Visit visit, RawPageEvent item, Arrival? arrival, ConversionDefinitions definitions)
    {
        var met = item.Kind switch
        {
            PageEventKind.View => definitions.OfPage(arrival!.Page),
            PageEventKind.Event => definitions.OfEvent(item.Name),
            _ => [],
        };
        foreach (var definition in met)
        {
            var before = visit.Met ?? [];
            if (before.Add(definition.Id) || definition.CountsEach)
            {
                visit = visit with { Met = before, Conversions = With(visit.Conversions, definition.Of(item)) };
            }
        }

        return visit;
    }

    private static Dictionary<string, int> Named(IReadOnlyDictionary<string, int>? names, string name)
    {
        var some = names as Dictionary<string, int> ?? new(StringComparer.Ordinal);
        if (some.TryGetValue(name, out int times) || some.Count < Visit.MostEventNames)
        {
            some[name] = times + 1;
        }

        return some;
    }

    // One list grows along with the visit: a visit with very many pages or conversions takes no longer for each.
    private static List<T> With<T>(IReadOnlyList<T> some, T item)
    {
        var list = some as List<T> ?? [];
        list.Add(item);
        return list;
    }
}
