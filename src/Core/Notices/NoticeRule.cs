namespace PreciseBeacon.Core.Notices;

/// <summary>A rule that can speak about a link.</summary>
/// <param name="Name">Machine word in lower case with hyphens; never changes once published.</param>
/// <param name="Severity">The severity it has unless the workspace sets another.</param>
/// <param name="About">One line that says what the rule watches for.</param>
public sealed record NoticeRule(string Name, Severity Severity, string About);
