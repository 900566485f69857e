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

    /// <summary>The standard parameter of a meaning.</summary>
    public static string Of(FieldMeaning meaning) =>
        meaning switch
        {
            FieldMeaning.Source => Source,
            FieldMeaning.Medium => Medium,
            FieldMeaning.Campaign => Campaign,
            FieldMeaning.Content => Content,
            FieldMeaning.Term => Term,
            FieldMeaning.Id => Id,
            _ => throw new ArgumentOutOfRangeException(
                nameof(meaning),
                meaning,
                "A meaning of the workspace's own has no standard parameter."
            ),
        };

    /// <summary>What a parameter means by its key, whatever its case.</summary>
    public static FieldMeaning MeaningOf(string key) =>
        Enum.GetValues<FieldMeaning>()
            .FirstOrDefault(m => m != FieldMeaning.ByKey && Of(m).Equals(key, StringComparison.OrdinalIgnoreCase));
}
