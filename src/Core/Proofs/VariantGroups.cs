namespace PreciseBeacon.Core.Proofs;

/// <summary>Finds links that are variants of each other: of one campaign, placement and page, and different in content or term.</summary>
public static class VariantGroups
{
    /// <summary>Groups of at least two variants, those with the most visits first.</summary>
    /// <param name="links">Links that visits came by.</param>
    /// <param name="contentKey">Key of the content field; null where the convention has none.</param>
    /// <param name="termKey">Key of the term field.</param>
    /// <param name="mostGroups">At most so many groups.</param>
    /// <param name="mostVariants">At most so many variants in each, those with the most visits.</param>
    public static IReadOnlyList<VariantGroup> Of(
        IEnumerable<VariantLink> links,
        string? contentKey,
        string? termKey,
        int mostGroups,
        int mostVariants
    ) =>
        [
            .. links
                .Where(l => l.CampaignId is not null)
                .GroupBy(l => (l.CampaignId, l.PlacementId, l.Page))
                .Select(group => GroupOf([.. group], contentKey, termKey, mostVariants))
                .Where(group => group.Variants.Count > 1)
                .OrderByDescending(group => group.Visits)
                .ThenBy(group => group.Page, StringComparer.Ordinal)
                .Take(mostGroups),
        ];

    private static VariantGroup GroupOf(List<VariantLink> links, string? contentKey, string? termKey, int most)
    {
        string? ValueOf(VariantLink link, string? key) => key is null ? null : link.Values.GetValueOrDefault(key);

        // What most visits came with is what a variant should share with the others.
        var usual = links
            .SelectMany(l => l.Values.Keys)
            .Distinct(StringComparer.Ordinal)
            .Where(key => key != contentKey && key != termKey)
            .ToDictionary(
                key => key,
                key =>
                    links
                        .GroupBy(l => l.Values.GetValueOrDefault(key) ?? "", StringComparer.Ordinal)
                        .OrderByDescending(g => g.Sum(l => l.Visits))
                        .ThenBy(g => g.Key, StringComparer.Ordinal)
                        .First()
                        .Key,
                StringComparer.Ordinal
            );
        var variants = links
            .GroupBy(l => (Content: ValueOf(l, contentKey), Term: ValueOf(l, termKey)))
            .OrderByDescending(g => g.Sum(l => l.Visits))
            .ThenBy(g => g.Key.Content, StringComparer.Ordinal)
            .ThenBy(g => g.Key.Term, StringComparer.Ordinal)
            .Take(most)
            .Select(g => new LinkVariant(
                g.Key.Content,
                g.Key.Term,
                [.. g.Select(l => l.Id)],
                [
                    .. usual
                        .Where(u => g.Any(l => (l.Values.GetValueOrDefault(u.Key) ?? "") != u.Value))
                        .Select(u => u.Key)
                        .Order(StringComparer.Ordinal),
                ]
            ))
            .ToList();
        return new VariantGroup(links[0].CampaignId!.Value, links[0].PlacementId, links[0].Page, variants, links.Sum(l => l.Visits));
    }
}

/// <summary>A link that may be a variant.</summary>
/// <param name="Id">Its id.</param>
/// <param name="CampaignId">Its campaign; null for none.</param>
/// <param name="PlacementId">Its placement; null for none.</param>
/// <param name="Page">Host and path of its page.</param>
/// <param name="Values">Its written values by field key.</param>
/// <param name="Visits">Visits that came by it.</param>
public sealed record VariantLink(
    Guid Id,
    Guid? CampaignId,
    Guid? PlacementId,
    string Page,
    IReadOnlyDictionary<string, string> Values,
    long Visits
);

/// <summary>Links that are variants of each other.</summary>
/// <param name="CampaignId">Their campaign.</param>
/// <param name="PlacementId">Their placement; null for none.</param>
/// <param name="Page">Host and path of their page.</param>
/// <param name="Variants">The variants, those with the most visits first; at least two.</param>
/// <param name="Visits">Visits that came by all of them.</param>
public sealed record VariantGroup(Guid CampaignId, Guid? PlacementId, string Page, IReadOnlyList<LinkVariant> Variants, long Visits);

/// <summary>One variant: links with the same content and term.</summary>
/// <param name="Content">Its content; null for none.</param>
/// <param name="Term">Its term; null for none.</param>
/// <param name="Links">The links.</param>
/// <param name="AlsoDiffersIn">Keys of other fields in which it is not as most of the test, so that it tests more than the variant; in the order of the alphabet.</param>
public sealed record LinkVariant(string? Content, string? Term, IReadOnlyList<Guid> Links, IReadOnlyList<string> AlsoDiffersIn)
{
    /// <summary>What people call it.</summary>
    public string Name => string.Join(" · ", new[] { Content, Term }.OfType<string>()) is { Length: > 0 } name ? name : "without content";
}
