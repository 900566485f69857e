using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.ResultsPages;

/// <summary>A page of figures for somebody without an account, as it is asked for.</summary>
/// <param name="Name">What stands at its head; up to 100 characters.</param>
/// <param name="Address">The view it shows: the part of Arrivals' address behind the question mark. Not looked at when a page is changed.</param>
/// <param name="WithMoney">Revenue, and what is worked out from it, is shown.</param>
/// <param name="EndsOn">The last day it can be opened, in the workspace's zone; null for no end.</param>
public sealed record ResultPageRequest(string? Name, string? Address, bool WithMoney = false, DateOnly? EndsOn = null);

/// <summary>A page of figures for somebody without an account.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">What stands at its head.</param>
/// <param name="Url">Where it can be opened by whoever has the address.</param>
/// <param name="Address">The view it shows: the part of Arrivals' address behind the question mark.</param>
/// <param name="WithMoney">Revenue, and what is worked out from it, is shown.</param>
/// <param name="EndsOn">The last day it can be opened, in the workspace's zone; null for no end.</param>
/// <param name="Ended">That day is over: nobody can open it until its end is changed.</param>
/// <param name="CreatedBy">Who made it.</param>
/// <param name="CreatedAt">When that was.</param>
/// <param name="Openings">How often somebody without an account opened it.</param>
/// <param name="LastOpenedAt">When that was last; null for never.</param>
public sealed record ResultPageAnswer(
    Guid Id,
    string Name,
    string Url,
    string Address,
    bool WithMoney,
    DateOnly? EndsOn,
    bool Ended,
    string CreatedBy,
    DateTimeOffset CreatedAt,
    int Openings,
    DateTimeOffset? LastOpenedAt
);

/// <summary>The results page of a link.</summary>
/// <param name="Address">Where it can be opened by whoever has the address.</param>
/// <param name="OnWherePage">The public page that says where the link's short link leads has a link to it.</param>
public sealed record SharedResults(string Address, bool OnWherePage);

/// <summary>What is asked of a link's results page.</summary>
/// <param name="OnWherePage">The public page that says where the link's short link leads gets a link to it.</param>
public sealed record SharedResultsRequest(bool OnWherePage = false);

/// <summary>What a results page is about.</summary>
/// <param name="Title">What stands at its head.</param>
/// <param name="Workspace">Whose figures they are.</param>
/// <param name="TimeZone">IANA name of the zone its days and hours are in.</param>
/// <param name="Today">The day it is there.</param>
/// <param name="Currency">ISO 4217; null where money is not shown.</param>
/// <param name="Address">The view's settings, as Arrivals' address has them; null for a link.</param>
/// <param name="Since">The day the link was made; null for a view.</param>
/// <param name="Labels">What fields of the workspace's own are called, by their name in the address.</param>
public sealed record ResultsAbout(
    string Title,
    string Workspace,
    string TimeZone,
    DateOnly Today,
    string? Currency,
    string? Address,
    DateOnly? Since,
    IReadOnlyDictionary<string, string> Labels
);

/// <summary>What was counted on a link, for somebody without an account.</summary>
/// <param name="All">Since it was made.</param>
/// <param name="Month">In the last 30 days.</param>
public sealed record SharedCounts(LinkCounts All, LinkCounts Month);
