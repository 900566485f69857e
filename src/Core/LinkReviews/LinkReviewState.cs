namespace PreciseBeacon.Core.LinkReviews;

/// <summary>What came of looking at a link that is in use.</summary>
public enum LinkReviewState
{
    /// <summary>It is as the convention wants it.</summary>
    Right,

    /// <summary>It is faulty, and the mended link is beside it.</summary>
    Mended,

    /// <summary>It is faulty, and somebody has to decide.</summary>
    Stuck,
}
