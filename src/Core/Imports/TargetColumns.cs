using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Imports;

/// <summary>Which columns of a file say what its rows belong to; by their names, null where there is none.</summary>
/// <param name="Link">A link: its id, its short URL, its whole URL, or its title.</param>
/// <param name="Campaign">A campaign's name or written value.</param>
/// <param name="Placement">A placement's name.</param>
/// <param name="Values">Columns of written values, by field key.</param>
public sealed record TargetColumns(string? Link, string? Campaign, string? Placement, IReadOnlyDictionary<string, string>? Values)
{
    private static readonly string[] LinkHeads = ["Short link", "Short URL", "Link", "Link id", "URL"];
    private static readonly string[] CampaignHeads = ["Campaign", "Campaign name"];
    private static readonly string[] PlacementHeads = ["Placement", "Placement name"];

    /// <summary>All columns it names.</summary>
    public IEnumerable<string> All => new[] { Link, Campaign, Placement }.OfType<string>().Concat(Values?.Values ?? []);

    /// <summary>What the headings of a file suggest.</summary>
    public static TargetColumns Guess(Table table, Convention convention)
    {
        string? campaign = Column(table, CampaignHeads);
        var values = new Dictionary<string, string>();
        foreach (string name in table.Names)
        {
            if (name != campaign && convention.Find(name) is { } field)
            {
                values.TryAdd(field.Key, name);
            }
        }

        return new TargetColumns(Column(table, LinkHeads), campaign, Column(table, PlacementHeads), values);
    }

    /// <summary>The first column that is called by one of some headings; null where none is.</summary>
    public static string? Column(Table table, IEnumerable<string> heads) =>
        heads.Select(table.Find).FirstOrDefault(i => i >= 0, -1) is var at and >= 0 ? table.Names[at] : null;

    /// <summary>Reads from a row's cells what it belongs to; aliases in values are their words.</summary>
    /// <param name="table">The file.</param>
    /// <param name="convention">The convention whose aliases and words are meant.</param>
    public Func<IReadOnlyList<string>, NamedTarget> ReaderOf(Table table, Convention convention)
    {
        int At(string? column) => column is null ? -1 : table.Find(column);
        int link = At(Link),
            campaign = At(Campaign),
            placement = At(Placement);
        var values = (Values ?? new Dictionary<string, string>())
            .Select(v => (Field: convention.Find(v.Key), At: At(v.Value)))
            .Where(v => v.Field is not null && v.At >= 0)
            .ToList();
        return cells =>
        {
            string Cell(int column) => Table.Cell(cells, column).Trim();
            return new NamedTarget(
                Cell(link),
                Cell(campaign),
                Cell(placement),
                values
                    .Select(v => (v.Field!.Key, Value: Written(v.Field, Cell(v.At))))
                    .Where(v => v.Value.Length > 0)
                    .GroupBy(v => v.Key)
                    .ToDictionary(g => g.Key, g => g.First().Value)
            );
        };
    }

    private static string Written(Field field, string text) =>
        text.Length == 0 ? ""
        : field.Words?.Find(text) is { } word ? word.Written
        : ValueNormaliser.Normalise(text, field.Rules).Written;
}
