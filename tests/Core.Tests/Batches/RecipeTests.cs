using System.Text.Json;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Links;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.Batches;

public sealed class RecipeTests
{
    private static readonly string[] Placements = [.. SampleFiles.Placements.Keys];
    private static readonly string[] Campaigns = [.. SampleFiles.Campaigns.Keys];

    private static readonly Table Ads = new(
        ["Ad group", "Title", "Text", "Display URL", "Final URL", "Status"],
        [
            ["Ferns", "Fern house", "Now open", "marrowmere.example/ferns", "https://marrowmere.example/ferns?ad=1", "on"],
            ["Moss", "Moss garden", "", "marrowmere.example/moss", "https://marrowmere.example/moss", "on"],
            ["Moss", "", "", "marrowmere.example", ""],
        ]
    );

    private static Recipe Read(string json) => JsonSerializer.Deserialize<Recipe>(json, JsonSerializerOptions.Web)!;

    [Fact]
    public void A_recipe_feeds_fields_from_columns_constants_and_texts()
    {
        var recipe = Read(
            """{"destination":{"column":"final url"},"placement":"Wendfar search ads","fields":{"content":{"text":"@{Title} @{Text}"},"source":{"value":"wendfar"},"term":{"column":"Ad group"}}}"""
        );
        var row = RowRequest.Of(recipe, Ads, Ads.Rows[0]);
        Assert.Equal("https://marrowmere.example/ferns?ad=1", row.Destination);
        Assert.Equal("Wendfar search ads", row.Placement);
        Assert.Equal(
            new Dictionary<string, string>
            {
                ["content"] = "Fern house Now open",
                ["source"] = "wendfar",
                ["term"] = "Ferns",
            },
            row.Fields
        );
        Assert.Empty(row.Unknown);

        // A text whose columns are all empty says nothing, and a row too short has empty cells.
        var bare = RowRequest.Of(recipe, Ads, Ads.Rows[2]);
        Assert.False(bare.Fields.ContainsKey("content"));
        Assert.Equal("", bare.Destination);
    }

    [Fact]
    public void A_value_typed_for_a_row_goes_before_the_recipe()
    {
        var recipe = Read("""{"destination":{"column":"Final URL"},"fields":{"utm_content":{"column":"Title"}}}""");
        var row = RowRequest.Of(
            recipe,
            Ads,
            Ads.Rows[0],
            new Dictionary<string, string>
            {
                ["utm_content"] = "own",
                ["campaign"] = "Lantern Nights",
                ["destination"] = "https://marrowmere.example/",
                ["linkTitle"] = "Mine",
            }
        );
        Assert.Equal("Mine", row.Title);
        Assert.Equal(("https://marrowmere.example/", "Lantern Nights", "own"), (row.Destination, row.Campaign, row.Fields["utm_content"]));
    }

    [Fact]
    public void A_text_beside_the_link_takes_columns_and_the_link_and_leaves_what_it_does_not_know()
    {
        var table = new Table(
            ["Title", "Link"],
            [
                [" Fern house ", "an old one"],
            ]
        );
        Assert.Equal(
            "Fern house – https://mmr.example/x (@{Size})",
            RowRequest.TextOf("@{title} – @{ link } (@{Size})", table, table.Rows[0], "https://mmr.example/x")
        );
        Assert.Equal(" – y", RowRequest.TextOf("@{Title} – @{link}", table, [], "y"));
    }

    [Fact]
    public void A_link_is_called_by_the_rows_own_words()
    {
        var recipe = Read("""{"destination":{"column":"Final URL"},"title":{"text":"@{Ad group}: @{Title}"}}""");
        Assert.Equal("Ferns: Fern house", RowRequest.Of(recipe, Ads, Ads.Rows[0]).Title);
        Assert.Null(RowRequest.Of(Read("""{"title":{"column":"Text"}}"""), Ads, Ads.Rows[1]).Title);
        Assert.Equal(300, RowRequest.Of(recipe, Ads, [new string('a', 400), "b"]).Title!.Length);
    }

    [Fact]
    public void A_column_the_sheet_does_not_have_is_named_once()
    {
        var row = RowRequest.Of(
            Read("""{"destination":{"column":"Page"},"fields":{"content":{"text":"@{Size} @{Size}"}}}"""),
            Ads,
            Ads.Rows[0]
        );
        Assert.Equal(["Size", "Page"], row.Unknown);
    }

    [Theory]
    [InlineData("""{"destination":5}""")]
    [InlineData("""{"destination":{"colum":"Page"}}""")]
    [InlineData("""{"fields":{"content":{"value":7}}}""")]
    public void What_is_no_recipe_is_not_read(string json) => Assert.Throws<JsonException>(() => Read(json));

    [Fact]
    public void A_recipe_survives_being_stored()
    {
        var recipe = Read(
            """{"destination":{"column":"Page"},"placement":"X","fields":{"a":{"text":"@{B}"}},"output":{"column":"Page"},"shorten":true,"results":1}"""
        );
        string stored = JsonSerializer.Serialize(recipe, JsonSerializerOptions.Web);
        Assert.Equal(stored, JsonSerializer.Serialize(Read(stored), JsonSerializerOptions.Web));
    }

    [Fact]
    public void The_page_is_guessed_and_never_the_address_an_ad_merely_shows()
    {
        var guess = RecipeGuess.Of(Ads, SampleFiles.Garden, Placements, Campaigns);
        Assert.Equal("Final URL", guess.Destination!.Column);
        Assert.Equal("Title", guess.Fields["utm_content"].Column);
        Assert.Null(guess.Placement);

        var shownOnly = new Table(
            ["URL", "Shown address"],
            [
                ["", "https://marrowmere.example/a"],
                ["", "https://marrowmere.example/b"],
            ]
        );
        Assert.Null(RecipeGuess.Of(shownOnly, SampleFiles.Garden, Placements, Campaigns).Destination);
    }

    [Fact]
    public void Placement_campaign_and_fields_are_guessed_from_what_the_cells_say()
    {
        var sheet = new Table(
            ["Where", "Goes to", "What for", "Source", "Content", "Kind"],
            [
                ["The Trellis", "marrowmere.example/visit", "Lantern Nights", "", "a", "Email"],
                ["Gate poster", "marrowmere.example/shop", "lantern nights", "x", "b", "e-mail"],
                ["Elsewhere", "marrowmere.example/shop", "Lantern Nights", "", "c", "pigeon"],
            ]
        );
        var guess = RecipeGuess.Of(sheet, SampleFiles.Garden, Placements, Campaigns);
        Assert.Equal(("Where", "Goes to", "What for"), (guess.Placement!.Column, guess.Destination!.Column, guess.Campaign!.Column));
        Assert.Equal("Source", guess.Fields["utm_source"].Column);
        Assert.Equal("Content", guess.Fields["utm_content"].Column);
        Assert.Equal("Kind", guess.Fields["utm_medium"].Column); // known by its cells
        Assert.True(RecipeGuess.Fits(["content", "SOURCE", "Where", "What for", "Goes to", "kind"], sheet));
        Assert.False(RecipeGuess.Fits(["Where"], sheet));
    }
}
