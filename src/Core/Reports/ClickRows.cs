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
            var source = new ReadSource(new TrafficSource(0, link.Tags, "", scanned, default, link.Id), convention, plan);
            foreach (var some in ofLink)
            {
                if (!where.All(c => c.Holds(KeyOf(c.Field, source, some))))
                {
                    continue;
                }

                var key = new RowKey([.. rows.Select(r => KeyOf(r, source, some))]);
                var known = found.GetValueOrDefault(key);
                found[key] = (known.Clicks + some.Clicks, known.Scans + (scanned ? some.Clicks : 0));
            }
        }

        return found;
    }

    private static string? KeyOf(RowField field, ReadSource source, CountedClicks clicks) =>
        field.Table switch
        {
            RowTable.LandingPage => clicks.Link.Page,
            RowTable.Device => clicks.Device.Length == 0 ? null : clicks.Device,
            RowTable.Day => clicks.Day is { } day ? Calendar.NameOf(field.Kind, day) : null,
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
