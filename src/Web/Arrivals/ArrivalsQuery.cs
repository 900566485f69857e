using Microsoft.AspNetCore.Mvc;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>What is asked of Arrivals.</summary>
public sealed record ArrivalsQuery
{
    /// <summary>The first day; 30 days in all where it is left out.</summary>
    [FromQuery(Name = "from")]
    public DateOnly? From { get; init; }

    /// <summary>The last day; today where it is left out.</summary>
    [FromQuery(Name = "to")]
    public DateOnly? To { get; init; }

    /// <summary><c>before</c>, <c>yearBefore</c>, two days, or <c>campaigns:</c> and two to six of them.</summary>
    [FromQuery(Name = "compare")]
    public string? Compare { get; init; }

    /// <summary>What rows are made by, outermost first; by campaign where it is left out, and the total alone where it is empty.</summary>
    [FromQuery(Name = "rows")]
    public string? Rows { get; init; }

    /// <summary>Figures that are wanted; all of them where it is left out.</summary>
    [FromQuery(Name = "measures")]
    public string? Measures { get; init; }

    /// <summary>Conditions, each a field, a test and a value.</summary>
    [FromQuery(Name = "where")]
    public string[]? Where { get; init; }

    /// <summary>A measure or <c>key</c>, with a minus in front for the largest first.</summary>
    [FromQuery(Name = "sort")]
    public string? Sort { get; init; }

    /// <summary>Only rows one of whose names has this in it.</summary>
    [FromQuery(Name = "search")]
    public string? Search { get; init; }

    /// <summary>A point of the series: day, week or month.</summary>
    [FromQuery(Name = "series")]
    public string? Series { get; init; }

    /// <summary>How conversions and revenue are shared out over the touches before them; left out, they stand with their own visits.</summary>
    [FromQuery(Name = "credit")]
    public string? Credit { get; init; }

    /// <summary>Another model each row is compared with.</summary>
    [FromQuery(Name = "creditBeside")]
    public string? CreditBeside { get; init; }

    /// <summary>Days before a conversion in which a touch may lie; 45 where it is left out.</summary>
    [FromQuery(Name = "creditDays")]
    public int? CreditDays { get; init; }

    /// <summary>From 1.</summary>
    [FromQuery(Name = "page")]
    public int? Page { get; init; }

    /// <summary>Rows on a page; 50 where it is left out.</summary>
    [FromQuery(Name = "size")]
    public int? Size { get; init; }
}
