using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data.Outbox;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps checks of the pages that links lead to: runs, what was seen, and what was found and since when.</summary>
public sealed class PageCheckBook(NpgsqlDataSource database)
{
    /// <summary>Pages of a run (ours); the most used ones, where there are more.</summary>
    public const int MostPages = 5_000;

    /// <summary>Runs that are listed, the newest (ours).</summary>
    public const int MostRuns = 20;

    private static readonly TimeSpan Lease = TimeSpan.FromMinutes(3);

    /// <summary>What a run came to, of what is graver than an info: open and not muted at its end, new by it, and gone by it.</summary>
    private const string Outcome = """
        found = (select count(*) from page_finding f where f.workspace_id = r.workspace_id and f.severity > 0 and f.gone_at is null and f.muted_by is null),
        appeared = (select count(*) from page_finding f where f.workspace_id = r.workspace_id and f.severity > 0 and f.first_seen >= r.started_at),
        gone = (select count(*) from page_finding f where f.workspace_id = r.workspace_id and f.severity > 0 and f.gone_at >= r.started_at)
        """;

    /// <summary>Begins a run, unless one is going on.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="startedBy">Who began it; null for the schedule.</param>
    /// <param name="batch">Only the pages of this sheet's links; null for all.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>False where one is going on.</returns>
    public async Task<bool> StartAsync(Guid workspaceId, string? startedBy, Guid? batch, DateTimeOffset now, CancellationToken cancel) =>
        await database.RunAsync(
            """
            insert into page_check_run (id, workspace_id, started_at, started_by, batch_id)
            select $2, $1, $3, $4, $5 from (select from workspaces where id = $1 for update) w
            where not exists (select from page_check_run where workspace_id = $1 and finished_at is null)
            """,
            cancel,
            workspaceId,
            Guid.CreateVersion7(now),
            now.ToUniversalTime(),
            Text(startedBy),
            Id(batch)
        ) > 0;

    /// <summary>Begins the runs that are due by schedule.</summary>
    public async Task StartDueAsync(DateTimeOffset now, CancellationToken cancel) =>
        await database.RunAsync(
            """
            insert into page_check_run (id, workspace_id, started_at)
            select gen_random_uuid(), w.id, $1 from workspaces w
            where w.page_check_days is not null and not exists (
                select from page_check_run r where r.workspace_id = w.id
                    and (r.finished_at is null or r.batch_id is null and r.started_at > $1 - make_interval(days => w.page_check_days)))
            """,
            cancel,
            now.ToUniversalTime()
        );

    /// <summary>Takes a run on for a while, so that no other process does it too; null where there is none.</summary>
    public async Task<PageCheckRun?> TakeAsync(Guid worker, DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            update page_check_run set worker = $1, leased_until = $2 + $3
            where id = (
                select id from page_check_run where finished_at is null and (worker = $1 or leased_until is null or leased_until < $2)
                order by started_at limit 1 for update skip locked)
            returning id, workspace_id, started_at, started_by, total, done, batch_id
            """,
            worker,
            now.ToUniversalTime(),
            Lease
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel)
            ? new PageCheckRun(
                reader.GetGuid(0),
                reader.GetGuid(1),
                reader.GetFieldValue<DateTimeOffset>(2),
                reader.IsDBNull(3) ? null : reader.GetString(3),
                reader.IsDBNull(4) ? null : reader.GetInt32(4),
                reader.GetInt32(5),
                reader.IsDBNull(6) ? null : reader.GetGuid(6)
            )
            : null;
    }

    /// <summary>Lists the pages of a run: those of links that go on, each with the tagged address of its newest link.</summary>
    public async Task ListAsync(PageCheckRun run, CancellationToken cancel) =>
        await database.RunAsync(
            $"""
            with page as (
                select coalesce(l.leads_to, l.destination) as page, count(*)::int as links,
                    (array_agg(coalesce((select s.target from short_links s where s.link_id = l.id limit 1), l.url) order by l.created_at desc, l.id))[1] as url
                from links l
                where l.workspace_id = $1 and l.retired_at is null and not l.is_waiting and not l.paused
                    and ($3::uuid is null or coalesce(l.leads_to, l.destination) in (
                        select coalesce(b.leads_to, b.destination) from batch_row r join links b on b.id = r.link_id where r.batch_id = $3))
                group by 1 order by count(*) desc, 1 limit {MostPages}
            ), gone as (
                delete from page_check where workspace_id = $1 and $3::uuid is null and page not in (select page from page)
            ), kept as (
                insert into page_check (workspace_id, page, url, links, due_run) select $1, page, url, links, $2 from page
                on conflict (workspace_id, page) do update set url = excluded.url, links = excluded.links, due_run = excluded.due_run
                returning 1
            )
            update page_check_run set total = (select count(*) from kept) where id = $2
            """,
            cancel,
            run.WorkspaceId,
            run.Id,
            Id(run.BatchId)
        );

    /// <summary>The next page of a run; null where none is left.</summary>
    public async Task<(string Page, string Url)?> NextAsync(PageCheckRun run, CancellationToken cancel)
    {
        await using var command = database.Command(
            "select page, url from page_check where due_run = $1 order by links desc, page limit 1",
            run.Id
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel) ? (reader.GetString(0), reader.GetString(1)) : null;
    }

    /// <summary>Keeps what a page came to: what is found anew, what is still there, and what is gone.</summary>
    public async Task KeepAsync(
        PageCheckRun run,
        string page,
        PageTrace? trace,
        IReadOnlyList<Finding> findings,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var one = findings.GroupBy(f => f.Rule).Select(g => g.First()).ToList();
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using (
            var command = connection.Command(
                """
                update page_check set checked_at = $3, hops = $4::jsonb, title = $5, due_run = null
                where workspace_id = $1 and page = $2 and due_run = $6
                """,
                run.WorkspaceId,
                page,
                now.ToUniversalTime(),
                JsonSerializer.Serialize(trace?.Hops ?? [], JsonSerializerOptions.Web),
                Text(trace?.Page?.Title),
                run.Id
            )
        )
        {
            if (await command.ExecuteNonQueryAsync(cancel) == 0)
            {
                return; // the run was cancelled meanwhile
            }
        }

        await using (
            var command = connection.Command(
                """
                insert into page_finding as f (workspace_id, page, rule, severity, message, hop, first_seen, last_seen)
                select $1, $2, n.rule, n.severity, n.message, nullif(n.hop, 0), $7, $7 from unnest($3, $4, $5, $6) as n(rule, severity, message, hop)
                on conflict (workspace_id, page, rule) do update set severity = excluded.severity, message = excluded.message, hop = excluded.hop,
                    last_seen = excluded.last_seen, first_seen = case when f.gone_at is null then f.first_seen else excluded.first_seen end, gone_at = null
                """,
                run.WorkspaceId,
                page,
                one.Select(f => f.Rule).ToArray(),
                one.Select(f => (short)f.Severity).ToArray(),
                one.Select(f => f.Message).ToArray(),
                one.Select(f => f.Hop ?? 0).ToArray(),
                now.ToUniversalTime()
            )
        )
        {
            await command.ExecuteNonQueryAsync(cancel);
        }

        await using (
            var command = connection.Command(
                "update page_finding set gone_at = $4 where workspace_id = $1 and page = $2 and gone_at is null and not rule = any($3)",
                run.WorkspaceId,
                page,
                one.Select(f => f.Rule).ToArray(),
                now.ToUniversalTime()
            )
        )
        {
            await command.ExecuteNonQueryAsync(cancel);
        }

        await using (var command = connection.Command("update page_check_run set done = done + 1 where id = $1", run.Id))
        {
            await command.ExecuteNonQueryAsync(cancel);
        }

        await transaction.CommitAsync(cancel);
    }

    /// <summary>Ends a run.</summary>
    /// <param name="mails">What is sent about it; nobody gets two mails for one run, whichever process ends it.</param>
    public async Task FinishAsync(PageCheckRun run, DateTimeOffset now, IReadOnlyList<WantedMail> mails, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var finish = connection.Command(
            $"update page_check_run r set finished_at = $2, {Outcome} where r.id = $1 and r.finished_at is null",
            run.Id,
            now.ToUniversalTime()
        );
        if (await finish.ExecuteNonQueryAsync(cancel) > 0)
        {
            foreach (var mail in mails)
            {
                await MailQueue.AddWantedAsync(connection, run.WorkspaceId, mail, now, cancel);
            }
        }

        await transaction.CommitAsync(cancel);
    }

    /// <summary>What a run found anew, graver than an info and not muted.</summary>
    /// <param name="most">How many are given at most, the gravest first.</param>
    /// <returns>These, and how many there are in all.</returns>
    public async Task<(IReadOnlyList<(string Page, string Says)> Findings, long Count)> NewAsync(
        PageCheckRun run,
        int most,
        CancellationToken cancel
    )
    {
        await using var command = database.Command(
            """
            select page, message, count(*) over () from page_finding
            where workspace_id = $1 and severity > 0 and first_seen >= $2 and gone_at is null and muted_by is null
            order by severity desc, page, rule limit $3
            """,
            run.WorkspaceId,
            run.StartedAt.ToUniversalTime(),
            most
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var found = new List<(string, string)>();
        long count = 0;
        while (await reader.ReadAsync(cancel))
        {
            found.Add((reader.GetString(0), reader.GetString(1)));
            count = reader.GetInt64(2);
        }

        return (found, count);
    }

    /// <summary>Breaks the run that is going on off; what was checked stays.</summary>
    /// <returns>False where none is going on.</returns>
    public async Task<bool> CancelAsync(Guid workspaceId, DateTimeOffset now, CancellationToken cancel)
    {
        bool ended =
            await database.RunAsync(
                $"update page_check_run r set finished_at = $2, cancelled = true, {Outcome} where r.workspace_id = $1 and r.finished_at is null",
                cancel,
                workspaceId,
                now.ToUniversalTime()
            ) > 0;
        await database.RunAsync(
            "update page_check set due_run = null where workspace_id = $1 and due_run is not null",
            cancel,
            workspaceId
        );
        return ended;
    }

    /// <summary>How often pages are checked, in days; null for never.</summary>
    public async Task SetScheduleAsync(Guid workspaceId, int? days, CancellationToken cancel) =>
        await database.RunAsync(
            "update workspaces set page_check_days = $2 where id = $1",
            cancel,
            workspaceId,
            new NpgsqlParameter { Value = (object?)days ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Integer }
        );

    /// <summary>Mutes a finding, or takes it up again where there is no reason.</summary>
    /// <returns>False where there is no such finding.</returns>
    public async Task<bool> MuteAsync(Guid workspaceId, string page, string rule, string? by, string? reason, CancellationToken cancel) =>
        await database.RunAsync(
            "update page_finding set muted_by = $4, muted_reason = $5 where workspace_id = $1 and page = $2 and rule = $3",
            cancel,
            workspaceId,
            page,
            rule,
            Text(by),
            Text(reason)
        ) > 0;

    /// <summary>The schedule, the latest run and all pages with what was found, those with the gravest findings first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="batch">Only the pages of this sheet's links; null for all.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<PageChecksRead> ReadAsync(Guid workspaceId, Guid? batch, CancellationToken cancel)
    {
        await using var commands = database.CreateBatch();
        commands.Add("select page_check_days from workspaces where id = $1", workspaceId);
        commands.Add(
            """
            select id, started_at, started_by, total, done, finished_at, cancelled, batch_id, found, appeared, gone from page_check_run
            where workspace_id = $1 order by started_at desc limit $2
            """,
            workspaceId,
            MostRuns
        );
        commands.Add(
            """
            select c.page, c.url, c.links, c.checked_at, c.hops, c.title,
                f.rule, f.severity, f.message, f.hop, f.first_seen, f.gone_at, f.muted_by, f.muted_reason
            from page_check c left join page_finding f on f.workspace_id = c.workspace_id and f.page = c.page
                and (f.gone_at is null or f.gone_at > now() - interval '14 days')
            where c.workspace_id = $1 and ($2::uuid is null or c.page in (
                select coalesce(l.leads_to, l.destination) from batch_row r join links l on l.id = r.link_id where r.batch_id = $2))
            order by c.links desc, c.page, f.severity desc, f.rule
            """,
            workspaceId,
            Id(batch)
        );
        await using var reader = await commands.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        int? days = reader.IsDBNull(0) ? null : reader.GetInt32(0);
        await reader.NextResultAsync(cancel);
        var runs = new List<PageCheckProgress>();
        while (await reader.ReadAsync(cancel))
        {
            runs.Add(
                new PageCheckProgress(
                    reader.GetFieldValue<DateTimeOffset>(1),
                    reader.IsDBNull(2) ? null : reader.GetString(2),
                    IntAt(3),
                    reader.GetInt32(4),
                    reader.IsDBNull(5) ? null : reader.GetFieldValue<DateTimeOffset>(5),
                    reader.GetBoolean(6),
                    reader.IsDBNull(7) ? null : reader.GetGuid(7),
                    IntAt(8),
                    IntAt(9),
                    IntAt(10)
                )
            );
        }

        await reader.NextResultAsync(cancel);
        var pages = new List<CheckedPage>();
        while (await reader.ReadAsync(cancel))
        {
            if (pages.Count == 0 || pages[^1].Page != reader.GetString(0))
            {
                pages.Add(
                    new CheckedPage(
                        reader.GetString(0),
                        reader.GetString(1),
                        reader.GetInt32(2),
                        reader.IsDBNull(3) ? null : reader.GetFieldValue<DateTimeOffset>(3),
                        reader.IsDBNull(4)
                            ? []
                            : JsonSerializer.Deserialize<List<TraceHop>>(reader.GetString(4), JsonSerializerOptions.Web)!,
                        reader.IsDBNull(5) ? null : reader.GetString(5),
                        []
                    )
                );
            }

            if (!reader.IsDBNull(6))
            {
                pages[^1]
                    .Findings.Add(
                        new PageFinding(
                            reader.GetString(6),
                            (Severity)reader.GetInt16(7),
                            reader.GetString(8),
                            reader.IsDBNull(9) ? null : reader.GetInt32(9),
                            reader.GetFieldValue<DateTimeOffset>(10),
                            reader.IsDBNull(11) ? null : reader.GetFieldValue<DateTimeOffset>(11),
                            reader.IsDBNull(12) ? null : reader.GetString(12),
                            reader.IsDBNull(13) ? null : reader.GetString(13)
                        )
                    );
            }
        }

        return new PageChecksRead(days, runs, pages);

        int? IntAt(int column) => reader.IsDBNull(column) ? null : reader.GetInt32(column);
    }

    private static NpgsqlParameter Id(Guid? id) =>
        new() { Value = (object?)id ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Uuid };

    private static NpgsqlParameter Text(string? text) =>
        new() { Value = (object?)text ?? DBNull.Value, NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Text };
}

/// <summary>A run that a process has taken on.</summary>
/// <param name="Id">Its id.</param>
/// <param name="WorkspaceId">Whose pages are checked.</param>
/// <param name="StartedAt">When it began.</param>
/// <param name="StartedBy">Who began it; null for the schedule.</param>
/// <param name="Total">How many pages there are; null before they were listed.</param>
/// <param name="Done">How many are done.</param>
/// <param name="BatchId">The sheet to whose links it is limited; null for all links.</param>
public sealed record PageCheckRun(
    Guid Id,
    Guid WorkspaceId,
    DateTimeOffset StartedAt,
    string? StartedBy,
    int? Total,
    int Done,
    Guid? BatchId
);

/// <summary>How far a run has come, or what came of it.</summary>
/// <param name="StartedAt">When it began.</param>
/// <param name="StartedBy">Who began it; null for the schedule.</param>
/// <param name="Total">How many pages there are; null before they were listed.</param>
/// <param name="Done">How many are done.</param>
/// <param name="FinishedAt">When it ended; null while it goes on.</param>
/// <param name="Cancelled">Somebody broke it off.</param>
/// <param name="BatchId">The sheet to whose links it is limited; null for all links.</param>
/// <param name="Found">Errors and warnings of all pages at its end, those muted aside; null while it goes on, as the next two.</param>
/// <param name="Appeared">How many of these it was the first to see.</param>
/// <param name="Gone">How many it did not see again.</param>
public sealed record PageCheckProgress(
    DateTimeOffset StartedAt,
    string? StartedBy,
    int? Total,
    int Done,
    DateTimeOffset? FinishedAt,
    bool Cancelled,
    Guid? BatchId,
    int? Found,
    int? Appeared,
    int? Gone
);

/// <summary>A page that links lead to.</summary>
/// <param name="Page">Its address without tags.</param>
/// <param name="Url">The tagged address that is fetched: that of its newest link.</param>
/// <param name="Links">Links that lead there and go on.</param>
/// <param name="CheckedAt">When it was last checked; null for never.</param>
/// <param name="Hops">The requests then.</param>
/// <param name="Title">Its title then; null without one.</param>
/// <param name="Findings">What is found, and what is gone since a fortnight, the gravest first.</param>
public sealed record CheckedPage(
    string Page,
    string Url,
    int Links,
    DateTimeOffset? CheckedAt,
    IReadOnlyList<TraceHop> Hops,
    string? Title,
    List<PageFinding> Findings
);

/// <summary>Something found on a page.</summary>
/// <param name="Rule">Machine word of the rule, one of <see cref="FindingRules"/>.</param>
/// <param name="Severity">How grave it is.</param>
/// <param name="Message">What happened and what to do.</param>
/// <param name="Hop">Number of the request it happened at, from 1; null where it has none.</param>
/// <param name="FirstSeen">Since when it is there.</param>
/// <param name="GoneAt">When it was gone; null while it is there.</param>
/// <param name="MutedBy">Who muted it; null where nobody did.</param>
/// <param name="MutedReason">Why.</param>
public sealed record PageFinding(
    string Rule,
    Severity Severity,
    string Message,
    int? Hop,
    DateTimeOffset FirstSeen,
    DateTimeOffset? GoneAt,
    string? MutedBy,
    string? MutedReason
);

/// <summary>All that is kept of page checks; the runs with the newest first.</summary>
public sealed record PageChecksRead(int? Days, IReadOnlyList<PageCheckProgress> Runs, IReadOnlyList<CheckedPage> Pages);
