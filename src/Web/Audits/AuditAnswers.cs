using PreciseBeacon.Core.Audits;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Web.Audits;

/// <summary>An audit in the list of audits.</summary>
public sealed record AuditSummary(Guid Id, string Name, int Right, int Mended, int Stuck, int? Pages, string CreatedBy, DateTimeOffset CreatedAt);

/// <summary>An audit with its notices counted.</summary>
/// <param name="Right">Links that are as the convention wants them.</param>
/// <param name="Mended">Links that are faulty and mended.</param>
/// <param name="Stuck">Links that are faulty and somebody has to decide about.</param>
/// <param name="Pages">Pages that were read, when a site was looked through.</param>
/// <param name="Problems">What could not be looked at.</param>
/// <param name="Rules">Links by rule, gravest and most frequent first.</param>
public sealed record AuditAnswer(
    Guid Id, string Name, int Right, int Mended, int Stuck, int? Pages, IReadOnlyList<string> Problems, IReadOnlyList<AuditRule> Rules, int ConventionVersion, string CreatedBy, DateTimeOffset CreatedAt);

/// <summary>A rule of an audit.</summary>
/// <param name="Links">Links it speaks about.</param>
/// <param name="Mended">Links among them that are mended.</param>
/// <param name="Example">What it says about the first of them.</param>
public sealed record AuditRule(string Rule, Severity Severity, string Meaning, int Links, int Mended, string Example);

/// <summary>Some links of an audit.</summary>
public sealed record AuditLinksAnswer(IReadOnlyList<AuditLinkAnswer> Links, int Total);

/// <summary>One link.</summary>
/// <param name="Says">Notices, one sentence each.</param>
public sealed record AuditLinkAnswer(int Number, string Link, string? FoundOn, AuditState State, string? MendedUrl, IReadOnlyList<string> Rules, IReadOnlyList<string> Says);

/// <summary>How far an audit is; the last line has its id, or says why there is none.</summary>
public sealed record AuditProgress(int Done, int Total, Guid? Id = null, string? Refused = null);

/// <summary>A site to be looked through.</summary>
public sealed record AuditSiteRequest(Guid Site);
