using System.Text.Json.Serialization;

namespace PreciseBeacon.Core.Proofs.Reconciling;

/// <summary>What another system counts.</summary>
public enum FigureKind
{
    Shown,
    Sent,
    Delivered,
    Opened,
    Clicks,
    Visits,
    Conversions,
}

/// <summary>Figures of another system; null where it says nothing.</summary>
/// <param name="Shown">How often something was shown.</param>
/// <param name="Sent">Mails sent.</param>
/// <param name="Delivered">Mails delivered.</param>
/// <param name="Opened">Mails opened.</param>
/// <param name="Clicks">Clicks.</param>
/// <param name="Visits">Visits.</param>
/// <param name="Conversions">Conversions; some systems share them out, so they may be broken.</param>
public readonly record struct OtherFigures(
    long? Shown = null,
    long? Sent = null,
    long? Delivered = null,
    long? Opened = null,
    long? Clicks = null,
    long? Visits = null,
    decimal? Conversions = null
)
{
    private static readonly (FigureKind Part, FigureKind Whole)[] Rates =
    [
        (FigureKind.Delivered, FigureKind.Sent),
        (FigureKind.Opened, FigureKind.Delivered),
        (FigureKind.Clicks, FigureKind.Shown),
        (FigureKind.Clicks, FigureKind.Delivered),
        (FigureKind.Conversions, FigureKind.Clicks),
    ];

    /// <summary>Nothing is said at all.</summary>
    [JsonIgnore]
    public bool IsEmpty => this == default;

    /// <summary>One of them; null where nothing is said.</summary>
    public decimal? Of(FigureKind kind) =>
        kind switch
        {
            FigureKind.Shown => Shown,
            FigureKind.Sent => Sent,
            FigureKind.Delivered => Delivered,
            FigureKind.Opened => Opened,
            FigureKind.Clicks => Clicks,
            FigureKind.Visits => Visits,
            _ => Conversions,
        };

    /// <summary>The same with another figure of one kind.</summary>
    public OtherFigures With(FigureKind kind, decimal count) =>
        kind switch
        {
            FigureKind.Shown => this with { Shown = (long)count },
            FigureKind.Sent => this with { Sent = (long)count },
            FigureKind.Delivered => this with { Delivered = (long)count },
            FigureKind.Opened => this with { Opened = (long)count },
            FigureKind.Clicks => this with { Clicks = (long)count },
            FigureKind.Visits => this with { Visits = (long)count },
            _ => this with { Conversions = count },
        };

    /// <summary>What their figures say of one another, such as clicks of shown; those with nothing to divide by are left out.</summary>
    public IEnumerable<FigureShare> Shares()
    {
        foreach (var (part, whole) in Rates)
        {
            if (Of(part) is { } some && Of(whole) is > 0 and { } all)
            {
                yield return new FigureShare(part, whole, (double)(some / all));
            }
        }
    }

    /// <summary>Both together; what only one says stands as it is.</summary>
    public OtherFigures Plus(OtherFigures other) =>
        new(
            Sum(Shown, other.Shown),
            Sum(Sent, other.Sent),
            Sum(Delivered, other.Delivered),
            Sum(Opened, other.Opened),
            Sum(Clicks, other.Clicks),
            Sum(Visits, other.Visits),
            Conversions is null && other.Conversions is null ? null : (Conversions ?? 0) + (other.Conversions ?? 0)
        );

    /// <summary>
    /// The larger ones of each: what two systems count of one thing, such as an ad and the network that shows it, is not counted twice (ours).
    /// </summary>
    public OtherFigures Or(OtherFigures other) =>
        new(
            Max(Shown, other.Shown),
            Max(Sent, other.Sent),
            Max(Delivered, other.Delivered),
            Max(Opened, other.Opened),
            Max(Clicks, other.Clicks),
            Max(Visits, other.Visits),
            Max(Conversions, other.Conversions)
        );

    private static T? Max<T>(T? one, T? other)
        where T : struct, IComparable<T> =>
        one is not { } mine ? other
        : other is not { } theirs || mine.CompareTo(theirs) >= 0 ? one
        : other;

    private static long? Sum(long? one, long? other) => one is null && other is null ? null : (one ?? 0) + (other ?? 0);
}

/// <summary>A rate among another system's own figures.</summary>
/// <param name="Part">What is a share, such as clicks.</param>
/// <param name="Whole">Of what, such as shown.</param>
/// <param name="Share">How large it is; over 1 where something is counted more than once.</param>
public sealed record FigureShare(FigureKind Part, FigureKind Whole, double Share);
