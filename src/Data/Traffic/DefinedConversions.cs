using Npgsql;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What a definition of a conversion finds in the past.</summary>
/// <param name="Times">Page views or events that meet it.</param>
/// <param name="Visits">Visits they are in; null for events, which are counted before they are sorted into visits.</param>
/// <param name="Pages">Pages that meet it, those seen most first, at most <see cref="DefinedConversions.PagesShown"/>.</param>
/// <param name="PageCount">How many pages there are in all.</param>
public sealed record DefinitionTrial(long Times, long? Visits, IReadOnlyList<TriedPage> Pages, int PageCount);

/// <summary>A page that meets a definition.</summary>
/// <param name="Page">Host and path.</param>
/// <param name="Times">How often it was seen.</param>
public sealed record TriedPage(string Page, long Times);

/// <summary>
/// What counts as a conversion, over what is there already: tried on the last days, and, once it is changed, found month by month in what
/// is still kept one by one. Those visits are worked out again, behind what arrives.
/// </summary>
public sealed class DefinedConversions(NpgsqlDataSource database)
{
    /// <summary>Days a definition is tried on.</summary>
    public const int DaysTried = 30;

    /// <summary>Pages that a trial names.</summary>
    public const int PagesShown = 5;

    /// <summary>What a definition would have found in the last <see cref="DaysTried"/> days.</summary>
    public async Task<DefinitionTrial> TryAsync(
        Guid workspaceId,
        ConversionDefinition definition,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var from = (now - TimeSpan.FromDays(DaysTried)).ToUniversalTime();
        if (definition.Test == ConversionTest.Event)
        {
            await using var events = new NpgsqlCommand(
                "select count(*) from page_event where workspace_id = $1 and at >= $2 and kind = $3 and name = $4",
                connection
            );
            Add(events, workspaceId, from, (short)PageEventKind.Event, definition.Text);
            return new DefinitionTrial((long)(await events.ExecuteScalarAsync(cancel))!, null, [], 0);
        }

        var pages = await PagesAsync(connection, workspaceId, [definition], cancel);
        await using var views = new NpgsqlCommand(
            """
            select page_id, count(*), (select count(distinct visit_id) from page_view where workspace_id = $1 and at >= $2 and page_id = any($3))
            from page_view where workspace_id = $1 and at >= $2 and page_id = any($3) group by 1
            """,
            connection
        );
        Add(views, workspaceId, from, pages.Keys.ToArray());
        var seen = new List<TriedPage>();
        long visits = 0;
        await using var reader = await views.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            seen.Add(new TriedPage(pages[reader.GetInt32(0)], reader.GetInt64(1)));
            visits = reader.GetInt64(2);
        }

        return new DefinitionTrial(
            seen.Sum(p => p.Times),
            visits,
            [.. seen.OrderByDescending(p => p.Times).ThenBy(p => p.Page, StringComparer.Ordinal).Take(PagesShown)],
            seen.Count
        );
    }

    /// <summary>Conversions of each kind in the last <see cref="DaysTried"/> days.</summary>
    public async Task<IReadOnlyDictionary<string, long>> CountAsync(Guid workspaceId, DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            "select kind, count(*) from conversion where workspace_id = $1 and at >= $2 group by 1"
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = (now - TimeSpan.FromDays(DaysTried)).ToUniversalTime() });
        var counts = new Dictionary<string, long>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            counts[reader.GetString(0)] = reader.GetInt64(1);
        }

        return counts;
    }

    /// <summary>Looks one waiting month through, the newest first, and marks the visits that meet the definition.</summary>
    /// <returns>Whether there was one.</returns>
    public async Task<bool> StepAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var next = new NpgsqlCommand(
            """
            delete from conversion_months where id = (
                select id from conversion_months order by month desc, id limit 1 for update skip locked
            ) returning workspace_id, month, test, text
            """,
            connection
        );
        Guid workspaceId;
        DateOnly month;
        ConversionDefinition definition;
        await using (var reader = await next.ExecuteReaderAsync(cancel))
        {
            if (!await reader.ReadAsync(cancel))
            {
                return false;
            }

            (workspaceId, month) = (reader.GetGuid(0), reader.GetFieldValue<DateOnly>(1));
            definition = new ConversionDefinition(Guid.Empty, "", Enum.Parse<ConversionTest>(reader.GetString(2)), reader.GetString(3));
        }

        await using var mark = new NpgsqlCommand(
            definition.Test == ConversionTest.Event
                ? """
                insert into visit_due (workspace_id, visitor, day, later)
                select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date, true
                from page_event e join workspaces w on w.id = e.workspace_id
                where e.workspace_id = $1 and e.kind = $4 and e.name = $3
                    and e.at >= $2::timestamp at time zone 'UTC' and e.at < ($2::timestamp + interval '1 month') at time zone 'UTC'
                """
                : """
                insert into visit_due (workspace_id, visitor, day, later)
                select distinct p.workspace_id, p.visitor, p.day, true
                from page_view p
                where p.workspace_id = $1 and p.page_id = any($3)
                    and p.at >= $2::timestamp at time zone 'UTC' and p.at < ($2::timestamp + interval '1 month') at time zone 'UTC'
                """,
            connection
        )
        {
            CommandTimeout = 0,
        };
        Add(mark, workspaceId, month);
        Add(
            mark,
            definition.Test == ConversionTest.Event
                ? [definition.Text, (short)PageEventKind.Event]
                : [(await PagesAsync(connection, workspaceId, [definition], cancel)).Keys.ToArray()]
        );
        await mark.ExecuteNonQueryAsync(cancel);
        await TrafficNotices.TellMovedAsync(connection, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>The pages ever seen that meet a definition, by their key.</summary>
    internal static async Task<Dictionary<int, string>> PagesAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<ConversionDefinition> definitions,
        CancellationToken cancel
    )
    {
        var ready = new ConversionDefinitions(definitions);
        await using var command = new NpgsqlCommand("select id, address from visited_page where workspace_id = $1", connection);
        Add(command, workspaceId);
        var pages = new Dictionary<int, string>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            string page = reader.GetString(1);
            if (ready.OfPage(page).Count > 0)
            {
                pages.Add(reader.GetInt32(0), page);
            }
        }

        return pages;
    }

    private static void Add(NpgsqlCommand command, params object[] values)
    {
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }
    }
}
