using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

public sealed class VariantGroupsTests
{
    private static readonly Guid Campaign = Guid.NewGuid();

    private static VariantLink Link(string content, long visits, string page = "a/x", string? term = null, string medium = "email") =>
        new(
            Guid.NewGuid(),
            Campaign,
            null,
            page,
            new Dictionary<string, string>
            {
                ["utm_content"] = content,
                ["utm_medium"] = medium,
                ["utm_term"] = term ?? "",
            }
                .Where(v => v.Value.Length > 0)
                .ToDictionary(),
            visits
        );

    private static string[] Names(params VariantLink[] links) =>
        [
            .. VariantGroups
                .Of(links, "utm_content", "utm_term", 50, 3)
                .Select(g =>
                    $"{g.Page}: {string.Join(", ", g.Variants.Select(v => $"{v.Name}{string.Concat(v.AlsoDiffersIn.Select(k => $" !{k}"))}"))}"
                ),
        ];

    [Fact]
    public void Links_of_one_page_that_differ_in_content_or_term_are_a_test()
    {
        Assert.Equal(["a/x: lamps, lake"], Names(Link("lake", 3), Link("lamps", 9)));
        Assert.Equal(["a/x: lake · dusk, lake · dawn"], Names(Link("lake", 3, term: "dawn"), Link("lake", 9, term: "dusk")));
        Assert.Empty(Names(Link("lake", 3), Link("lamps", 9, "a/y")));
        Assert.Empty(Names(Link("lake", 3), Link("lake", 9)));
        Assert.Empty(Names(Link("lake", 3), Link("lamps", 9) with { PlacementId = Guid.NewGuid() }));
        Assert.Empty(Names(Link("lake", 3) with { CampaignId = null }, Link("lamps", 9) with { CampaignId = null }));
    }

    /// <summary>The same content saved twice is one variant; groups and variants with the most visits come first, and the rest is left out.</summary>
    [Fact]
    public void What_is_alike_is_one_and_the_most_visited_come_first()
    {
        Assert.Equal(
            ["a/y: five, four", "a/x: lake, lamps, third"],
            Names(
                Link("lake", 3),
                Link("lamps", 4),
                Link("lake", 2),
                Link("third", 1),
                Link("fourth", 0),
                Link("four", 40, "a/y"),
                Link("five", 50, "a/y")
            )
        );
    }

    [Fact]
    public void What_differs_in_another_field_than_most_visits_is_named() =>
        Assert.Equal(
            ["a/x: lake, lamps, third !utm_medium"],
            Names(Link("lake", 30), Link("lamps", 20), Link("third", 10, medium: "banner"))
        );
}
