using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>A breakdown of arrivals.</summary>
/// <param name="Rows">One page of rows, in the order asked for.</param>
/// <param name="Found">How many rows there are in all, after searching.</param>
/// <param name="Rest">The rows beyond this page, added up; null where there are none. It has no visitors: one person may be in several of them.</param>
/// <param name="RestRows">How many these are.</param>
/// <param name="Total">The same without a breakdown; visitors are counted anew.</param>
/// <param name="Before">The total of the span compared with; null where nothing is compared.</param>
/// <param name="ComparedFrom">Its first day.</param>
/// <param name="ComparedTo">Its last day.</param>
/// <param name="Series">Points with visits, in order, each by its first day.</param>
/// <param name="Per">What a point of <c>Series</c> stands for: <c>day</c>, <c>week</c> or <c>month</c>.</param>
/// <param name="Names">What keys of the rows and values of the filters are called where they are ids or written values: by field, then by key.</param>
/// <param name="Unknown">Keys of the rows that neither the plan nor the convention's word lists know: by field, where there are any.</param>
/// <param name="Sort">The order of the rows: <c>key</c> or a measure, with <c>-</c> in front for the largest first.</param>
/// <param name="DailyVisitors">True where visitors can't be recognised over days, so that they are daily visitors, added up.</param>
/// <param name="Lost">Events of the range that could not be kept.</param>
/// <param name="Freshness">How far visits are worked out.</param>
/// <param name="Named">How often each kind of conversion and each named event occurred in everything together, the commonest first, at most 100.</param>
/// <param name="Campaigns">The campaigns compared, in the order asked for; empty where none are. <c>Rows</c>, <c>Total</c> and <c>Series</c> are then of the first one.</param>
/// <param name="ManyValues">What brought more different values than are told apart; those beyond stand together as <c>(many values)</c>.</param>
public sealed record ArrivalsAnswer(
    DateOnly From,
    DateOnly To,
    IReadOnlyList<RowAnswer> Rows,
    int Found,
    FigureAnswer? Rest,
    int RestRows,
    FigureAnswer Total,
    FigureAnswer? Before,
    DateOnly? ComparedFrom,
    DateOnly? ComparedTo,
    IReadOnlyList<ArrivalsDay> Series,
    string Per,
    IReadOnlyDictionary<string, IReadOnlyDictionary<string, string>> Names,
    IReadOnlyDictionary<string, IReadOnlyList<string>> Unknown,
    string Sort,
    IReadOnlyList<Money> RevenueElsewhere,
    IReadOnlyList<Money> RefundsElsewhere,
    IReadOnlyList<Money> CostElsewhere,
    bool DailyVisitors,
    decimal? ShareWithId,
    long Lost,
    IReadOnlyList<ManyValues> ManyValues,
    Freshness Freshness,
    IReadOnlyList<NamedFigure> Named,
    IReadOnlyList<ComparedAnswer> Campaigns
)
{
    /// <summary>The same without revenue and cost, and what is worked out from them.</summary>
    public ArrivalsAnswer WithoutMoney() =>
        this with
        {
            Rows =
            [
                .. Rows.Select(r =>
                    r with
                    {
                        Figures = r.Figures.WithoutMoney(),
                        Before = r.Before?.WithoutMoney(),
                        Beside = r.Beside is null ? null : [.. r.Beside.Select(b => b.WithoutMoney())],
                    }
                ),
            ],
            Rest = Rest?.WithoutMoney(),
            Total = Total.WithoutMoney(),
            Before = Before?.WithoutMoney(),
            RevenueElsewhere = [],
            RefundsElsewhere = [],
            CostElsewhere = [],
            Campaigns = [.. Campaigns.Select(c => c with { Total = c.Total.WithoutMoney() })],
        };
}

/// <summary>A figure whose name comes from the pages or the owner.</summary>
/// <param name="Measure">As measures are asked for: <c>conversions:</c> and the kind, or <c>events:</c> and the name, with <c>%2C</c> for a comma.</param>
/// <param name="Count">How often it occurred.</param>
public sealed record NamedFigure(string Measure, long Count);

/// <summary>A campaign that is compared, over its own days.</summary>
/// <param name="Value">Its written value.</param>
/// <param name="Name">What people call it.</param>
/// <param name="From">Its first day.</param>
/// <param name="To">The last day that is compared.</param>
/// <param name="Total">What it came to.</param>
/// <param name="Series">Its points with visits, in order.</param>
public sealed record ComparedAnswer(
    string Value,
    string Name,
    DateOnly From,
    DateOnly To,
    FigureAnswer Total,
    IReadOnlyList<ArrivalsDay> Series
);

/// <summary>Something that brought too many different values to tell all of them apart.</summary>
/// <param name="Of"><c>tag</c>, <c>keys</c>, <c>referrers</c>, <c>pages</c>, <c>typed</c>, <c>models</c>, <c>systems</c>, <c>browsers</c>, <c>events</c> or <c>spots</c>.</param>
/// <param name="Key">The tag's key; null for the others.</param>
public sealed record ManyValues(string Of, string? Key);

/// <summary>A link that visits came by.</summary>
/// <param name="Title">Its title, or its address where it has none.</param>
/// <param name="Visits">Visits of the row that came by it.</param>
public sealed record ArrivalLinkAnswer(Guid Id, string Title, long Visits);

/// <summary>A row; a key is null where visits have no such value.</summary>
/// <param name="Keys">One for each field of the rows asked for.</param>
/// <param name="Figures">What it came to.</param>
/// <param name="Before">What it came to in the span compared with; null where nothing is compared.</param>
/// <param name="Beside">What it came to for each of the other campaigns compared; null where none are.</param>
/// <param name="Series">Its visits at each point of the report's series; null where no series was asked for, and for rows beyond the first six.</param>
/// <param name="Point">Where its town lies; null where rows are not by town, or it is not known.</param>
public sealed record RowAnswer(
    IReadOnlyList<string?> Keys,
    FigureAnswer Figures,
    FigureAnswer? Before,
    IReadOnlyList<FigureAnswer>? Beside,
    IReadOnlyList<long>? Series,
    PointAnswer? Point
);

/// <summary>A place on the globe (WGS 84).</summary>
/// <param name="Latitude">Degrees north of the equator.</param>
/// <param name="Longitude">Degrees east of Greenwich.</param>
public sealed record PointAnswer(double Latitude, double Longitude);

/// <summary>Figures of a row. A figure whose divisor is zero is null.</summary>
/// <param name="Clicks">People's clicks on the row's short links, scans among them; null where the rows are of a kind that clicks do not have, and where clicks were not asked for.</param>
/// <param name="Scans">Those that came through printed codes; null as clicks are.</param>
/// <param name="VisitsPerClick">Visits by links that have a short link for each click; null as clicks are, and without any.</param>
/// <param name="Visitors">Distinct visitors; null for rows added up, and where they were not asked for.</param>
/// <param name="NewVisitors">Visitors with an id whose first visit known is among these.</param>
/// <param name="Events">Events pages named.</param>
/// <param name="Stayed">Visits that were not bounces.</param>
/// <param name="Revenue">Of the workspace's currency; null, as all money, where it is not shown.</param>
/// <param name="Refunds">Money that went back for orders, on the day it did.</param>
/// <param name="AverageOrder">Revenue by conversion.</param>
/// <param name="RevenuePerVisit">Revenue by visit.</param>
/// <param name="Cost">What its links cost; null where they cost nothing, where the rows are of a kind that costs do not have, and where costs were not asked for.</param>
/// <param name="CostPerClick">Cost by click; null as cost and clicks are.</param>
/// <param name="CostPerVisit">Cost by visit.</param>
/// <param name="CostPerConversion">Cost by conversion.</param>
/// <param name="CostPerThousandShown">Cost by a thousand times shown; null as cost and shown are.</param>
/// <param name="Profit">Revenue less refunds and cost.</param>
/// <param name="Return">Profit by cost: 0.5 is half of the cost on top.</param>
/// <param name="Shown">How often other systems say they showed it; null, as the next three, where none of them says so, where rows are of a kind that such figures do not have, and where it was not asked for.</param>
/// <param name="Sent">Mails other systems sent.</param>
/// <param name="Delivered">Mails they delivered.</param>
/// <param name="Opened">Mails that were opened, as they say.</param>
/// <param name="Named">Conversions by kind and events by name, those that were asked for, by measure.</param>
/// <param name="Conversions">Whole, unless a model of credit shares them out, to a millionth.</param>
/// <param name="ConversionsGained">How many more the row has by the model of <c>creditBeside</c>; null without one.</param>
/// <param name="RevenueGained">How much more revenue it has by that model.</param>
/// <param name="VerifiedConversions">Conversions that the shop's server sent signed; the others were reported by pages.</param>
public sealed record FigureAnswer(
    long? Clicks,
    long? Scans,
    decimal? VisitsPerClick,
    long Visits,
    long? Visitors,
    long NewVisitors,
    long PageViews,
    long Events,
    decimal? PagesPerVisit,
    decimal? SecondsPerVisit,
    long Bounces,
    long Stayed,
    decimal? BounceRate,
    long ConvertingVisits,
    decimal Conversions,
    decimal VerifiedConversions,
    decimal? ConversionsGained,
    decimal? ConversionRate,
    Money? Revenue,
    Money? Refunds,
    Money? RevenueGained,
    Money? AverageOrder,
    Money? RevenuePerVisit,
    Money? RevenuePerVisitor,
    Money? Cost,
    Money? CostPerClick,
    Money? CostPerVisit,
    Money? CostPerConversion,
    Money? CostPerThousandShown,
    Money? Profit,
    decimal? Return,
    long? Shown,
    long? Sent,
    long? Delivered,
    long? Opened,
    IReadOnlyDictionary<string, decimal> Named
)
{
    /// <summary>Figures as they are answered.</summary>
    /// <param name="f">The figures.</param>
    /// <param name="currency">Of the workspace, ISO 4217.</param>
    /// <param name="withVisitors">False where visitors were not counted.</param>
    /// <param name="withClicks">False where clicks were not counted.</param>
    /// <param name="named">Kinds and names that were asked for; null for none.</param>
    public static FigureAnswer Of(
        Figures f,
        string currency,
        bool withVisitors = true,
        bool withClicks = false,
        IReadOnlyList<NamedMeasure>? named = null
    ) =>
        new(
            withClicks ? f.Clicks : null,
            withClicks ? f.Scans : null,
            withClicks ? f.VisitsPerClick : null,
            f.Visits,
            withVisitors ? f.Visitors : null,
            f.NewVisitors,
            f.PageViews,
            f.Events,
            f.PagesPerVisit,
            f.SecondsPerVisit,
            f.Bounces,
            f.Stayed,
            f.BounceRate,
            f.ConvertingVisits,
            f.Conversions,
            f.VerifiedConversions,
            f.ConversionsGained,
            f.ConversionRate,
            Money.Of(f.Revenue, currency),
            Money.Of(f.Refunds, currency),
            MoneyOf(f.RevenueGained, currency),
            MoneyOf(f.AverageOrder, currency),
            MoneyOf(f.RevenuePerVisit, currency),
            withVisitors ? MoneyOf(f.RevenuePerVisitor, currency) : null,
            MoneyOf(f.Cost, currency),
            withClicks ? MoneyOf(f.CostPerClick, currency) : null,
            MoneyOf(f.CostPerVisit, currency),
            MoneyOf(f.CostPerConversion, currency),
            MoneyOf(f.CostPerThousandShown, currency),
            MoneyOf(f.Profit, currency),
            f.Return,
            f.Others.Shown,
            f.Others.Sent,
            f.Others.Delivered,
            f.Others.Opened,
            (named ?? []).Select(n => n.ToString()).ToDictionary(n => n, n => f.Named.GetValueOrDefault(n), StringComparer.Ordinal)
        );

    /// <summary>The same without revenue and cost, and what is worked out from them.</summary>
    public FigureAnswer WithoutMoney() =>
        this with
        {
            Revenue = null,
            Refunds = null,
            RevenueGained = null,
            AverageOrder = null,
            RevenuePerVisit = null,
            RevenuePerVisitor = null,
            Cost = null,
            CostPerClick = null,
            CostPerVisit = null,
            CostPerConversion = null,
            CostPerThousandShown = null,
            Profit = null,
            Return = null,
        };

    private static Money? MoneyOf(decimal? amount, string currency) => amount is { } each ? Money.Of(each, currency) : null;
}
