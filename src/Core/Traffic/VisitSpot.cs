namespace PreciseBeacon.Core.Traffic;

/// <summary>What a visit did with one spot of the site's own pages, such as a banner. A conversion counts for every spot before it.</summary>
public sealed record VisitSpot
{
    /// <summary>So many spots are told apart in a visit; further ones are not counted (ours).</summary>
    public const int Most = 50;

    /// <summary>How often it was seen, at most once for each page view.</summary>
    public int Seen { get; init; }

    /// <summary>How often it was clicked.</summary>
    public int Clicked { get; init; }

    /// <summary>Conversions after it was first seen.</summary>
    public int ConversionsAfterSeen { get; init; }

    /// <summary>Conversions after it was first clicked.</summary>
    public int ConversionsAfterClicked { get; init; }

    /// <summary>The spots of a visit once an event of it was counted.</summary>
    /// <param name="spots">Those of before, by name; null for none. It grows along with the visit.</param>
    /// <param name="item">The event.</param>
    /// <param name="conversions">How many conversions it made, of whatever kind.</param>
    public static IReadOnlyDictionary<string, VisitSpot>? After(
        IReadOnlyDictionary<string, VisitSpot>? spots,
        RawPageEvent item,
        int conversions
    )
    {
        if (!item.IsOfSpot && (conversions == 0 || spots is null))
        {
            return spots;
        }

        var some = spots as Dictionary<string, VisitSpot> ?? new(StringComparer.Ordinal);
        if (conversions > 0)
        {
            foreach (var (name, spot) in some)
            {
                some[name] = spot with
                {
                    ConversionsAfterSeen = spot.ConversionsAfterSeen + (spot.Seen > 0 ? conversions : 0),
                    ConversionsAfterClicked = spot.ConversionsAfterClicked + (spot.Clicked > 0 ? conversions : 0),
                };
            }
        }

        if (item.IsOfSpot && (some.ContainsKey(item.Name) || some.Count < Most))
        {
            var spot = some.GetValueOrDefault(item.Name) ?? new VisitSpot();
            some[item.Name] = spot with
            {
                Seen = spot.Seen + (item.Kind == PageEventKind.SpotSeen ? 1 : 0),
                Clicked = spot.Clicked + (item.Kind == PageEventKind.SpotClicked ? 1 : 0),
            };
        }

        return some;
    }
}
