using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Batches;

/// <summary>Keeps sheets, their recipes and what was typed into their rows.</summary>
public sealed class BatchStore(
    BeaconDb db,
    BatchRows rows,
    ConventionReader conventions,
    BatchComposer composer,
    AuditLog auditLog,
    TimeProvider clock
)
{
    public static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    private const int Counted = 1_000;
    private const int GuessedFrom = 1_000;
    private const int Samples = 8;

    /// <summary>Takes a file in; without a recipe, that of the batch it follows or a kept one for the same headings is taken, else one is guessed.</summary>
    /// <exception cref="SheetException">It is no sheet.</exception>
    public async Task<Batch> TakeInAsync(
        string name,
        byte[] file,
        SheetReading reading,
        Recipe? recipe,
        Guid? follows,
        CancellationToken cancel
    )
    {
        var sheet = SheetFile.Open(file, reading, cancel);
        using var cells = sheet.Rows.GetEnumerator();
        var start = Taken(cells);
        var table = new Table(sheet.Headings, start);
        var earlier = await db
            .Batches.Where(b => b.Id == follows)
            .Select(b => new
            {
                b.Id,
                b.Recipe,
                b.Headings,
            })
            .SingleOrDefaultAsync(cancel);
        follows = earlier?.Id;
        if (recipe is null && earlier is not null && RecipeGuess.Fits(new Table(earlier.Headings, []).Names, table))
        {
            recipe = RecipeOf(earlier.Recipe);
        }

        recipe ??= BatchTemplate.RecipeOf(table, await conventions.ReadAsync(cancel));
        (recipe, bool guessed) = recipe is null ? await RecipeForAsync(table, cancel) : (await KeyedAsync(recipe, cancel), false);
        var batch = new Batch
        {
            Name = name,
            File = file,
            IsWorkbook = sheet.IsWorkbook,
            Encoding = sheet.Encoding,
            Separator = sheet.Form.Separator.ToString(),
            LineEnd = sheet.Form.LineEnd,
            AllQuoted = sheet.Form.AllQuoted,
            Sheet = sheet.Sheet,
            Sheets = [.. sheet.Sheets],
            Follows = follows,
            HeadingRow = sheet.HeadingRow,
            Headings = [.. sheet.Headings],
            Recipe = JsonSerializer.Serialize(recipe, Json),
            IsGuess = guessed,
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
            Revision = 1,
        };
        db.Batches.Add(batch);
        await KeepWithRowsAsync(batch, start.Concat(Left(cells)), cancel);
        return batch;
    }

    /// <summary>Reads the same file in another way; possible until its first run.</summary>
    /// <exception cref="SheetException">It is no sheet when read so.</exception>
    public async Task<Refusal?> ReadAgainAsync(Guid id, SheetReading reading, CancellationToken cancel)
    {
        if (await db.Batches.SingleOrDefaultAsync(b => b.Id == id, cancel) is not { } batch)
        {
            return Refusal.NotFound("batch");
        }

        if (await db.BatchRuns.AnyAsync(r => r.BatchId == id, cancel))
        {
            return Refusal.Conflict(
                "batch-ran",
                "Links were already created from this sheet; upload the file again to read it differently."
            );
        }

        var sheet = SheetFile.Open(batch.File, reading, cancel);
        using var cells = sheet.Rows.GetEnumerator();
        var start = Taken(cells);
        (batch.Encoding, batch.Sheet, batch.HeadingRow) = (sheet.Encoding, sheet.Sheet, sheet.HeadingRow);
        (batch.Separator, batch.LineEnd, batch.AllQuoted) = (sheet.Form.Separator.ToString(), sheet.Form.LineEnd, sheet.Form.AllQuoted);
        batch.Headings = [.. sheet.Headings];
        var (read, guessed) = await RecipeForAsync(new Table(sheet.Headings, start), cancel);
        (batch.Recipe, batch.IsGuess) = (JsonSerializer.Serialize(read, Json), guessed);
        batch.Revision++;

        await KeepWithRowsAsync(batch, start.Concat(Left(cells)), cancel);
        return null;
    }

    /// <summary>Keeps a changed recipe.</summary>
    public async Task<Refusal?> ChangeRecipeAsync(Guid id, RecipeChange change, CancellationToken cancel)
    {
        if (await db.Batches.SingleOrDefaultAsync(b => b.Id == id, cancel) is not { } batch)
        {
            return Refusal.NotFound("batch");
        }

        if (change.Recipe is null)
        {
            return Refusal.Invalid("recipe-missing", "There is no recipe; send it as “recipe”.");
        }

        if (batch.Revision != change.Revision)
        {
            return Refusal.Conflict(
                "changed-meanwhile",
                "Somebody else changed this batch meanwhile. Review their version, then make your change again."
            );
        }

        (batch.Recipe, batch.IsGuess) = (JsonSerializer.Serialize(await KeyedAsync(change.Recipe, cancel), Json), false);
        batch.Revision++;
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>A batch with everything but its rows; null when there is none.</summary>
    public async Task<BatchAnswer?> OneAsync(Guid id, CancellationToken cancel)
    {
        var batch = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new
            {
                b.Id,
                b.Name,
                b.Total,
                b.Headings,
                b.Recipe,
                b.IsGuess,
                b.Revision,
                b.IsWorkbook,
                b.Encoding,
                b.Separator,
                b.Sheet,
                b.Sheets,
                b.HeadingRow,
                b.Follows,
                b.CreatedBy,
                b.CreatedAt,
            })
            .SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return null;
        }

        var runs = await db.BatchRuns.AsNoTracking().Where(r => r.BatchId == id).OrderByDescending(r => r.Number).ToListAsync(cancel);
        var newest = runs.FirstOrDefault();

        // A run that is asked how far it is several times a second is not made to count its rows each time.
        var (outcomes, rules) = newest is { State: BatchState.Running }
            ? (
                new Dictionary<string, int>
                {
                    [RowOutcome.New] = newest.Made,
                    [RowOutcome.Existing] = newest.Used,
                    [RowOutcome.Changed] = newest.Changed,
                    [RowOutcome.Unchanged] = newest.Unchanged,
                    [RowOutcome.Stopped] = newest.Stopped,
                },
                []
            )
            : await rows.CountAsync(id, cancel);
        return new BatchAnswer(
            batch.Id,
            batch.Name,
            StateOf(newest),
            newest?.Done ?? 0,
            batch.Total,
            outcomes.GetValueOrDefault(RowOutcome.New)
                + outcomes.GetValueOrDefault(RowOutcome.Changed)
                + outcomes.GetValueOrDefault(RowOutcome.Unchanged),
            outcomes.GetValueOrDefault(RowOutcome.Stopped),
            rules,
            new Table(batch.Headings, []).Names,
            RecipeOf(batch.Recipe),
            batch.IsGuess,
            batch.Revision,
            new ReadingAnswer(batch.IsWorkbook, batch.Encoding, batch.Separator, batch.Sheet, batch.Sheets, batch.HeadingRow),
            outcomes,
            [
                .. runs.Select(r => new RunAnswer(
                    r.Number,
                    r.State,
                    r.Done,
                    r.Total,
                    r.Made,
                    r.Used,
                    r.Changed,
                    r.Unchanged,
                    r.Stopped,
                    r.Problem,
                    RecipeOf(r.Recipe),
                    r.StartedBy,
                    r.StartedAt,
                    r.EndedAt
                )),
            ],
            await EditAsync(id, takenBack: false, cancel),
            await EditAsync(id, takenBack: true, cancel),
            batch.Follows,
            batch.CreatedBy,
            batch.CreatedAt
        );
    }

    /// <summary>The edit that undo (or redo) would take, in a few words; null when there is none.</summary>
    private async Task<string?> EditAsync(Guid id, bool takenBack, CancellationToken cancel)
    {
        var edits = db.SheetEdits.Where(e => e.BatchId == id && e.TakenBack == takenBack);
        var edit = await (takenBack ? edits.OrderBy(e => e.Number) : edits.OrderByDescending(e => e.Number))
            .Select(e => new { e.Says, e.By })
            .FirstOrDefaultAsync(cancel);
        return edit is null ? null
            : edit.By == auditLog.Who ? edit.Says
            : $"{edit.Says}, by {edit.By}";
    }

    /// <summary>Every batch, newest first.</summary>
    public async Task<List<BatchSummary>> ListAsync(CancellationToken cancel)
    {
        var batches = await db
            .Batches.AsNoTracking()
            .OrderByDescending(b => b.CreatedAt)
            .Take(500)
            .Select(b => new
            {
                b.Id,
                b.Name,
                b.Total,
                b.CreatedBy,
                b.CreatedAt,
                Run = b.Runs.OrderByDescending(r => r.Number).FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return
        [
            .. batches.Select(b => new BatchSummary(
                b.Id,
                b.Name,
                StateOf(b.Run),
                b.Run?.Done ?? 0,
                b.Total,
                b.CreatedBy,
                b.CreatedAt,
                b.Run?.StartedAt
            )),
        ];
    }

    /// <summary>Rows with what would come of each now; null when there is no such batch.</summary>
    public async Task<BatchRowsAnswer?> RowsAsync(
        Guid id,
        string? outcome,
        string? rule,
        RowOrder order,
        int skip,
        int most,
        CancellationToken cancel
    )
    {
        var batch = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new
            {
                b.Recipe,
                b.Headings,
                b.Total,
            })
            .SingleOrDefaultAsync(cancel);
        if (batch is null)
        {
            return null;
        }

        var found =
            outcome is null && rule is null && order == default
                ? await rows.ReadAsync(id, skip, most, cancel)
                : await rows.FindAsync(id, outcome, rule, order, skip, most, cancel);
        int total = batch.Total;
        if (outcome is not null || rule is not null)
        {
            var (outcomes, rules) = await rows.CountAsync(id, cancel);
            total = outcome is not null ? outcomes.GetValueOrDefault(outcome) : rules.GetValueOrDefault(rule!);
        }

        var (recipe, headings) = (RecipeOf(batch.Recipe), new Table(batch.Headings, []));
        var worked = await composer.WorkAsync(recipe, headings, found, cancel);
        return new BatchRowsAnswer([.. worked.Select(w => AnswerOf(w, recipe, headings))], total);
    }

    /// <summary>Counts what a run would do, row by row, and keeps it for filters.</summary>
    public async IAsyncEnumerable<CountProgress> CountAsync(
        Guid id,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        var batch = await db
            .Batches.AsNoTracking()
            .Where(b => b.Id == id)
            .Select(b => new
            {
                b.Recipe,
                b.Headings,
                b.Total,
            })
            .SingleAsync(cancel);
        var recipe = RecipeOf(batch.Recipe);
        var headings = new Table(batch.Headings, []);
        var outcomes = new Dictionary<string, int>();
        var rules = new Dictionary<string, RuleCount>();
        var samples = new List<CountSample>();
        int done = 0,
            differing = 0;
        yield return new CountProgress(0, batch.Total, null);
        while (await rows.ReadAsync(id, done, Counted, cancel) is { Count: > 0 } some)
        {
            var worked = await composer.WorkAsync(recipe, headings, some, cancel);
            foreach (var row in worked)
            {
                outcomes[row.Outcome] = outcomes.GetValueOrDefault(row.Outcome) + 1;
                foreach (
                    var notice in (row.Worked?.Composed.Notices ?? [])
                        .Where(n => n.Severity != Core.Notices.Severity.Info)
                        .DistinctBy(n => n.Rule)
                )
                {
                    rules[notice.Rule] = rules.TryGetValue(notice.Rule, out var known)
                        ? known with
                        {
                            Rows = known.Rows + 1,
                        }
                        : new RuleCount(notice.Rule, notice.Severity, 1, notice.Message);
                }

                differing += row.Differs ? 1 : 0;
                if (
                    row.Outcome is not RowOutcome.Empty
                    && (row.Outcome is not RowOutcome.Unchanged || row.Differs)
                    && samples.Count(s => s.Outcome == row.Outcome) < Samples
                )
                {
                    samples.Add(
                        new CountSample(
                            row.Row.Number,
                            row.Outcome,
                            row.Row.Url ?? row.Request.Destination,
                            row.Worked?.Composed.Tagged?.Url,
                            row.Says
                        )
                    );
                }
            }

            await rows.KeepAsync(id, [.. worked.Select(w => w.Result())], cancel);
            done = some[^1].Number;
            yield return new CountProgress(done, batch.Total, null);
        }

        yield return new CountProgress(
            batch.Total,
            batch.Total,
            new CountAnswer(
                outcomes,
                [.. rules.Values.OrderByDescending(r => r.Severity).ThenByDescending(r => r.Rows)],
                samples,
                differing
            )
        );
    }

    public static Recipe RecipeOf(string json) => JsonSerializer.Deserialize<Recipe>(json, Json)!;

    private static BatchStage StateOf(BatchRun? run) =>
        run?.State switch
        {
            null => BatchStage.Draft,
            BatchState.Running => BatchStage.Running,
            BatchState.Finished => BatchStage.Finished,
            BatchState.Cancelled => BatchStage.Cancelled,
            _ => BatchStage.Broken,
        };

    private static BatchRowAnswer AnswerOf(WorkedRow row, Recipe recipe, Table headings)
    {
        var composed = row.Worked?.Composed;
        string? link =
            row.Outcome == RowOutcome.Unchanged ? row.Row.Url
            : composed is { Ready: true } ? composed.Tagged?.Url
            : null;
        return new BatchRowAnswer(
            row.Row.Number,
            row.Row.Cells,
            row.Row.Overrides ?? [],
            AskedOf(row.Request),
            row.Outcome,
            row.Row.Url,
            composed?.Tagged?.Url,
            composed?.Tagged?.Strip ?? [],
            composed?.Fields.Where(f => f.Value.Length > 0).ToDictionary(f => f.Key, f => f.Value) ?? [],
            composed?.Notices
                ?? (
                    row.Problem is { } problem ? [new Core.Notices.Notice("recipe-column", Core.Notices.Severity.Error, null, problem)] : []
                ),
            row.Row.LinkId,
            link is not null && TypedText.OrNull(recipe.LinkText) is { } text
                ? RowRequest.TextOf(text, headings, row.Row.Cells, link)
                : null
        );
    }

    /// <summary>Fields of a recipe by their keys, where they were called by their labels.</summary>
    private async Task<Recipe> KeyedAsync(Recipe recipe, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        return recipe with
        {
            Fields = recipe
                .Fields.DistinctBy(f => convention.Find(f.Key)?.Key ?? f.Key)
                .ToDictionary(f => convention.Find(f.Key)?.Key ?? f.Key, f => f.Value),
        };
    }

    /// <summary>The first rows, which a recipe is guessed from.</summary>
    private static List<IReadOnlyList<string>> Taken(IEnumerator<IReadOnlyList<string>> rows)
    {
        var start = new List<IReadOnlyList<string>>();
        while (start.Count < GuessedFrom && rows.MoveNext())
        {
            start.Add(rows.Current);
        }

        return start;
    }

    private static IEnumerable<IReadOnlyList<string>> Left(IEnumerator<IReadOnlyList<string>> rows)
    {
        while (rows.MoveNext())
        {
            yield return rows.Current;
        }
    }

    /// <summary>A sheet and its rows are there together or not at all.</summary>
    private async Task KeepWithRowsAsync(Batch batch, IEnumerable<IReadOnlyList<string>> cells, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.SaveChangesAsync(cancel);

        // What was typed belonged to rows as they were read before.
        await db.SheetEdits.Where(e => e.BatchId == batch.Id).ExecuteDeleteAsync(cancel);
        batch.Total = await BatchRows.WriteAsync(batch.Id, cells, (NpgsqlConnection)db.Database.GetDbConnection(), cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static Dictionary<string, string> AskedOf(RowRequest request) =>
        new(request.Fields)
        {
            ["destination"] = request.Destination,
            ["placement"] = request.Placement ?? "",
            ["campaign"] = request.Campaign ?? "",
            [RowRequest.TitleName] = request.Title ?? "",
        };

    /// <summary>The newest saved recipe for such headings, which somebody has checked already, or else a guess.</summary>
    private async Task<(Recipe Recipe, bool IsGuess)> RecipeForAsync(Table table, CancellationToken cancel)
    {
        var kept = (await db.SavedRecipes.AsNoTracking().OrderByDescending(r => r.SavedAt).ToListAsync(cancel)).FirstOrDefault(r =>
            RecipeGuess.Fits(r.Headings, table)
        );
        return kept is not null
            ? (RecipeOf(kept.Recipe), false)
            : (
                RecipeGuess.Of(
                    table,
                    await conventions.ReadAsync(cancel),
                    await db.Placements.Where(p => p.RetiredAt == null).Select(p => p.Name).ToListAsync(cancel),
                    await db.Campaigns.Where(c => c.ArchivedAt == null).Select(c => c.Name).ToListAsync(cancel)
                ),
                true
            );
    }
}
