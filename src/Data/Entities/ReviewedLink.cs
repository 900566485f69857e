using PreciseBeacon.Core.LinkReviews;

namespace PreciseBeacon.Data.Entities;

/// <summary>One link of a link review.</summary>
public sealed class ReviewedLink
{
    public Guid LinkReviewId { get; set; }

    public LinkReview? LinkReview { get; set; }

    /// <summary>Its place in what was uploaded, from 1.</summary>
    public int Number { get; set; }

    /// <summary>The link as it was found.</summary>
    public required string Link { get; set; }

    /// <summary>Where it stands, such as a page's address or a row; null when that is not known.</summary>
    public string? FoundOn { get; set; }

    public LinkReviewState State { get; set; }

    /// <summary>The link as it should be; null where it can't be mended by itself, and where it is right.</summary>
    public string? MendedUrl { get; set; }

    /// <summary>Rules that speak about it, gravest first.</summary>
    public List<string> Rules { get; set; } = [];

    /// <summary>What they say, one sentence each.</summary>
    public List<string> Says { get; set; } = [];
}
