namespace PreciseBeacon.Core.Links;

/// <summary>Where a link carries its tags.</summary>
public enum TagStyle
{
    /// <summary>After the <c>?</c>, where servers and most reading systems look.</summary>
    Query,

    /// <summary>After the <c>#</c>, where only scripts in the page can look.</summary>
    Fragment,

    /// <summary>As one opaque code after the <c>?</c>, which only this workspace can read.</summary>
    Sealed,
}
