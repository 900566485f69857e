using System.Net;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.ShortLinks;

/// <summary>What a short link's address becomes at the click.</summary>
public sealed class ClickAddressTests
{
    private static readonly ClickFacts Click = new("gate7", new DateOnly(2026, 12, 24), Device.Phone, "IE", "herald.example & more");
    private static readonly DateTimeOffset Noon = new(2026, 12, 24, 12, 0, 0, TimeSpan.Zero);

    [Theory]
    [InlineData("https://a.example/p?c=@{click.country}&d=%40%7Bclick.device%7D#x", "https://a.example/p?c=IE&d=phone#x")]
    [InlineData("https://a.example/p?on=@{Click.Date}&s=x-@%7Bclick.slug%7D-y", "https://a.example/p?on=2026-12-24&s=x-gate7-y")]
    [InlineData("https://a.example/p?r=@{click.referrer}", "https://a.example/p?r=herald.example%20%26%20more")]
    [InlineData("https://a.example/@{click.country}?a=1", "https://a.example/@{click.country}?a=1")] // never in the path
    [InlineData("https://a.example/?@{click.country}=1", "https://a.example/?@{click.country}=1")] // nor in a key
    [InlineData("https://a.example/?a=@{click.weather}", "https://a.example/?a=@{click.weather}")]
    [InlineData("https://a.example/?a={click.country}", "https://a.example/?a={click.country}")] // without its @ it is an ad platform's
    public void Values_known_at_the_click_are_filled_into_parameters_alone(string address, string filled)
    {
        Assert.Equal(filled, ClickFillIns.Fill(address, Click));
        Assert.True(address == filled || ClickFillIns.In(address));
    }

    [Theory]
    [InlineData(CarriedParameters.Nothing, "https://a.example/p?utm_source=s&id=1#f")]
    [InlineData(CarriedParameters.KeepTags, "https://a.example/p?utm_source=s&id=1&ref=x&ref=y#f")]
    [InlineData(CarriedParameters.Overwrite, "https://a.example/p?id=1&UTM_source=forged&ref=x&ref=y#f")]
    public void Carried_parameters_never_overwrite_tags_unless_asked(CarriedParameters how, string address) =>
        Assert.Equal(address, CarriedQuery.Onto("https://a.example/p?utm_source=s&id=1#f", "?UTM_source=forged&ref=x&ref=y&=lost", how));

    [Theory]
    [InlineData("", "https://a.example/p")]
    [InlineData("?", "https://a.example/p")]
    [InlineData("?a=1", "https://a.example/p?a=1")]
    [InlineData("?utm%5Fsource=x", "https://a.example/p?utm%5Fsource=x")]
    public void A_page_without_parameters_gets_what_is_carried(string query, string address) =>
        Assert.Equal(address, CarriedQuery.Onto("https://a.example/p", query, CarriedParameters.KeepTags));

    /// <summary>A key is the same however it is encoded, so that no tag is slipped past.</summary>
    [Fact]
    public void An_encoded_key_is_still_that_key() =>
        Assert.Equal(
            "https://a.example/?utm_source=s",
            CarriedQuery.Onto("https://a.example/?utm_source=s", "utm%5Fsource=forged", CarriedParameters.KeepTags)
        );

    [Theory]
    [InlineData(-1, Device.Computer, "target")]
    [InlineData(0, Device.Computer, "sale")]
    [InlineData(59, Device.Phone, "sale")]
    [InlineData(60, Device.Computer, "target")]
    [InlineData(60, Device.Phone, "app")]
    [InlineData(-60, Device.Tablet, "target")]
    public void The_first_page_that_holds_wins(int minutes, string device, string address)
    {
        var turns = new[]
        {
            new RedirectRule("s", Noon, Noon.AddMinutes(60), null, "sale"),
            new RedirectRule("a", null, null, Device.Phone, "app"),
        };
        Assert.Equal(
            (RouteOutcome.Redirects, address),
            new RouteConditions(false, null, null, Turns: turns).At("target", Noon.AddMinutes(minutes), device)
        );
    }

    [Fact]
    public void A_link_without_uses_left_has_ended_and_a_pause_does_not_hide_it()
    {
        Assert.Equal((RouteOutcome.Ended, null), new RouteConditions(true, null, null, UsesLeft: 0).At("target", Noon));
        Assert.Equal((RouteOutcome.Redirects, "after"), new RouteConditions(true, null, "after", UsesLeft: 0).At("target", Noon));
        Assert.Equal((RouteOutcome.Redirects, "target"), new RouteConditions(false, null, "after", UsesLeft: 1).At("target", Noon));
    }

    [Fact]
    public void What_is_known_at_the_click_is_left_for_it()
    {
        Assert.Equal("@{click.country}", Assert.Single(Placeholders.Split("@{click.country}", PlaceholderShapes.None)).Text);
        var (text, missing) = FillIns.Fill("@{region}-@{click.slug}", n => n == "region" ? "north" : null);
        Assert.Equal("north-@{click.slug}", text);
        Assert.Empty(missing);
    }

    /// <summary>Blocks that the data set's own registries have given out for long (RIPE NCC's and APNIC's own networks, from memory), and those nobody has (RFC 5737, RFC 1918, RFC 4291).</summary>
    [Theory]
    [InlineData("193.0.6.139", "NL")]
    [InlineData("::ffff:193.0.6.139", "NL")]
    [InlineData("2001:67c:2e8:22::c100:68b", "NL")]
    [InlineData("203.119.102.244", "AU")]
    [InlineData("192.0.2.1", "")]
    [InlineData("10.1.2.3", "")]
    [InlineData("127.0.0.1", "")]
    [InlineData("::1", "")]
    public void A_country_is_known_by_the_address_or_not_at_all(string address, string country)
    {
        using var countries = new Countries(CountryFile());
        Assert.Equal(country, countries.Of(IPAddress.Parse(address)));
    }

    private static string CountryFile()
    {
        string? folder = AppContext.BaseDirectory;
        while (folder is not null && !File.Exists(Path.Combine(folder, "PreciseBeacon.slnx")))
        {
            folder = Path.GetDirectoryName(folder);
        }

        return Path.Combine(folder!, "src/client/node_modules/@ip-location-db/geo-whois-asn-country-mmdb/geo-whois-asn-country.mmdb");
    }
}
