using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.LinkReviews;

/// <summary>A link review in the list of link reviews.</summary>
public sealed record LinkReviewSummary(
    Guid Id,
    string Name,
    int Right,
    int Mended,
    int Stuck,
    int? Pages,
    string CreatedBy,
    DateTimeOffset CreatedAt
);

/// <summary>A link review with its notices counted.</summary>
/// <param name="Right">Links that are as the convention wants them.</param>
/// <param name="Mended">Links that are faulty and mended.</param>
/// <param name="Stuck">Links that are faulty and somebody has to decide about.</param>
/// <param name="Pages">Pages that were read, when a site was looked through.</param>
/// <param name="Problems">What could not be looked at.</param>
/// <param name="Rules">Links by rule, gravest and most frequent first.</param>
public sealed record LinkReviewAnswer(
    Guid Id,
    string Name,
    int Right,
    int Mended,
    int Stuck,
    int? Pages,
    IReadOnlyList<string> Problems,
    IReadOnlyList<LinkReviewRule> Rules,
    int ConventionVersion,
    string CreatedBy,
    DateTimeOffset CreatedAt
);

/// <summary>A rule of a link review.</summary>
/// <param name="Links">Links it speaks about.</param>
/// <param name="Mended">Links among them that are mended.</param>
/// <param name="Example">What it says about the first of them.</param>
public sealed record LinkReviewRule(string Rule, Severity Severity, string Meaning, int Links, int Mended, string Example);

/// <summary>Some links of a link review.</summary>
public sealed record LinkReviewLinksAnswer(IReadOnlyList<LinkReviewLinkAnswer> Links, int Total);

/// <summary>One link.</summary>
/// <param name="Says">Notices, one sentence each.</param>
public sealed record LinkReviewLinkAnswer(
    int Number,
    string Link,
    string? FoundOn,
    LinkReviewState State,
    string? MendedUrl,
    IReadOnlyList<string> Rules,
    IReadOnlyList<string> Says
);

/// <summary>How far a link review is; the last line has its id, or says why there is none.</summary>
public sealed record LinkReviewProgress(int Done, int Total, Guid? Id = null, string? Refused = null);

/// <summary>A site to be looked through.</summary>
public sealed record LinkReviewSiteRequest(Guid Site);
