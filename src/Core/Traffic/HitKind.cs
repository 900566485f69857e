namespace PreciseBeacon.Core.Traffic;

/// <summary>What a hit on a short link was.</summary>
public enum HitKind : byte
{
    /// <summary>A person's click or scan.</summary>
    Person,

    /// <summary>The same person on the same short link again within two seconds.</summary>
    DoubleTap,

    /// <summary>A known crawler.</summary>
    Crawler,

    /// <summary>A chat or network that shows a picture of the page before anybody clicks.</summary>
    Preview,

    /// <summary>Only the headers were asked for.</summary>
    Head,

    /// <summary>Fetched ahead of a click that may never come.</summary>
    Prefetch,
}
