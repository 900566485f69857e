using System.Globalization;
using System.Text.RegularExpressions;
using CsvHelper;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Conventions;

/// <summary>The samples that ship with the product, and the scenario they belong to.</summary>
public static partial class SampleFiles
{
    public static readonly Convention Garden = ConventionYaml
        .Read(File.ReadAllText(PathOf("garden-convention.yaml")))
        .ToConvention(
            1,
            new LinkSettings(
                Live: PlaceholderShapes.Braces | PlaceholderShapes.Percents,
                SealingSecret: Convert.ToBase64String(new byte[32])
            )
        );

    public static readonly IReadOnlyDictionary<string, CampaignChoice> Campaigns = new[]
    {
        new CampaignChoice("Lantern Nights", "2026-10_lantern_nights", new DateOnly(2026, 10, 1), new DateOnly(2026, 12, 20)),
        new CampaignChoice("Night Moths Walk", "2026-06_night_moths", new DateOnly(2026, 6, 1), new DateOnly(2026, 7, 20)),
    }.ToDictionary(c => c.Name);

    public static readonly IReadOnlyDictionary<string, PlacementChoice> Placements = new[]
    {
        Placement("The Trellis", "Newsletter and mail", "the_trellis", "email"),
        Placement("Members’ mail", "Newsletter and mail", "the_trellis", "email") with
        {
            ToolWrites = new Dictionary<string, string> { ["utm_source"] = "", ["utm_medium"] = "" },
        },
        Placement("Nattervine page", "Own social posts", "nattervine", "social"),
        Placement("Wendfar search ads", "Search ads", "wendfar", "cpc"),
        Placement("Gate poster", "Print and codes", "gate_poster", "qr"),
        new PlacementChoice(
            "Nattervine groups",
            new Dictionary<string, string>
            {
                ["utm_source"] = "nattervine",
                ["utm_medium"] = "social",
                ["utm_content"] = "@{region}",
            },
            Channel: "Own social posts"
        ),
    }.ToDictionary(p => p.Name);

    /// <summary>One row of <c>samples/old-links.csv</c>.</summary>
    public sealed record OldLink(
        int Row,
        string How,
        string Link,
        string Campaign,
        string Placement,
        string Fields,
        string StandsOn,
        string Already,
        string Rule
    );

    /// <summary>The old links, in the file's order.</summary>
    public static IReadOnlyList<OldLink> OldLinks()
    {
        using var csv = CsvReader.FromText(File.ReadAllText(PathOf("old-links.csv")));
        var links = new List<OldLink>();
        while (csv.Read())
        {
            string[] cells = [.. Enumerable.Range(0, 8).Select(csv.GetString)];
            links.Add(new OldLink(links.Count + 2, cells[0], cells[1], cells[2], cells[3], cells[4], cells[5], cells[6], cells[7]));
        }

        return links;
    }

    /// <summary>What a link of the file is built from; <c>\uXXXX</c> in a value stands for that UTF-16 unit.</summary>
    public static LinkRequest RequestOf(OldLink link) =>
        new(
            link.Link,
            link.Fields.Split(';', StringSplitOptions.RemoveEmptyEntries)
                .Select(f => f.Split('=', 2))
                .ToDictionary(
                    f => f[0],
                    f =>
                        Unit()
                            .Replace(f[1], m =>
                                ((char)int.Parse(m.Groups[1].Value, NumberStyles.HexNumber, CultureInfo.InvariantCulture)).ToString()
                            )
                ),
            Campaigns.GetValueOrDefault(link.Campaign),
            Placements.GetValueOrDefault(link.Placement),
            Existing: Enum.TryParse<ExistingTags>(link.Already, ignoreCase: true, out var already) ? already : null,
            BehindShortLink: true
        );

    public static string PathOf(string name)
    {
        for (var at = new DirectoryInfo(AppContext.BaseDirectory); at is not null; at = at.Parent)
        {
            if (File.Exists(Path.Combine(at.FullName, "samples", name)))
            {
                return Path.Combine(at.FullName, "samples", name);
            }
        }

        throw new FileNotFoundException(name);
    }

    private static PlacementChoice Placement(string name, string channel, string source, string medium) =>
        new(name, new Dictionary<string, string> { ["utm_source"] = source, ["utm_medium"] = medium }, Channel: channel);

    [GeneratedRegex(@"\\u([0-9a-fA-F]{4})")]
    private static partial Regex Unit();
}
