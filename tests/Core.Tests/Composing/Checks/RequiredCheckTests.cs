using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Notices;
using static PreciseBeacon.CoreTests.Conventions.GardenConvention;

namespace PreciseBeacon.CoreTests.Composing.Checks;

/// <summary>A row or request lacking a required field yields no link.</summary>
public sealed class RequiredCheckTests
{
    [Theory]
    [InlineData(StandardKeys.Source, "Source")]
    [InlineData(StandardKeys.Medium, "Medium")]
    [InlineData(StandardKeys.Campaign, "Campaign")]
    public void Without_a_required_field_there_is_no_link(string key, string label)
    {
        var all = new Dictionary<string, string>
        {
            [StandardKeys.Source] = "the_trellis",
            [StandardKeys.Medium] = "email",
            [StandardKeys.Campaign] = "lantern_nights",
        };
        Assert.True(Run(all).Ready);
        all.Remove(key);
        var link = Run(all);
        Assert.False(link.Ready);
        var missing = Assert.Single(link.Notices, n => n.Rule == NoticeRules.MissingRequired.Name);
        Assert.Equal((key, Severity.Error), (missing.Field, missing.Severity));
        Assert.StartsWith($"{label} is missing", missing.Message, StringComparison.Ordinal);
    }

    private static ComposedLink Run(Dictionary<string, string> fields) =>
        LinkPipeline.Run(Garden, new LinkRequest("https://marrowmere.example/plots", fields), Facts);
}
