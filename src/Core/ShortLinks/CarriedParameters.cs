namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What becomes of parameters somebody put behind a short link.</summary>
public enum CarriedParameters
{
    /// <summary>They are left behind.</summary>
    Nothing,

    /// <summary>They go on to the page; one the page's address has already keeps its value there, so that tags are never overwritten.</summary>
    KeepTags,

    /// <summary>They go on to the page and take the place of what it has under the same key.</summary>
    Overwrite,
}
