namespace PreciseBeacon.Core.Notices;

/// <summary>A rule that can speak about a link.</summary>
/// <param name="Name">Machine word in lower case with hyphens; never changes once published.</param>
/// <param name="Severity">The severity it has unless the workspace sets another.</param>
/// <param name="About">One line that says what the rule watches for.</param>
/// <param name="Example">Something that makes it speak, such as a value or a part of a URL.</param>
/// <param name="Protects">True for a rule that keeps the link itself whole; its severity can't be changed.</param>
public sealed record NoticeRule(string Name, Severity Severity, string About, string Example, bool Protects = false);
