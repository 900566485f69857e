namespace PreciseBeacon.Core.Traffic;

/// <summary>Decides which hits are people's clicks.</summary>
public static class HitClassifier
{
    /// <summary>Time within which a person's second hit on one short link is a double tap (ours).</summary>
    public static readonly TimeSpan DoubleTapWithin = TimeSpan.FromSeconds(2);

    /// <summary>What one hit is, seen alone.</summary>
    public static HitKind KindAlone(HitFlags flags, string userAgent)
    {
        if ((flags & HitFlags.Head) != 0)
        {
            return HitKind.Head;
        }

        if ((flags & HitFlags.Prefetch) != 0)
        {
            return HitKind.Prefetch;
        }

        return !Crawlers.IsCrawler(userAgent) ? HitKind.Person
            : Crawlers.IsPreview(userAgent) ? HitKind.Preview
            : HitKind.Crawler;
    }

    /// <summary>
    /// Sorts the hits of one visitor on one short link. A person's hit that follows another person's hit within two
    /// seconds is a double tap; hits that are no person's never shadow one that is. Only neighbours matter, so a
    /// stretch that begins two seconds early sorts the same as the whole.
    /// </summary>
    /// <param name="hits">The hits in the order of time, then id.</param>
    public static IEnumerable<(RawHit Hit, HitKind Kind)> Sort(IEnumerable<RawHit> hits)
    {
        DateTimeOffset? lastPerson = null;
        foreach (var hit in hits)
        {
            var kind = KindAlone(hit.Flags, hit.UserAgent);
            if (kind == HitKind.Person)
            {
                if (hit.At - lastPerson <= DoubleTapWithin)
                {
                    kind = HitKind.DoubleTap;
                }

                lastPerson = hit.At;
            }

            yield return (hit, kind);
        }
    }
}

/// <summary>What a hit on a short link was.</summary>
public enum HitKind : byte
{
    /// <summary>A person's click or scan.</summary>
    Person,

    /// <summary>The same person on the same short link again within two seconds.</summary>
    DoubleTap,

    /// <summary>A known crawler.</summary>
    Crawler,

    /// <summary>A chat or network that shows a picture of the page before anybody clicks.</summary>
    Preview,

    /// <summary>Only the headers were asked for.</summary>
    Head,

    /// <summary>Fetched ahead of a click that may never come.</summary>
    Prefetch,
}
