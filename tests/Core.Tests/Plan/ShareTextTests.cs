using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.CoreTests.Plan;

public sealed class ShareTextTests
{
    private const string Link = "https://mmr.example/ln7";

    private static string? Known(string name) =>
        name.ToLowerInvariant() switch
        {
            "placement" => "Growers’ group",
            "campaign" => "Lantern Nights @{link}",
            _ => null,
        };

    [Theory]
    [InlineData("Come along: @{link}", null, "Come along: https://mmr.example/ln7")]
    [InlineData("Come along!", null, "Come along!\nhttps://mmr.example/ln7")]
    [InlineData("", null, "https://mmr.example/ln7")]
    [InlineData("Hello @{ Placement }: @{LINK}", null, "Hello Growers’ group: https://mmr.example/ln7")]
    [InlineData(
        "Come along!",
        "Dear group,\n@{text}\n@{link} (from the garden)",
        "Dear group,\nCome along!\nhttps://mmr.example/ln7 (from the garden)"
    )]
    [InlineData("Come: @{link}", "Posted with leave of the admins.", "Come: https://mmr.example/ln7\nPosted with leave of the admins.")]
    [InlineData("@{campaign}", null, "Lantern Nights @{link}\nhttps://mmr.example/ln7")] // what is filled in is not looked into again
    public void A_text_is_filled_for_a_placement(string text, string? form, string filled)
    {
        var (ready, missing) = ShareText.Fill(text, form, Link, Known);
        Assert.Equal(filled, ready);
        Assert.Empty(missing);
    }

    [Fact]
    public void What_nothing_gives_is_named_once_and_left_standing()
    {
        var (text, missing) = ShareText.Fill("@{price} or @{Price}: @{link", null, Link, Known);
        Assert.Equal($"@{{price}} or @{{Price}}: @{{link\n{Link}", text);
        Assert.Equal(["price"], missing);
    }

    /// <summary>Counted as extended grapheme clusters of UAX #29; the examples are from its table 1a and emoji sequences.</summary>
    [Theory]
    [InlineData("", 0)]
    [InlineData("abc", 3)]
    [InlineData("g\u0308", 1)]
    [InlineData("\uAC01", 1)]
    [InlineData("👩‍🌾🌱", 2)]
    [InlineData("a\r\nb", 3)]
    public void Characters_are_counted_as_people_count_them(string text, int count) => Assert.Equal(count, ShareText.CharactersOf(text));
}
