using System.Text.RegularExpressions;
using YamlDotNet.RepresentationModel;

namespace PreciseBeacon.Core.Traffic.UserAgents;

/// <summary>What a user agent says of the device it runs on. Each is empty where it does not tell.</summary>
/// <param name="Kind">One of <see cref="Device"/>'s kinds.</param>
/// <param name="Model">The device's model, as its maker calls it.</param>
/// <param name="System">The operating system, without its version.</param>
/// <param name="Browser">The browser, without its version.</param>
public readonly record struct UserAgentDevice(string Kind, string Model, string System, string Browser);

/// <summary>
/// Tells system, browser and model by the open data set uap-core (Apache-2.0), whose rules are tried in their order (its
/// specification.md). A browser it does not know is told by what it calls itself.
/// </summary>
public static partial class UserAgentReader
{
    /// <summary>Longer names are no names.</summary>
    private const int LongestName = 60;

    /// <summary>What is remembered: 8,192 agents, of which a site sees a few thousand a day (ours).</summary>
    private const int MostRemembered = 8_192;

    /// <summary>What the data set calls what it knows nothing of, or only its kind.</summary>
    private const string Other = "Other";

    private static readonly Rules Known = Load();

    private static readonly RecentAnswers<UserAgentDevice> Remembered = new(MostRemembered, Read);

    /// <summary>What an agent says.</summary>
    public static UserAgentDevice Of(string userAgent) => Remembered.For(Crawlers.Cut(userAgent));

    private static UserAgentDevice Read(string userAgent)
    {
        var trigrams = new Trigrams(userAgent);
        return new(
            Device.Of(userAgent),
            First(Known.Models, userAgent, trigrams),
            First(Known.Systems, userAgent, trigrams) is { Length: > 0 } system ? system : SystemItNames(userAgent),
            First(Known.Browsers, userAgent, trigrams) is { Length: > 0 } browser ? browser : OwnName(userAgent)
        );
    }

    private static string First(IReadOnlyList<UserAgentRule> rules, string userAgent, Trigrams trigrams)
    {
        foreach (var rule in rules)
        {
            if (rule.Of(userAgent, trigrams) is { } said)
            {
                return said == Other || said.Length > LongestName ? "" : said;
            }
        }

        return "";
    }

    /// <summary>
    /// The last of the products an agent names that is no engine or part all of them name: products stand in the order of what matters most
    /// to the sender, and browsers begin with what they are compatible with (RFC 9110 §10.1.5, common practice).
    /// </summary>
    private static string OwnName(string userAgent)
    {
        string last = "";
        foreach (Match product in Products().Matches(Comments().Replace(userAgent, " ")))
        {
            string name = product.Groups[1].Value;
            last = Engines().IsMatch(name) || name.Length > LongestName ? last : name;
        }

        return last;
    }

    /// <summary>The system an unknown agent names first in its comment, where that is a name with a version.</summary>
    private static string SystemItNames(string userAgent) =>
        NamedSystem().Match(userAgent) is { Success: true } named && named.Groups[1].Length <= LongestName ? named.Groups[1].Value : "";

    private static Rules Load()
    {
        using var stream = typeof(UserAgentReader).Assembly.GetManifestResourceStream("user-agents.yaml")
            ?? throw new InvalidOperationException("The data set of user agents is not embedded.");
        using var text = new StreamReader(stream);
        var yaml = new YamlStream();
        yaml.Load(text);
        var root = (YamlMappingNode)yaml.Documents[0].RootNode;
        return new Rules(
            RulesOf(root, "user_agent_parsers", rule => Text(rule, "family_replacement")),
            RulesOf(root, "os_parsers", rule => Text(rule, "os_replacement")),
            RulesOf(root, "device_parsers", ModelOf)
        );
    }

    /// <summary>A brand that is called generic says a kind and no model.</summary>
    private static string? ModelOf(YamlMappingNode rule) =>
        Text(rule, "brand_replacement") is "Generic" or "Spider" ? Other : Text(rule, "device_replacement");

    private static List<UserAgentRule> RulesOf(YamlMappingNode root, string list, Func<YamlMappingNode, string?> says) =>
        [
            .. ((YamlSequenceNode)root.Children[new YamlScalarNode(list)])
                .Cast<YamlMappingNode>()
                .Select(rule => new UserAgentRule(Text(rule, "regex")!, Text(rule, "regex_flag") == "i", says(rule))),
        ];

    private static string? Text(YamlMappingNode rule, string key) =>
        rule.Children.TryGetValue(new YamlScalarNode(key), out var value) ? ((YamlScalarNode)value).Value : null;

    [GeneratedRegex(@"(?<=^|\s)([A-Za-z][\w.-]*)/\d")]
    private static partial Regex Products();

    [GeneratedRegex(@"\([^()]*\)")]
    private static partial Regex Comments();

    [GeneratedRegex("^(Mozilla|AppleWebKit|Gecko|KHTML|Version|Mobile|Safari|Chrome)$")]
    private static partial Regex Engines();

    [GeneratedRegex(@"^[^(]*\(([A-Z][A-Za-z]*(?: [A-Z][A-Za-z]*)*) \d+(?:[._]\d+)*[;)]")]
    private static partial Regex NamedSystem();

    private sealed record Rules(
        IReadOnlyList<UserAgentRule> Browsers,
        IReadOnlyList<UserAgentRule> Systems,
        IReadOnlyList<UserAgentRule> Models
    );
}
