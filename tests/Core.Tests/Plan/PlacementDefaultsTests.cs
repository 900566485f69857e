using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.CoreTests.Plan;

public class PlacementDefaultsTests
{
    private static readonly Convention Plain = StartingConventions.Plain.Document.ToConvention(1, new LinkSettings());

    [Theory]
    [InlineData("Communities", "community")]
    [InlineData("newsletter and mail", "email")]
    [InlineData("Search ads", "cpc")]
    [InlineData("Print and codes", "qr")]
    [InlineData("Direct", null)]
    [InlineData("Found by search", null)]
    [InlineData("No such channel", null)]
    public void A_channel_proposes_the_medium_it_is_told_by(string channel, string? medium) =>
        Assert.Equal(medium, PlacementDefaults.MediumOf(Plain, channel));

    [Fact]
    public void What_is_not_said_follows_from_name_channel_and_publisher()
    {
        Assert.Equal(
            new Dictionary<string, string>
            {
                ["utm_source"] = "nattervine",
                ["utm_medium"] = "community",
                ["utm_content"] = "families_up_north",
            },
            PlacementDefaults.Complete(Plain, "Families up North", "Communities", "Nattervine", new Dictionary<string, string>())
        );
        Assert.Equal(
            new Dictionary<string, string> { ["utm_source"] = "gate_poster", ["utm_medium"] = "qr" },
            PlacementDefaults.Complete(Plain, "Gate poster", "Print and codes", null, new Dictionary<string, string>())
        );
        Assert.Equal(
            new Dictionary<string, string>
            {
                ["Source"] = "own",
                ["utm_medium"] = "email",
                ["utm_content"] = "header",
            },
            PlacementDefaults.Complete(
                Plain,
                "Header",
                "Newsletter and mail",
                "The Trellis",
                new Dictionary<string, string> { ["Source"] = "own" }
            )
        );
    }

    [Theory]
    [InlineData("", new int[0])]
    [InlineData("Mon, Thu", new[] { 1, 4 })]
    [InlineData("thursdays and fri.", new[] { 4, 5 })]
    [InlineData("7 1", new[] { 1, 7 })]
    [InlineData("Weekends", new[] { 6, 7 })]
    [InlineData("weekdays", new[] { 1, 2, 3, 4, 5 })]
    public void Days_are_read_as_people_write_them(string text, int[] days) => Assert.Equal(days, UseDays.Read(text));

    [Theory]
    [InlineData("soon")]
    [InlineData("8")]
    [InlineData("Mon-Fri")]
    public void What_is_no_day_is_not_guessed(string text) => Assert.Null(UseDays.Read(text));
}
