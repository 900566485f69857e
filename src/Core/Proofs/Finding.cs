using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Proofs;

/// <summary>Something that a trial or a check found.</summary>
/// <param name="Rule">Machine word in lower case with hyphens, one of <see cref="FindingRules"/>.</param>
/// <param name="Severity">How grave it is.</param>
/// <param name="Message">One or two sentences: what happened, its likely cause, what to do.</param>
/// <param name="Hop">Number of the request it happened at, from 1; null where it has none.</param>
public sealed record Finding(string Rule, Severity Severity, string Message, int? Hop = null);

/// <summary>Names of the rules that findings come from.</summary>
public static class FindingRules
{
    public const string PageUnreachable = "page-unreachable";
    public const string PageTooSlow = "page-too-slow";
    public const string TooManyRedirects = "too-many-redirects";
    public const string LeadsToShortLink = "leads-to-short-link";
    public const string NotFetched = "not-fetched";
    public const string ErrorStatus = "error-status";
    public const string TagsDropped = "tags-dropped";
    public const string TagsChanged = "tags-changed";
    public const string SecureToPlain = "https-to-http";
    public const string OtherHost = "other-host";
    public const string AnswersDifferently = "answers-differently";
    public const string ScriptMissing = "script-missing";
    public const string ScriptOfAnotherSite = "script-of-another-site";
    public const string SlowPage = "slow-page";
    public const string SoftError = "soft-error";
    public const string RobotsRefuse = "robots-refuse";
    public const string LinkEnded = "link-ended";
    public const string LinkPaused = "link-paused";
    public const string ArrivedWithoutTags = "arrived-without-tags";
    public const string MeasuredNoLonger = "measured-no-longer";
    public const string NotMeasured = "not-measured";
    public const string SortedElsewhere = "sorted-elsewhere";
}
