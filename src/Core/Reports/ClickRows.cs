using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>Sorts clicks on short links into the rows of a report: a click stands where a visit by its link would.</summary>
public static class ClickRows
{
    /// <summary>Whether a report's rows and conditions are all of a kind that clicks have a value for.</summary>
    public static bool CanTell(IReadOnlyList<RowField> rows, IReadOnlyList<RowCondition> where) =>
        rows.All(r => r.IsOfClicks) && where.All(c => c.Field.IsOfClicks);

    /// <summary>People's clicks by row, scans among them; rows without any are left out.</summary>
    /// <param name="clicks">Clicks of the range.</param>
    /// <param name="rows">What rows are made by; see <see cref="CanTell"/>.</param>
    /// <param name="where">What clicks fulfil.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="plan">The plan to read by; it knows the links.</param>
    public static Dictionary<RowKey, (long Clicks, long Scans)> Of(
        IEnumerable<CountedClicks> clicks,
        IReadOnlyList<RowField> rows,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan
    )
    {
        var found = new Dictionary<RowKey, (long Clicks, long Scans)>();
        foreach (var ofLink in clicks.GroupBy(c => (c.Link, c.Scanned)))
        {
            var (link, scanned) = ofLink.Key;
            var source = SourceOf(link, scanned, convention, plan);
            foreach (var some in ofLink)
            {
                string? Key(RowField field) => KeyOf(field, source, link, some.Device, some.Day);
                if (!where.All(c => c.Holds(Key(c.Field))))
                {
                    continue;
                }

                var key = new RowKey([.. rows.Select(Key)]);
                var known = found.GetValueOrDefault(key);
                found[key] = (known.Clicks + some.Clicks, known.Scans + (scanned ? some.Clicks : 0));
            }
        }

        return found;
    }

    /// <summary>The source of a visit by a link.</summary>
    internal static ReadSource SourceOf(ClickedLink link, bool scanned, Convention convention, PlanOfVisits plan) =>
        new(new TrafficSource(0, link.Tags, "", scanned, default, link.Id), convention, plan);

    /// <summary>The value of a field where a visit by a link would have it.</summary>
    internal static string? KeyOf(RowField field, ReadSource source, ClickedLink link, string device, DateOnly? day) =>
        field.Table switch
        {
            RowTable.LandingPage => link.Page,
            RowTable.Device => device.Length == 0 ? null : device,
            RowTable.Day => day is { } known ? Calendar.NameOf(field.Kind, known) : null,
            _ => source.KeyOf(field),
        };
}

/// <summary>A link that was clicked.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Tags">What it says.</param>
/// <param name="Page">Host and path of its page.</param>
public sealed record ClickedLink(Guid Id, RawTags Tags, string Page);

/// <summary>People's clicks on a link.</summary>
/// <param name="Link">The link.</param>
/// <param name="Scanned">They came through its printed code.</param>
/// <param name="Device">Kind of device.</param>
/// <param name="Day">Their day; null where days were not told apart.</param>
/// <param name="Clicks">How many.</param>
public sealed record CountedClicks(ClickedLink Link, bool Scanned, string Device, DateOnly? Day, long Clicks);
