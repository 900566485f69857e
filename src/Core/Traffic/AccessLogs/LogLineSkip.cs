namespace PreciseBeacon.Core.Traffic.AccessLogs;

/// <summary>Why a line of an access log is no page view of a person. The first that holds is told, in this order.</summary>
public enum LogLineSkip
{
    /// <summary>It is not in the combined log format.</summary>
    Unreadable,

    /// <summary>Something else than a page was asked for to be read: another method than GET.</summary>
    OtherMethod,

    /// <summary>The server did not answer with the page.</summary>
    Unsuccessful,

    /// <summary>A picture, a style, a script, a file: part of a page, or no page.</summary>
    Asset,

    /// <summary>A crawler, a checker or another program.</summary>
    Crawler,

    /// <summary>It names a host that is none of the site's.</summary>
    OtherHost,

    /// <summary>It is older than single visits are kept.</summary>
    TooOld,

    /// <summary>It is from a time that has not come yet.</summary>
    InFuture,

    /// <summary>The pages measured themselves on that day already, and such days were to be left out.</summary>
    MeasuredAlready,

    /// <summary>The same line was read before.</summary>
    AlreadyRead,
}
