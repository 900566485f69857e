using System.Runtime.CompilerServices;
using System.Text.Json;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Batches;

/// <summary>Writes and reads the rows of sheets in bulk.</summary>
public sealed class BatchRows(NpgsqlDataSource database)
{
    // PostgreSQL has no zero character in its texts; a sheet has no use for one.
    private static readonly CopyTable<(Guid Batch, int Number, IReadOnlyList<string> Cells)> Rows = new CopyTable<(
        Guid Batch,
        int Number,
        IReadOnlyList<string> Cells
    )>("batch_row")
        .Column("batch_id", NpgsqlDbType.Uuid, r => r.Batch)
        .Column("number", NpgsqlDbType.Integer, r => r.Number)
        .Column("cells", NpgsqlDbType.Array | NpgsqlDbType.Text, r =>
            r.Cells.Select(c => c.Replace("\0", "", StringComparison.Ordinal)).ToArray()
        );

    private const int AtOnce = 1_000;
    private const string Columns = "number, cells, overrides::text, outcome, says, url, link_id";

    /// <summary>Writes all rows of a sheet; those it had before are gone.</summary>
    /// <param name="batch">The sheet.</param>
    /// <param name="rows">Its cells, in order; gone through once, and no more than one of them is held.</param>
    /// <param name="within">A connection in the transaction the sheet itself is written in.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>How many rows there were.</returns>
    public static async Task<int> WriteAsync(
        Guid batch,
        IEnumerable<IReadOnlyList<string>> rows,
        NpgsqlConnection within,
        CancellationToken cancel
    )
    {
        await using (
            var clear = new NpgsqlCommand("delete from batch_row where batch_id = $1", within) { Parameters = { new() { Value = batch } } }
        )
        {
            await clear.ExecuteNonQueryAsync(cancel);
        }

        return await Rows.WriteAsync(within, rows.Select((cells, i) => (batch, i + 1, cells)), cancel);
    }

    /// <summary>Rows after a number, in order.</summary>
    /// <param name="batch">The sheet.</param>
    /// <param name="after">The number before the first one wanted.</param>
    /// <param name="most">Most of them.</param>
    /// <param name="cancel">Gives up.</param>
    public Task<List<BatchRow>> ReadAsync(Guid batch, int after, int most, CancellationToken cancel) =>
        ReadAsync(
            $"select {Columns} from batch_row where batch_id = $1 and number > $2 order by number limit $3",
            cancel,
            batch,
            after,
            most
        );

    /// <summary>Rows of an outcome, or with a rule's notice, skipping some; numbers in cells are ordered as numbers.</summary>
    public Task<List<BatchRow>> FindAsync(
        Guid batch,
        string? outcome,
        string? rule,
        RowOrder order,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        string by = order.Column switch
        {
            null => "number",
            RowOrder.Outcome => "outcome",
            var column => $"coalesce(cells[{column + 1}], '') collate natural_order",
        };
        return ReadAsync(
            $"""
            select {Columns} from batch_row
            where batch_id = $1 and ($2 = '' or outcome = $2) and ($3 = '' or rules @> array[$3]) order by {by} {(
                order.Descending ? "desc" : ""
            )}, number offset $4 limit $5
            """,
            cancel,
            batch,
            outcome ?? "",
            rule ?? "",
            skip,
            most
        );
    }

    /// <summary>Rows after a number that may have a rule's notice: those it was counted for, and those not counted since they changed.</summary>
    /// <param name="batch">The sheet.</param>
    /// <param name="rule">The rule; null for all rows.</param>
    /// <param name="after">The number before the first one wanted.</param>
    /// <param name="most">Most of them.</param>
    /// <param name="cancel">Gives up.</param>
    public Task<List<BatchRow>> MaybeAsync(Guid batch, string? rule, int after, int most, CancellationToken cancel) =>
        ReadAsync(
            $"select {Columns} from batch_row where batch_id = $1 and number > $2 and ($3 = '' or outcome = '' or rules @> array[$3]) order by number limit $4",
            cancel,
            batch,
            after,
            rule ?? "",
            most
        );

    /// <summary>How many rows of a sheet have each outcome, and each rule's notice.</summary>
    public async Task<(Dictionary<string, int> Outcomes, Dictionary<string, int> Rules)> CountAsync(Guid batch, CancellationToken cancel) =>
        (
            await PairsAsync("select outcome, count(*)::int from batch_row where batch_id = $1 group by 1", batch, cancel),
            await PairsAsync("select rule, count(*)::int from batch_row, unnest(rules) rule where batch_id = $1 group by 1", batch, cancel)
        );

    /// <summary>Types values for rows.</summary>
    /// <param name="batch">The sheet.</param>
    /// <param name="changes">The values, each row once; rows the sheet doesn't have are passed over.</param>
    /// <param name="within">A connection in the transaction that keeps the edit.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The values that stood in the same places before, for the rows the sheet has.</returns>
    public static async Task<List<TypedRow>> TypeAsync(
        Guid batch,
        IReadOnlyList<TypedRow> changes,
        NpgsqlConnection within,
        CancellationToken cancel
    )
    {
        var wanted = changes.ToDictionary(c => c.Number, c => c.Values);
        var before = new List<TypedRow>(changes.Count);
        await using (
            var look = new NpgsqlCommand(
                "select number, overrides::text from batch_row where batch_id = $1 and number = any($2) order by number for update",
                within
            )
        )
        {
            look.Parameters.Add(new() { Value = batch });
            look.Parameters.Add(new() { Value = wanted.Keys.ToArray() });
            await using var reader = await look.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                var typed = reader.IsDBNull(1)
                    ? []
                    : JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(1), JsonSerializerOptions.Default)!;
                before.Add(
                    new TypedRow(reader.GetInt32(0), wanted[reader.GetInt32(0)].Keys.ToDictionary(k => k, k => typed.GetValueOrDefault(k)))
                );
            }
        }

        await using var command = new NpgsqlCommand(
            """
            update batch_row r set overrides = nullif(jsonb_strip_nulls(coalesce(r.overrides, '{}') || c.value::jsonb), '{}'), outcome = '', rules = '{}', says = null
            from unnest($2, $3) as c(number, value) where r.batch_id = $1 and r.number = c.number
            """,
            within
        );
        command.Parameters.Add(new() { Value = batch });
        command.Parameters.Add(new() { Value = changes.Select(c => c.Number).ToArray() });
        command.Parameters.Add(
            new() { Value = changes.Select(c => JsonSerializer.Serialize(c.Values, JsonSerializerOptions.Default)).ToArray() }
        );
        await command.ExecuteNonQueryAsync(cancel);
        return before;
    }

    /// <summary>Gives rows of a later sheet the links that rows of an earlier one had.</summary>
    public async Task CarryOnAsync(Guid earlier, Guid later, IReadOnlyList<(int Before, int After)> pairs, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            update batch_row r set url = e.url, link_id = e.link_id from unnest($3, $4) p(before, after)
            join batch_row e on e.batch_id = $1 and e.number = p.before where r.batch_id = $2 and r.number = p.after and e.link_id is not null
            """
        );
        command.Parameters.Add(new() { Value = earlier });
        command.Parameters.Add(new() { Value = later });
        command.Parameters.Add(new() { Value = pairs.Select(p => p.Before).ToArray() });
        command.Parameters.Add(new() { Value = pairs.Select(p => p.After).ToArray() });
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Keeps what was worked out for rows.</summary>
    public async Task KeepAsync(Guid batch, IReadOnlyList<RowResult> results, CancellationToken cancel, NpgsqlConnection? within = null)
    {
        const string Update = """
            update batch_row r set outcome = w.outcome, says = w.says, rules = coalesce(string_to_array(nullif(w.rules, ''), ' '), '{}'),
                url = coalesce(w.url, r.url), link_id = coalesce(w.link, r.link_id), run = coalesce(w.run, r.run)
            from unnest($2, $3, $4, $5, $6, $7, $8) as w(number, outcome, says, rules, url, link, run)
            where r.batch_id = $1 and r.number = w.number
            """;
        await using var owned = within is null ? await database.OpenConnectionAsync(cancel) : null;
        await using var command = new NpgsqlCommand(Update, within ?? owned);
        command.Parameters.Add(new() { Value = batch });
        command.Parameters.Add(new() { Value = results.Select(r => r.Number).ToArray() });
        command.Parameters.Add(new() { Value = results.Select(r => r.Outcome).ToArray() });
        command.Parameters.Add(
            new() { Value = results.Select(r => r.Says).ToArray(), NpgsqlDbType = NpgsqlDbType.Array | NpgsqlDbType.Text }
        );
        command.Parameters.Add(new() { Value = results.Select(r => string.Join(' ', r.Rules)).ToArray() });
        command.Parameters.Add(
            new() { Value = results.Select(r => r.Url).ToArray(), NpgsqlDbType = NpgsqlDbType.Array | NpgsqlDbType.Text }
        );
        command.Parameters.Add(
            new() { Value = results.Select(r => r.LinkId).ToArray(), NpgsqlDbType = NpgsqlDbType.Array | NpgsqlDbType.Uuid }
        );
        command.Parameters.Add(
            new() { Value = results.Select(r => r.Run).ToArray(), NpgsqlDbType = NpgsqlDbType.Array | NpgsqlDbType.Integer }
        );
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>All rows in order, a thousand at a time, with the short links and the moment of making of their links.</summary>
    /// <param name="batch">The sheet.</param>
    /// <param name="linkedOnly">Leaves out rows without a link.</param>
    /// <param name="cancel">Gives up.</param>
    public async IAsyncEnumerable<(BatchRow Row, RowLink? Link)> ResultsAsync(
        Guid batch,
        bool linkedOnly,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        int after = 0;
        while (await ReadAsync(batch, after, AtOnce, cancel) is { Count: > 0 } some)
        {
            after = some[^1].Number;
            var links = await LinksAsync([.. some.Select(r => r.LinkId).OfType<Guid>()], cancel);
            foreach (var row in some)
            {
                if (!linkedOnly || row.LinkId is not null)
                {
                    yield return (row, row.LinkId is { } id ? links.GetValueOrDefault(id) : null);
                }
            }
        }
    }

    private async Task<Dictionary<Guid, RowLink>> LinksAsync(Guid[] links, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select l.id, max(d.scheme || '://' || d.host || '/' || s.slug) filter (where s.use = 'Text'),
                max(d.scheme || '://' || d.host || '/' || s.slug) filter (where s.use = 'Code'), l.created_at
            from links l left join short_links s on s.link_id = l.id left join short_domains d on d.id = s.short_domain_id
            where l.id = any($1) group by l.id
            """
        );
        command.Parameters.Add(new() { Value = links });
        var found = new Dictionary<Guid, RowLink>(links.Length);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found[reader.GetGuid(0)] = new RowLink(
                reader.IsDBNull(1) ? null : reader.GetString(1),
                reader.IsDBNull(2) ? null : reader.GetString(2),
                reader.GetFieldValue<DateTimeOffset>(3)
            );
        }

        return found;
    }

    private async Task<List<BatchRow>> ReadAsync(string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = database.CreateCommand(sql);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var rows = new List<BatchRow>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            rows.Add(
                new BatchRow(
                    reader.GetInt32(0),
                    reader.GetFieldValue<string[]>(1),
                    reader.IsDBNull(2)
                        ? null
                        : JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(2), JsonSerializerOptions.Default),
                    reader.GetString(3),
                    reader.IsDBNull(4) ? null : reader.GetString(4),
                    reader.IsDBNull(5) ? null : reader.GetString(5),
                    reader.IsDBNull(6) ? null : reader.GetGuid(6)
                )
            );
        }

        return rows;
    }

    private async Task<Dictionary<string, int>> PairsAsync(string sql, Guid batch, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(sql);
        command.Parameters.Add(new() { Value = batch });
        var pairs = new Dictionary<string, int>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            pairs[reader.GetString(0)] = reader.GetInt32(1);
        }

        return pairs;
    }
}

/// <summary>What goes out beside a row's link.</summary>
/// <param name="Text">Its short link for texts, or null.</param>
/// <param name="Code">What its code says, or null.</param>
/// <param name="MadeAt">When it was made.</param>
public sealed record RowLink(string? Text, string? Code, DateTimeOffset MadeAt);

/// <summary>An order rows are looked at in; the sheet's own order is not touched by it.</summary>
/// <param name="Column">Position of the column, from 0; null for the order of the sheet, -1 for the outcome.</param>
/// <param name="Descending">True for the other way round.</param>
public readonly record struct RowOrder(int? Column = null, bool Descending = false)
{
    public const int Outcome = -1;
}

/// <summary>What was worked out for a row. Url, link and run stay as they were where they are null.</summary>
public sealed record RowResult(
    int Number,
    string Outcome,
    string? Says,
    IReadOnlyList<string> Rules,
    string? Url = null,
    Guid? LinkId = null,
    int? Run = null
);

/// <summary>A row of a sheet with what a count or a run made of it.</summary>
/// <param name="Number">Its place among the sheet's rows, from 1; headings are not counted.</param>
/// <param name="Cells">Its cells exactly as they were uploaded.</param>
/// <param name="Overrides">Values typed for this row alone, or null.</param>
/// <param name="Outcome">What came of it; see <c>RowOutcome</c>; empty before it was counted.</param>
/// <param name="Url">The URL of its link, from the last run that made one; null for none.</param>
/// <param name="LinkId">That link.</param>
public sealed record BatchRow(
    int Number,
    string[] Cells,
    Dictionary<string, string>? Overrides,
    string Outcome,
    string? Says,
    string? Url,
    Guid? LinkId
);
