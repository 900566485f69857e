using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>The past is read through the convention that holds: channels, groups, aliases and renamed keys.</summary>
public sealed class TrafficSourceTests
{
    private static readonly Convention Plain = StartingConventions.Plain.Document.ToConvention(1, new LinkSettings());

    private static TrafficSource Way(string? source, string? medium, string referrer = "", bool printed = false) =>
        new(
            1,
            RawTags.Of([KeyValuePair.Create("utm_source", source ?? ""), KeyValuePair.Create("utm_medium", medium ?? "")]),
            referrer,
            printed
        );

    [Theory]
    [InlineData("a", "email", "", "Newsletter and mail", "own")]
    [InlineData("a", "E-Mail", "", "Newsletter and mail", "own")]
    [InlineData("a", "ppc", "", "Search ads", "paid")]
    [InlineData("a", "qr", "", "Print and codes", "printed")]
    [InlineData("a", "pigeon", "", ChannelTable.Unsorted, ChannelTable.Unsorted)]
    [InlineData("a", null, "", ChannelTable.Unsorted, ChannelTable.Unsorted)]
    [InlineData(null, null, "vale.example", "Other sites", "found")]
    [InlineData(null, null, "", "Direct", "found")]
    public void Each_way_of_arriving_has_its_channel_and_group(
        string? source,
        string? medium,
        string referrer,
        string channel,
        string group
    )
    {
        Assert.Equal(channel, Way(source, medium, referrer).KeyOf(RowKind.Channel, Plain));
        Assert.Equal(group, Way(source, medium, referrer).KeyOf(RowKind.Group, Plain));
    }

    [Fact]
    public void A_channel_may_go_by_the_printed_code()
    {
        var document = StartingConventions.Plain.Document;
        var scanned = new ChannelDocument
        {
            Name = "Scanned",
            Group = "printed",
            Conditions =
            [
                new()
                {
                    Subject = ChannelSubject.Printed,
                    Test = ChannelTest.Is,
                    Values = ["yes"],
                },
            ],
        };
        var convention = (document with { Channels = [scanned, .. document.Channels] }).ToConvention(2, new LinkSettings());
        Assert.Equal("Scanned", Way("a", "email", printed: true).KeyOf(RowKind.Channel, convention));
        Assert.Equal("Newsletter and mail", Way("a", "email").KeyOf(RowKind.Channel, convention));
        Assert.Equal("printed is yes", scanned.ToChannel().InWords());
    }

    [Fact]
    public void A_field_marked_as_the_medium_is_read_as_one()
    {
        var document = StartingConventions.Plain.Document;
        var convention = (
            document with
            {
                Fields =
                [
                    .. document.Fields.Select(f => f.Key == StandardKeys.Medium ? f with { Key = "way", Means = FieldMeaning.Medium } : f),
                ],
            }
        ).ToConvention(2, new LinkSettings());
        Assert.Equal("email", Way("a", "e-mail").KeyOf(RowKind.Medium, convention));
        Assert.Equal("Newsletter and mail", Way("a", "e-mail").KeyOf(RowKind.Channel, convention));
    }

    [Fact]
    public void A_page_view_is_read_by_the_workspaces_own_keys()
    {
        var rules = new VisitRules(
            new HashSet<string> { "marrowmere.example" },
            [new Tag("src", "", ["utm_source"]), new Tag("utm_medium", ""), new Tag("region", "")],
            TimeZoneInfo.Utc
        );
        var view = new RawPageEvent
        {
            Id = Guid.NewGuid(),
            WorkspaceId = Guid.Empty,
            SiteId = Guid.Empty,
            At = DateTimeOffset.UnixEpoch,
            Visitor = Guid.Empty,
            Kind = PageEventKind.View,
            Url = "https://marrowmere.example/visit?utm_source=nattervine&utm_medium=social&region=north&x=1",
        };
        var tags = Arrival.Read(view, rules).Tags;
        Assert.Equal("""{"region":"north","utm_medium":"social","utm_source":"nattervine"}""", tags.Json);
        Assert.Equal(
            LinkKey.Of(
                new Dictionary<string, string>
                {
                    ["src"] = "nattervine",
                    ["utm_medium"] = "social",
                    ["region"] = "north",
                },
                PlaceholderShapes.None
            ),
            LinkKey.Candidates(tags.Read(rules.Tags))[0]
        );
        Assert.Equal("marrowmere.example/visit", Arrival.Read(view, rules).Page);
    }
}
