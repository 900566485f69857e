namespace PreciseBeacon.Core.Channels;

/// <summary>What a channel's condition looks at.</summary>
public enum ChannelSubject
{
    Source,
    Medium,
    Campaign,

    /// <summary>The referrer's host.</summary>
    Referrer,

    /// <summary>The referrer's kind, by the names of <see cref="Channels.ReferrerKind"/>.</summary>
    ReferrerKind,

    /// <summary>Whether any tag is there: <c>yes</c> or <c>no</c>.</summary>
    Tagged,

    /// <summary>Whether it came through a printed code: <c>yes</c> or <c>no</c>.</summary>
    Printed,
}
