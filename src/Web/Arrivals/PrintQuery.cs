using Microsoft.AspNetCore.Mvc;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>What is asked of a report on paper besides the report itself.</summary>
public sealed record PrintQuery
{
    /// <summary>Figures on the line, at most.</summary>
    public const int MostStations = 6;

    /// <summary>Figures behind it, at most.</summary>
    public const int MostColumns = 3;

    /// <summary>Notes on days that are read; a page has room for few.</summary>
    public const int MostNotes = 10;

    /// <summary>Figures on the line, with commas between.</summary>
    [FromQuery(Name = "stations")]
    public string? Stations { get; init; }

    /// <summary>Figures that follow it, with commas between.</summary>
    [FromQuery(Name = "columns")]
    public string? Columns { get; init; }

    /// <summary>What stands at its head.</summary>
    [FromQuery(Name = "title")]
    public string? Title { get; init; }
}
