using System.Data;
using System.Globalization;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Steps;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>How far visits got on a way.</summary>
/// <param name="Visits">All visits there were.</param>
/// <param name="Steps">For each step those that reached it, and every step before it in this order.</param>
public sealed record StepFigures(long Visits, IReadOnlyList<StepReached> Steps);

/// <summary>Who reached a step.</summary>
/// <param name="Visits">How many.</param>
/// <param name="Instead">What those who did not reach the next one saw after it, the commonest first; null for those who saw no further page.</param>
public sealed record StepReached(long Visits, IReadOnlyList<(string? Page, long Visits)> Instead);

/// <summary>Follows single visits along the steps of a way, as far back as these are kept.</summary>
public sealed class StepReader(NpgsqlDataSource database, TrafficSourceCache sources, PlanOfVisitsReader plans)
{
    private const int MostInstead = 5;

    /// <summary>How far visits that fulfil the request's conditions got; its rows are not looked at.</summary>
    /// <param name="request">The range and conditions.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="steps">The way.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<StepFigures> ReadAsync(
        ArrivalsRequest request,
        Convention convention,
        IReadOnlyList<Step> steps,
        CancellationToken cancel
    )
    {
        var plan = await plans.ReadAsync(request.WorkspaceId, cancel);
        var maps = await new RowMapReader(database, sources).ReadAsync(request with { Rows = [] }, convention, plan, cancel);
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        var values = new List<object> { request.WorkspaceId, request.From, request.To };
        values.AddRange(VisitConditions.ValuesOf(maps));

        // The visits, kept for this transaction; and step by step those that got so far, with when.
        await RunAsync(
            connection,
            $"""
            create temp table stepped on commit drop as
            select v.id, v.visitor, s.site_id, v.started_at, v.ended_at from visit v join traffic_source s on s.id = v.source_id
            where v.workspace_id = $1 and v.day between $2 and $3
                and v.started_at between $2::timestamp - interval '1 day' and $3::timestamp + interval '2 days'{VisitConditions.SqlOf(
                maps,
                4
            )}
            """,
            values,
            cancel
        );
        await RunAsync(connection, "analyze stepped", [], cancel);
        var found = new List<StepReached>();
        for (int i = 0; i < steps.Count; i++)
        {
            await ReachAsync(connection, request, steps, i, cancel);
            if (i > 0)
            {
                found[^1] = found[^1] with { Instead = await InsteadAsync(connection, request, i - 1, cancel) };
            }

            found.Add(new StepReached(await CountAsync(connection, TableOf(i), cancel), []));
        }

        return new StepFigures(await CountAsync(connection, "stepped", cancel), found);
    }

    private static string TableOf(int step) => string.Create(CultureInfo.InvariantCulture, $"step_{step}");

    /// <summary>Finds the visits that reached a step: when they first did after the step before it.</summary>
    private static async Task ReachAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        IReadOnlyList<Step> steps,
        int at,
        CancellationToken cancel
    )
    {
        var step = steps[at];

        // The same thing twice happens twice; different things may happen at once.
        string earlier =
            at == 0 ? "" : $" join {TableOf(at - 1)} b on b.visit_id = v.id and m.at {(steps[at - 1] == step ? ">" : ">=")} b.at";
        const string Range = "m.at between $2::timestamp - interval '1 day' and $3::timestamp + interval '3 days'";
        var values = new List<object> { request.WorkspaceId, request.From, request.To };
        string matches;
        if (step.IsPage)
        {
            var definition = new ConversionDefinition(Guid.Empty, "", step.PageTest, step.Text);
            values.Add((await DefinedConversions.PagesAsync(connection, request.WorkspaceId, [definition], cancel)).Keys.ToArray());
            matches =
                $"page_view m on m.visit_id = v.id and m.workspace_id = $1 and m.day between $2 and $3 and {Range} and m.page_id = any($4)";
        }
        else if (step.Kind == StepKind.Conversion)
        {
            values.Add(step.Text);
            matches =
                $"conversion m on m.visit_id = v.id and m.workspace_id = $1 and m.day between $2 and $3 and {Range} and (m.kind = $4 or $4 = '')";
        }
        else
        {
            values.Add(step.Text);
            values.Add((short)(step.Kind == StepKind.Clicked ? PageEventKind.SpotClicked : PageEventKind.Event));
            matches =
                $"page_event m on m.workspace_id = $1 and m.visitor = v.visitor and m.site_id = v.site_id and m.at between v.started_at and v.ended_at and {Range} and m.kind = $5 and m.name = $4";
        }

        await RunAsync(
            connection,
            $"create temp table {TableOf(at)} on commit drop as select v.id as visit_id, min(m.at) as at from stepped v join {matches}{earlier} group by 1",
            values,
            cancel
        );
        await RunAsync(connection, $"analyze {TableOf(at)}", [], cancel);
    }

    /// <summary>What those who got no further than a step saw next.</summary>
    private static async Task<IReadOnlyList<(string? Page, long Visits)>> InsteadAsync(
        NpgsqlConnection connection,
        ArrivalsRequest request,
        int step,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            $"""
            select p.address, count(*) from (
                select distinct on (r.visit_id) r.visit_id, pv.page_id
                from {TableOf(step)} r
                left join page_view pv on pv.visit_id = r.visit_id and pv.workspace_id = $1 and pv.day between $2 and $3
                    and pv.at between $2::timestamp - interval '1 day' and $3::timestamp + interval '3 days' and pv.at > r.at
                where not exists (select from {TableOf(step + 1)} n where n.visit_id = r.visit_id)
                order by r.visit_id, pv.at
            ) i left join visited_page p on p.id = i.page_id
            group by 1 order by 2 desc, 1 limit {MostInstead}
            """,
            connection
        );
        Add(command, [request.WorkspaceId, request.From, request.To]);
        var pages = new List<(string?, long)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            pages.Add((reader.IsDBNull(0) ? null : reader.GetString(0), reader.GetInt64(1)));
        }

        return pages;
    }

    private static async Task<long> CountAsync(NpgsqlConnection connection, string table, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand($"select count(*) from {table}", connection);
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    private static async Task RunAsync(NpgsqlConnection connection, string sql, IReadOnlyList<object> values, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        Add(command, values);
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static void Add(NpgsqlCommand command, IReadOnlyList<object> values)
    {
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }
    }
}
