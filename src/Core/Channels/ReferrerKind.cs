namespace PreciseBeacon.Core.Channels;

/// <summary>What kind of site a visitor came from.</summary>
public enum ReferrerKind
{
    /// <summary>There was no referrer.</summary>
    None,

    SearchEngine,

    SocialNetwork,

    /// <summary>A mail program read in the browser.</summary>
    Mail,

    OwnSite,

    OtherSite,
}
