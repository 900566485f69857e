using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Imports;

/// <summary>What a row of a file says it belongs to, as it is written there.</summary>
/// <param name="Link">A link: its id, its short URL, its whole URL, or its title; empty for nothing, as are the next two.</param>
/// <param name="Campaign">A campaign's name or written value.</param>
/// <param name="Placement">A placement's name.</param>
/// <param name="Values">Written values by field key.</param>
public sealed record NamedTarget(string Link, string Campaign, string Placement, IReadOnlyDictionary<string, string> Values)
{
    /// <summary>The same text for the same names, whatever order its values are in.</summary>
    public string Key =>
        string.Join(
            '\u001f',
            [Link, Campaign, Placement, .. Values.OrderBy(v => v.Key, StringComparer.Ordinal).Select(v => $"{v.Key}={v.Value}")]
        );

    /// <summary>It names nothing at all.</summary>
    public bool IsEmpty => this is { Link: "", Campaign: "", Placement: "", Values.Count: 0 };
}

/// <summary>A part of what a row says it belongs to.</summary>
public enum TargetPart
{
    Link,
    Campaign,
    Placement,
}

/// <summary>What somebody said a name in files means.</summary>
/// <param name="Id">The link, campaign or placement; null where rows with it are to be left out.</param>
public sealed record TargetCorrection(Guid? Id);

/// <summary>What names in files may mean.</summary>
/// <param name="Links">By text, the links it may mean.</param>
/// <param name="Campaigns">The campaigns: id, name, written value.</param>
/// <param name="Placements">The placements: id, name.</param>
public sealed record TargetNames(
    IReadOnlyDictionary<string, IReadOnlyList<Guid>> Links,
    IReadOnlyCollection<(Guid Id, string Name, string Value)> Campaigns,
    IReadOnlyCollection<(Guid Id, string Name)> Placements
);

/// <summary>What came of a name.</summary>
/// <param name="Target">What it means; null where it means nothing known, or is to be left out.</param>
/// <param name="Problem">Why it means nothing; null where it does, or where somebody left it out.</param>
/// <param name="Part">The part that is unknown; null for none.</param>
/// <param name="About">What that part says; empty for none.</param>
public sealed record MatchedTarget(ImportTarget? Target, ImportProblem? Problem = null, TargetPart? Part = null, string About = "");

/// <summary>
/// Finds what rows of files belong to: a link says all the rest by itself; else campaign, placement and values narrow it down together.
/// What somebody put right goes before what is found.
/// </summary>
public sealed class TargetMatcher
{
    private static readonly Dictionary<string, string> NoValues = [];

    private readonly IReadOnlyDictionary<string, IReadOnlyList<Guid>> _links;
    private readonly IReadOnlyDictionary<(TargetPart Part, string Text), TargetCorrection> _corrections;
    private readonly Names _campaigns;
    private readonly Names _placements;

    /// <param name="names">What names may mean.</param>
    /// <param name="corrections">What somebody put right; null for nothing.</param>
    public TargetMatcher(TargetNames names, IReadOnlyDictionary<(TargetPart Part, string Text), TargetCorrection>? corrections = null)
    {
        _links = names.Links;
        _corrections = corrections ?? new Dictionary<(TargetPart, string), TargetCorrection>();
        _campaigns = new Names([.. names.Campaigns.Select(c => (c.Id, c.Name)), .. names.Campaigns.Select(c => (c.Id, c.Value))]);
        _placements = new Names([.. names.Placements]);
    }

    /// <summary>Finds what a name means.</summary>
    public MatchedTarget Match(NamedTarget named)
    {
        if (named.Link.Length > 0)
        {
            if (_corrections.TryGetValue((TargetPart.Link, named.Link), out var corrected))
            {
                return new MatchedTarget(corrected.Id is { } id ? OfLink(id) : null);
            }

            return _links.GetValueOrDefault(named.Link) switch
            {
                null => new MatchedTarget(null, ImportProblem.LinkUnknown, TargetPart.Link, named.Link),
                [var only] => new MatchedTarget(OfLink(only)),
                _ => new MatchedTarget(null, ImportProblem.LinkAmbiguous, TargetPart.Link, named.Link),
            };
        }

        var campaign = Find(TargetPart.Campaign, named.Campaign, _campaigns, ImportProblem.CampaignUnknown);
        var placement = Find(TargetPart.Placement, named.Placement, _placements, ImportProblem.PlacementUnknown);
        return campaign.Stop ?? placement.Stop ?? new MatchedTarget(new ImportTarget(null, campaign.Id, placement.Id, named.Values));
    }

    /// <summary>The campaign or placement a name was probably meant to be; null where none is near, and for links.</summary>
    public (Guid Id, string Name)? Likely(TargetPart part, string text) =>
        part switch
        {
            TargetPart.Campaign => _campaigns.Nearest(text),
            TargetPart.Placement => _placements.Nearest(text),
            _ => null,
        };

    private static ImportTarget OfLink(Guid id) => new(id, null, null, NoValues);

    private (Guid? Id, MatchedTarget? Stop) Find(TargetPart part, string text, Names names, ImportProblem unknown) =>
        text.Length == 0 ? (null, null)
        : _corrections.TryGetValue((part, text), out var corrected) && (corrected.Id is not { } chosen || names.Has(chosen))
            ? (corrected.Id, corrected.Id is null ? new MatchedTarget(null) : null)
        : names.Find(text) is { } id ? (id, null)
        : (null, new MatchedTarget(null, unknown, part, text));

    /// <summary>Names whose case does not matter; of several that are alike the first is meant.</summary>
    private sealed class Names(IReadOnlyList<(Guid Id, string Name)> all)
    {
        private readonly Dictionary<string, Guid> _ids = all.GroupBy(n => n.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First().Id, StringComparer.OrdinalIgnoreCase);

        private readonly Lazy<NearestText> _nearest = new(() => new NearestText(all.Select(n => n.Name)));

        private readonly HashSet<Guid> _all = [.. all.Select(n => n.Id)];

        public bool Has(Guid id) => _all.Contains(id);

        public Guid? Find(string text) => _ids.TryGetValue(text, out var id) ? id : null;

        public (Guid Id, string Name)? Nearest(string text) => _nearest.Value.PlaceOf(text) is >= 0 and var place ? all[place] : null;
    }
}
