using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads people's clicks on links from their sums by day and month.</summary>
internal static class ClickReader
{
    /// <summary>Clicks of a range, with what each clicked link is called.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="range">The range, and which links.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<(List<CountedClicks> Clicks, List<LinkOfVisit> Links)> ReadAsync(
        NpgsqlConnection connection,
        ClickRange range,
        CancellationToken cancel
    )
    {
        var (firstMonth, endOfMonths) = range.IsByDay ? (range.To, range.To) : WholeMonths(range.From, range.To);
        await using var command = new NpgsqlCommand(
            $"""
            select l.id, coalesce(l.title, l.url), l.campaign_id, l.placement_id, l.page, l.values, s.use = $6, c.device, c.day, sum(c.clicks)::bigint
            from (
                select short_link_id, device, clicks, {(range.IsByDay ? "day" : "null::date as day")} from click_day
                where workspace_id = $1 and kind = $7 and day between $2 and $3 and (day < $4 or day >= $5)
                union all
                select short_link_id, device, clicks, null from click_month
                where workspace_id = $1 and kind = $7 and month >= $4 and month < $5
            ) c
            join short_links s on s.id = c.short_link_id join links l on l.id = s.link_id
            {(range.Links is null ? "" : "where (l.placement_id = any($8) or l.id = any($9)) and ($10::uuid[] is null or l.id = any($10))")}
            group by l.id, 7, 8, 9
            """,
            connection
        );
        List<object> values =
        [
            range.WorkspaceId,
            range.From,
            range.To,
            firstMonth,
            endOfMonths,
            nameof(ShortLinkUse.Code),
            nameof(HitKind.Person),
        ];
        if (range.Links is { } which)
        {
            values.AddRange([which.Placements.ToArray(), which.Links.ToArray(), (object?)which.Among?.ToArray() ?? DBNull.Value]);
        }

        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var clicks = new List<CountedClicks>();
        var links = new Dictionary<Guid, (ClickedLink Clicked, LinkOfVisit Called)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var id = reader.GetGuid(0);
            if (!links.TryGetValue(id, out var link))
            {
                links[id] = link = (
                    new ClickedLink(
                        id,
                        RawTags.Of(JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(5)) ?? []),
                        reader.GetString(4)
                    ),
                    new LinkOfVisit(
                        id,
                        reader.GetString(1),
                        reader.IsDBNull(2) ? null : reader.GetGuid(2),
                        reader.IsDBNull(3) ? null : reader.GetGuid(3)
                    )
                );
            }

            clicks.Add(
                new CountedClicks(
                    link.Clicked,
                    reader.GetBoolean(6),
                    reader.GetString(7),
                    reader.IsDBNull(8) ? null : reader.GetFieldValue<DateOnly>(8),
                    reader.GetInt64(9)
                )
            );
        }

        return (clicks, [.. links.Values.Select(l => l.Called)]);
    }

    /// <summary>The links visits came by that have a short link, so that clicks on them are counted.</summary>
    public static async Task<HashSet<Guid>> ShortenedAsync(NpgsqlConnection connection, Guid workspaceId, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select distinct t.link_id from traffic_source t join short_links s on s.link_id = t.link_id
            where t.workspace_id = $1
            """,
            connection
        )
        {
            Parameters = { new() { Value = workspaceId } },
        };
        var found = new HashSet<Guid>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(reader.GetGuid(0));
        }

        return found;
    }

    /// <summary>The first day of the whole months of a range, and the day after them; the same day where it has none.</summary>
    private static (DateOnly First, DateOnly End) WholeMonths(DateOnly from, DateOnly to)
    {
        var first = Calendar.FirstDayOf(RowKind.Month, from);
        first = first == from || from > DateOnly.MaxValue.AddMonths(-1) ? first : first.AddMonths(1);
        var end = to == DateOnly.MaxValue ? to : Calendar.FirstDayOf(RowKind.Month, to.AddDays(1));
        return first < end ? (first, end) : (to, to);
    }
}

/// <summary>Which clicks are read.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="IsByDay">Tells days apart.</param>
/// <param name="Links">Only clicks on these links; null for all.</param>
internal sealed record ClickRange(Guid WorkspaceId, DateOnly From, DateOnly To, bool IsByDay, SomeLinks? Links = null);

/// <summary>Links of some placements, and others by their ids.</summary>
/// <param name="Placements">All links of these.</param>
/// <param name="Links">These too.</param>
/// <param name="Among">Of all these only those that are among these; null for no such limit.</param>
internal sealed record SomeLinks(
    IReadOnlyCollection<Guid> Placements,
    IReadOnlyCollection<Guid> Links,
    IReadOnlyCollection<Guid>? Among = null
);
