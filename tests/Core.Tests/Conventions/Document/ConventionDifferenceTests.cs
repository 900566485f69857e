using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.CoreTests.Conventions.Document;

public sealed class ConventionDifferenceTests
{
    private static readonly ConventionDocument Plain = StartingConventions.Plain.Document;

    private static IReadOnlyList<string> Said(ConventionDocument before, ConventionDocument after) =>
        [.. ConventionDifference.Between(before, after).Select(c => $"{c.Kind} {c.What} {c.Property}: {c.Before} → {c.After}")];

    [Fact]
    public void Equal_conventions_do_not_differ()
    {
        foreach (var start in StartingConventions.All)
        {
            Assert.Empty(ConventionDifference.Between(start.Document, ConventionYaml.Read(ConventionYaml.Write(start.Document))));
        }
    }

    [Fact]
    public void Every_difference_is_said_once()
    {
        var source = Plain.Fields[0];
        var after = Plain with
        {
            Fields =
            [
                Plain.Fields[1],
                source with
                {
                    Case = LetterCase.AsTyped,
                    Words = [.. source.Words, new() { Written = "nattervine" }],
                },
                .. Plain.Fields.Skip(2).Where(f => f.Key != StandardKeys.Id),
                new() { Key = "region", Label = "Region" },
            ],
            Channels = [Plain.Channels[1], Plain.Channels[0], .. Plain.Channels.Skip(2)],
            Severities = new Dictionary<string, Severity> { ["word-new"] = Severity.Error },
            SealedKey = "k",
        };
        Assert.Equal(
            [
                "Changed The convention sealed links' parameter:  → k",
                "Removed Field utm_id : Id · free text · offered → ",
                "Changed Field utm_source case: Lower → AsTyped",
                "Added Field region :  → Region · free text · offered",
                "Moved Order of the fields from place 1: utm_source → utm_medium",
                "Added Source: word nattervine :  → ",
                "Moved Order of the channels from place 1: Search ads → Social ads",
                "Added Severity of word-new :  → error",
            ],
            Said(Plain, after)
        );
        Assert.Equal(Said(Plain, after).Count, Said(after, Plain).Count);
    }

    [Fact]
    public void A_pattern_is_said_in_words() =>
        Assert.Contains(
            "Changed Field utm_campaign kind: free text → composed of utm_region (or all) _ channel _ campaign",
            Said(Plain, StartingConventions.ByRegionAndChannel.Document)
        );
}
