using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Costs;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Imports;

namespace PreciseBeacon.Web.Costs;

/// <summary>Reads files of costs: what each row says, what it belongs to, and why it is left out.</summary>
public sealed class CostImporter(
    BeaconDb db,
    CostImports imports,
    NamedTargetReader names,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const string What = "cost-import";

    /// <summary>Shows what a file says, or keeps it.</summary>
    public async Task<Outcome<CostImportAnswer>> TakeAsync(Table table, string name, CostRecipe? asked, bool dry, CancellationToken cancel)
    {
        var workspace = await workspaces.ReadAsync(cancel);
        var convention = await conventions.ReadAsync(cancel);
        var recipe = asked ?? CostRecipe.Guess(table, convention);
        if (RecipeCheck.Refused(recipe.MissingIn(table), recipe.Decimal, recipe.Values, convention) is { } refusal)
        {
            return refusal;
        }

        if (recipe.InCurrency is { } code && !Currencies.IsKnown(code))
        {
            return Refusal.Invalid("recipe-refused", "“inCurrency” is an ISO 4217 code such as EUR.");
        }

        var rows = CostSheet.Read(table, recipe, convention, workspace.Currency, workspaces.TodayIn(workspace)).ToList();
        var read = await ResolvedAsync(rows, cancel);
        var kept = read.Where(r => r.Row.Problem is null).ToList();
        var costs = kept.GroupBy(r => (r.Target!.Key, r.Row.Day, r.Row.Currency))
            .Select(g => new CostOfDay(g.First().Target!, g.Key.Day!.Value, g.Key.Currency, g.Sum(r => r.Row.Amount!.Value)))
            .ToList();
        var skipped = read.Where(r => r.Row.Problem is not null)
            .GroupBy(r => r.Row.Problem!.Value)
            .ToDictionary(g => g.Key, g => g.Count());
        var totals = costs.GroupBy(c => c.Currency).ToDictionary(g => g.Key, g => g.Sum(c => c.Amount));
        var id = Guid.CreateVersion7();
        if (!dry && costs.Count > 0)
        {
            var import = new CostImport(
                id,
                name,
                rows.Count,
                kept.Count,
                skipped,
                totals,
                costs.Min(c => c.Day),
                costs.Max(c => c.Day),
                clock.GetUtcNow(),
                auditLog.Who,
                UndoneAt: null,
                UndoneBy: null
            );
            await imports.AddAsync(workspace.Id, import, recipe, costs, cancel);
            auditLog.Add(What, id, null, new { import.Name, import.Kept });
            await db.SaveChangesAsync(cancel);
        }

        return new CostImportAnswer(
            dry || costs.Count == 0 ? null : id,
            rows.Count,
            kept.Count,
            ImportProblemText.Skipped(skipped),
            [.. totals.OrderBy(t => t.Key, StringComparer.Ordinal).Select(t => Money.Of(t.Value, t.Key))],
            costs.Count == 0 ? null : costs.Min(c => c.Day),
            costs.Count == 0 ? null : costs.Max(c => c.Day),
            RefusedRow.Of(read.Select(r => (r.Row.Number, r.Row.Problem, r.Row.About))),
            recipe,
            table.Names
        );
    }

    /// <summary>The imports of the workspace, the newest first.</summary>
    public async Task<List<CostImportRow>> ListAsync(CancellationToken cancel) =>
        (await imports.ListAsync(db.CurrentWorkspaceId!.Value, cancel)).ConvertAll(i => new CostImportRow(
            i.Id,
            i.Name,
            i.Lines,
            i.Kept,
            [.. i.Totals.OrderBy(t => t.Key, StringComparer.Ordinal).Select(t => Money.Of(t.Value, t.Key))],
            i.FirstDay,
            i.LastDay,
            i.MadeAt,
            i.MadeBy,
            i.UndoneAt,
            i.UndoneBy
        ));

    /// <summary>Takes an import out of all figures, or puts it back.</summary>
    public async Task<Refusal?> UndoAsync(Guid id, bool undo, CancellationToken cancel)
    {
        if (!await imports.UndoAsync(db.CurrentWorkspaceId!.Value, id, undo, clock.GetUtcNow(), auditLog.Who, cancel))
        {
            return Refusal.NotFound("import");
        }

        auditLog.Add(What, id, new { undone = !undo }, new { undone = undo });
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>What each row belongs to; rows that belong to nothing known are left out.</summary>
    private async Task<List<(CostRow Row, ImportTarget? Target)>> ResolvedAsync(List<CostRow> rows, CancellationToken cancel)
    {
        var matcher = new TargetMatcher(
            await names.ReadAsync(db.CurrentWorkspaceId!.Value, rows.Where(r => r.Problem is null).Select(r => r.Target.Link), cancel)
        );
        return rows.ConvertAll(row =>
        {
            if (row.Problem is not null)
            {
                return (row, (ImportTarget?)null);
            }

            var match = matcher.Match(row.Target);
            return match.Problem is { } problem ? (row.Refused(problem, match.About), null) : (row, match.Target);
        });
    }
}

/// <summary>What came of a file of costs.</summary>
/// <param name="Id">The import; null where nothing was kept.</param>
/// <param name="Read">Rows read, empty ones left out.</param>
/// <param name="Kept">Rows whose costs count, or would.</param>
/// <param name="Skipped">Rows left out, by why.</param>
/// <param name="Totals">Money kept, by currency.</param>
/// <param name="FirstDay">The first day with a cost; null without any.</param>
/// <param name="LastDay">The last day with a cost; null without any.</param>
/// <param name="Rows">The first 200 rows left out.</param>
/// <param name="Recipe">How the file was read.</param>
/// <param name="Columns">The columns it has, by name.</param>
public sealed record CostImportAnswer(
    Guid? Id,
    int Read,
    int Kept,
    IReadOnlyDictionary<string, int> Skipped,
    IReadOnlyList<Money> Totals,
    DateOnly? FirstDay,
    DateOnly? LastDay,
    IReadOnlyList<RefusedRow> Rows,
    CostRecipe Recipe,
    IReadOnlyList<string> Columns
);

/// <summary>An import of costs.</summary>
/// <param name="Name">The file's name.</param>
/// <param name="Read">Rows read.</param>
/// <param name="Kept">Rows whose costs count.</param>
/// <param name="Totals">Money kept, by currency.</param>
/// <param name="FirstDay">The first day with a cost.</param>
/// <param name="LastDay">The last day with a cost.</param>
/// <param name="MadeAt">When it was imported.</param>
/// <param name="MadeBy">Who did.</param>
/// <param name="UndoneAt">When it was undone; null where it counts.</param>
/// <param name="UndoneBy">Who undid it.</param>
public sealed record CostImportRow(
    Guid Id,
    string Name,
    int Read,
    int Kept,
    IReadOnlyList<Money> Totals,
    DateOnly FirstDay,
    DateOnly LastDay,
    DateTimeOffset MadeAt,
    string MadeBy,
    DateTimeOffset? UndoneAt,
    string? UndoneBy
);
