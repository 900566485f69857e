using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.CoreTests.ShortLinks;

/// <summary>Slugs somebody chooses: ideas for them, what they could be confused with, and those of another shortener.</summary>
public sealed class SlugChoiceTests
{
    private static readonly DateOnly Today = new(2026, 11, 25);

    [Theory]
    [InlineData(
        "/whats-on/lantern-nights",
        "Lantern Nights",
        "Station poster",
        "lantern-nights|lantern|lantern-nights-26|lantern-26|lantern-station|lantern-nights-station"
    )]
    [InlineData("/", "Orchid Week", null, "orchid-week|orchid|orchid-week-26|orchid-26")]
    [InlineData("/the/index.html", "", "", "")]
    [InlineData("/caf%C3%A9-menu", null, null, "cafe-menu|cafe|cafe-menu-26|cafe-26")]
    [InlineData("/where", null, null, "where-26")] // reserved as it stands
    public void Ideas_say_where_a_link_leads(string page, string? campaign, string? placement, string first)
    {
        var ideas = SlugIdeas.Of(page, campaign, placement, Today);
        Assert.Equal(first.Split('|', StringSplitOptions.RemoveEmptyEntries), ideas.Take(first.Split('|').Length).Take(6));
    }

    [Fact]
    public void No_idea_is_refused_twice_or_too_long_to_be_typed()
    {
        var random = new Random(7);
        for (int i = 0; i < 500; i++)
        {
            string Text() => string.Concat(Enumerable.Range(0, random.Next(0, 40)).Select(_ => (char)random.Next(32, 600)));
            var ideas = SlugIdeas.Of("/" + Text(), Text(), Text(), Today);
            Assert.Equal(ideas.Distinct(), ideas);
            Assert.All(ideas, idea => Assert.True(SlugMaker.WhyRefused(idea) is null && idea.Length <= 24, idea));
        }
    }

    [Theory]
    [InlineData("fern-01", "FERN-OL", true)]
    [InlineData("corner", "comer", true)]
    [InlineData("savvy", "sawy", true)]
    [InlineData("b852", "88sz", true)]
    [InlineData("fern", "ferns", false)]
    [InlineData("fern", "moss", false)]
    public void Slugs_that_look_alike_are_told(string one, string other, bool alike)
    {
        Assert.Equal(alike, SlugLooks.Of(one) == SlugLooks.Of(other));
        Assert.Equal(alike, SlugLooks.IsAs(one, SlugLooks.Of(other)));
        Assert.Equal(alike, SlugLooks.IsAs(other, SlugLooks.Of(one)));
        Assert.Equal(alike, SlugLooks.Spell(SlugLooks.Of(one)).Contains(other.ToLowerInvariant()));
    }

    /// <summary>Law: of all slugs of letters that can be confused, exactly those that look alike are spelled, each once.</summary>
    [Theory]
    [InlineData("rn")]
    [InlineData("vvv")]
    [InlineData("wv")]
    [InlineData("o1")]
    [InlineData("rnm")]
    [InlineData("il0")]
    [InlineData("r")]
    public void Every_spelling_that_looks_alike_is_found_and_no_other(string slug)
    {
        List<string> slugs = [""];
        for (int length = 1; length <= 4; length++)
        {
            slugs.AddRange([.. slugs.Where(s => s.Length == length - 1).SelectMany(s => "rnmvwo0l1i".Select(c => s + c))]);
        }

        string looks = SlugLooks.Of(slug);
        var alike = slugs.Where(s => SlugLooks.Of(s) == looks).ToList();
        Assert.Equal(alike.Order(StringComparer.Ordinal), SlugLooks.Spell(looks).Order(StringComparer.Ordinal));
        Assert.InRange(alike.Count, 1, SlugLooks.CountSpellings(looks));
    }

    [Fact]
    public void Lines_of_a_list_are_judged_before_anything_is_taken_over()
    {
        var facts = LinkFacts.None(Today) with
        {
            OwnHosts = new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query },
            RefusedHosts = new HashSet<string> { "refused.example" },
            ShortHosts = new HashSet<string> { "mmr.example" },
        };
        var judged = SlugImportCheck.Judge(
            [
                ("https://old.example/Fern", "https://marrowmere.example/a"),
                ("FERN", "https://marrowmere.example/b"),
                ("moss", "https://marrowmere.example/c"),
                ("fem", "https://marrowmere.example/d"),
                ("reed", "https://elsewhere.example/"),
                ("rush", "https://www.refused.example/"),
                ("loop", "https://mmr.example/fern"),
                ("api", "https://marrowmere.example/"),
                ("sedge", "nowhere"),
            ],
            new HashSet<string> { "moss" },
            facts
        );
        Assert.Equal(
            [
                SlugImportOutcome.Ready,
                SlugImportOutcome.Clash,
                SlugImportOutcome.Clash,
                SlugImportOutcome.Ready,
                SlugImportOutcome.Waits,
                SlugImportOutcome.Refused,
                SlugImportOutcome.Refused,
                SlugImportOutcome.Refused,
                SlugImportOutcome.Refused,
            ],
            judged.Select(j => j.Outcome)
        );
        Assert.Contains("Line 1 has the same slug", judged[1].Says, StringComparison.Ordinal);
        Assert.Contains("looks like “fern”", judged[3].Says, StringComparison.Ordinal);
        Assert.Contains("is blocked, as part of refused.example", judged[5].Says, StringComparison.Ordinal);
    }
}
