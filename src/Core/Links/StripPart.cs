namespace PreciseBeacon.Core.Links;

/// <summary>What a stretch of a link strip is.</summary>
public enum StripPart
{
    Scheme,
    Host,
    Path,

    /// <summary>What the page's own address carried in its query or fragment.</summary>
    Carried,

    /// <summary>One field's key and value.</summary>
    Field,
}
