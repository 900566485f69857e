using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Core.Traffic.UserAgents;
using PreciseBeacon.CoreTests.Outside;
using PreciseBeacon.CoreTests.Speed;
using Xunit.Abstractions;

namespace PreciseBeacon.CoreTests.Traffic.UserAgents;

/// <summary>Against the open data sets uap-core 0.18 (Apache-2.0) and user-agents 2.1 (BSD), both npm.</summary>
public sealed class UserAgentReaderTests(ITestOutputHelper output)
{
    /// <summary>A browser the data set does not know is told by what it calls itself.</summary>
    [Theory]
    [InlineData("Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1", Device.Phone, "", "", "Fernleaf")]
    [InlineData("Mozilla/5.0 (Bramble 11; x64) Fernleaf/12.1 Version/600.1", Device.Computer, "", "Bramble", "Fernleaf")]
    [InlineData("Mozilla/5.0 (Bramble Rose 10_2) Thistle-Down/9.2 Moss/1", Device.Computer, "", "Bramble Rose", "Moss")]
    [InlineData("Mozilla/5.0 (Tablet) Gecko/20 Version/3.1", Device.Tablet, "", "", "")]
    [InlineData("", Device.Computer, "", "", "")]
    [InlineData("((((", Device.Computer, "", "", "")]
    public void What_nobody_has_listed_tells_itself(string userAgent, string kind, string model, string system, string browser) =>
        Assert.Equal(new UserAgentDevice(kind, model, system, browser), UserAgentReader.Of(userAgent));

    /// <summary>Of browsers as they are met nearly all tell system and browser.</summary>
    [Fact]
    public void Browsers_as_they_are_met_are_told()
    {
        var met = NpmPackage.UserAgents();
        double all = met.Sum(a => a.Share);
        double browsers = met.Where(a => UserAgentReader.Of(a.UserAgent).Browser.Length > 0).Sum(a => a.Share) / all;
        double systems = met.Where(a => UserAgentReader.Of(a.UserAgent).System.Length > 0).Sum(a => a.Share) / all;
        output.WriteLine($"browser told for {browsers:P2}, system for {systems:P2} of {met.Count:N0} agents by share of traffic");
        Assert.True(browsers > 0.999, $"{browsers:P2}");
        Assert.True(systems > 0.999, $"{systems:P2}");
    }

    /// <summary>However long and odd an agent is. Beside hashing the same texts in the same run, since the machine is shared: some 400 times as long.</summary>
    [Fact]
    public void Unseen_agents_are_read_in_moments()
    {
        string[] fillings =
        [
            new('a', 380),
            string.Concat(Enumerable.Repeat("Mobile Safari/", 28)),
            string.Concat(Enumerable.Repeat("Android; ", 42)),
            string.Concat(Enumerable.Repeat("(((;)", 76)),
            string.Concat(Enumerable.Repeat("1.", 190)),
            "Fernleaf/12.1",
        ];
        UserAgentReader.Of("Mozilla/5.0 warm");
        double ratio = TimeRatio.Median(
            90,
            round => [.. Enumerable.Range(0, 60).Select(i => $"Mozilla/5.0 ({round}.{i}) {fillings[i % fillings.Length]}")],
            a => UserAgentReader.Of(a),
            a => VisitorHash.OfAddress(new byte[VisitorHash.SaltLength], Guid.Empty, [], a)
        );
        output.WriteLine($"{ratio:0} times hashing");
        Assert.True(ratio < 5_000, $"{ratio:0} times");
    }
}
