namespace PreciseBeacon.Core.Conventions;

/// <summary>The six standard parameters, by their usual keys.</summary>
public static class StandardKeys
{
    public const string Source = "utm_source";
    public const string Medium = "utm_medium";
    public const string Campaign = "utm_campaign";
    public const string Term = "utm_term";
    public const string Content = "utm_content";
    public const string Id = "utm_id";

    /// <summary>In the order a starting convention has them.</summary>
    public static IReadOnlyList<string> All { get; } = [Source, Medium, Campaign, Content, Term, Id];
}
