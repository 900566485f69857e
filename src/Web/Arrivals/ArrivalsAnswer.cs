using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>A breakdown of arrivals, most visits first.</summary>
/// <param name="Per">What a point of <c>Days</c> stands for: <c>day</c> or <c>month</c>.</param>
/// <param name="DailyVisitors">True where visitors can't be recognised over days, so that they are daily visitors, added up.</param>
/// <param name="Lost">Events of the range that could not be kept.</param>
public sealed record ArrivalsAnswer(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<RowAnswer> Rows,
    FigureAnswer Total,
    IReadOnlyList<ArrivalsDay> Days,
    string Per,
    IReadOnlyList<Money> RevenueElsewhere,
    bool DailyVisitors,
    decimal? ShareWithId,
    long Lost
);

/// <summary>A link that visits came by.</summary>
/// <param name="Title">Its title, or its address where it has none.</param>
/// <param name="Visits">Visits of the row that came by it.</param>
public sealed record ArrivalLinkAnswer(Guid Id, string Title, long Visits);

/// <summary>A row; a key is null where visits have no such value.</summary>
public sealed record RowAnswer(IReadOnlyList<string?> Keys, FigureAnswer Figures);

/// <summary>Figures of a row. A figure whose divisor is zero is null.</summary>
/// <param name="VerifiedConversions">Conversions that the shop's server sent signed; the others were reported by pages.</param>
public sealed record FigureAnswer(
    long Visits,
    long Visitors,
    long PageViews,
    decimal? PagesPerVisit,
    decimal? SecondsPerVisit,
    long Bounces,
    decimal? BounceRate,
    long ConvertingVisits,
    long Conversions,
    long VerifiedConversions,
    decimal? ConversionRate,
    Money Revenue,
    Money? RevenuePerVisitor
)
{
    public static FigureAnswer Of(Figures f, string currency) =>
        new(
            f.Visits,
            f.Visitors,
            f.PageViews,
            f.PagesPerVisit,
            f.SecondsPerVisit,
            f.Bounces,
            f.BounceRate,
            f.ConvertingVisits,
            f.Conversions,
            f.VerifiedConversions,
            f.ConversionRate,
            Money.Of(f.Revenue, currency),
            f.RevenuePerVisitor is { } each ? Money.Of(each, currency) : null
        );
}
