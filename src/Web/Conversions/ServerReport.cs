using System.Text.Json.Serialization;
using PreciseBeacon.Web.Measuring;

namespace PreciseBeacon.Web.Conversions;

/// <summary>What a server reports: a conversion, or money that went back for an order.</summary>
public sealed record ServerReport
{
    /// <summary>The server's own id of this report, 1 to 100 characters; the same again changes nothing.</summary>
    public string? EventId { get; init; }

    /// <summary>The site: its id, its name or one of its hosts. Can be left out where the workspace has one.</summary>
    public string? Site { get; init; }

    /// <summary>The shop's order id; an order counts once. Left out for what is no order.</summary>
    public string? OrderId { get; init; }

    /// <summary>Kind of the conversion; “order” where an order names none.</summary>
    public string? Kind { get; init; }

    /// <summary>What it is worth, or what went back.</summary>
    public ReportedMoney? Value { get; init; }

    /// <summary>What was bought, at most 50.</summary>
    public IReadOnlyList<ReportedItem?>? Items { get; init; }

    /// <summary>When it happened, ISO 8601; now where left out.</summary>
    public string? At { get; init; }

    /// <summary>What the short link filled in for @{click.id}.</summary>
    public string? ClickId { get; init; }

    /// <summary>The id the site keeps for its visitor, as its pages hand it over.</summary>
    public string? VisitorId { get; init; }

    /// <summary>The order for which money went back; then this is a refund.</summary>
    public string? RefundOf { get; init; }
}

/// <summary>An amount as a server says it.</summary>
public sealed record ReportedMoney
{
    /// <summary>The amount, such as “12.50”.</summary>
    [JsonNumberHandling(JsonNumberHandling.AllowReadingFromString)]
    public decimal? Amount { get; init; }

    /// <summary>ISO 4217.</summary>
    public string? Currency { get; init; }
}

/// <summary>What became of a server's reports.</summary>
/// <param name="Events">One for each, in the order sent.</param>
public sealed record ServerReportsAnswer(IReadOnlyList<ServerReportAnswer> Events);

/// <summary>What became of one report.</summary>
/// <param name="EventId">Its id; null where it has none.</param>
/// <param name="Outcome">In a word.</param>
/// <param name="Rule">Machine word of what is to be known about it; null for nothing.</param>
/// <param name="Detail">The same in a sentence.</param>
public sealed record ServerReportAnswer(string? EventId, ReportOutcome Outcome, string? Rule = null, string? Detail = null);

/// <summary>What became of a report.</summary>
public enum ReportOutcome
{
    /// <summary>It counts.</summary>
    Kept,

    /// <summary>It counts once its order has come.</summary>
    Waiting,

    /// <summary>It came before; nothing changed.</summary>
    Known,

    /// <summary>It does not count.</summary>
    Refused,
}
