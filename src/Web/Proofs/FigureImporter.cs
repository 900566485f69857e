using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Imports;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Reads files of other systems' figures: what each row says, what it is about, and why it is left out.</summary>
public sealed class FigureImporter(
    BeaconDb db,
    FigureBook book,
    FigureNameBook nameBook,
    NamedTargetReader names,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    TimeProvider clock
)
{
    private const int LongestSystem = 80;

    /// <summary>Longer names are of nothing that can be found; they are cut.</summary>
    private const int LongestText = 2_000;

    private const string What = "figure-import";

    /// <summary>Shows what a file says, or keeps it.</summary>
    public async Task<Outcome<FigureImportAnswer>> TakeAsync(
        Table table,
        string name,
        string system,
        FigureRecipe? asked,
        bool dry,
        CancellationToken cancel
    )
    {
        system = system.Trim();
        if (system.Length > LongestSystem || (system.Length == 0 && !dry))
        {
            return Refusal.Invalid("system-missing", $"Say which system the figures are of, in at most {LongestSystem} characters.");
        }

        var workspace = await workspaces.ReadAsync(cancel);
        var convention = await conventions.ReadAsync(cancel);
        var recipe = asked ?? FigureRecipe.Guess(table, convention);
        if (RecipeCheck.Refused(recipe.MissingIn(table), recipe.Decimal, recipe.Values, convention) is { } refusal)
        {
            return refusal;
        }

        var rows = FigureSheet.Read(table, recipe, convention, workspaces.TodayIn(workspace)).ToList();
        var kept = rows.Where(r => r.Problem is null).ToList();
        var figures = kept.Select(r => r with { Target = Cut(r.Target) })
            .GroupBy(r => (r.Target.Key, r.Day))
            .Select(g => new FigureOfDay(
                system,
                g.First().Target,
                g.Key.Day!.Value,
                g.Aggregate(default(OtherFigures), (sum, r) => sum.Plus(r.Figures)),
                g.Count()
            ))
            .ToList();
        var (unmatched, matches) = await MatchAsync(workspace.Id, system, figures, cancel);
        var skipped = rows.Where(r => r.Problem is not null).GroupBy(r => r.Problem!.Value).ToDictionary(g => g.Key, g => g.Count());
        DateOnly? first = figures.Count == 0 ? null : figures.Min(f => f.Day),
            last = figures.Count == 0 ? null : figures.Max(f => f.Day);
        Guid? id = null;
        if (!dry && figures.Count > 0)
        {
            var now = clock.GetUtcNow();
            var import = new FigureImport(
                Guid.CreateVersion7(now),
                system,
                name,
                rows.Count,
                0,
                kept.Count,
                skipped,
                first,
                last,
                now,
                auditLog.Who
            );
            await book.BeginAsync(workspace.Id, import, recipe, cancel);
            await book.StoreAsync(workspace.Id, import, figures, clock, cancel);
            await nameBook.RememberAsync(workspace.Id, matches, cancel);
            auditLog.Add(
                What,
                import.Id,
                before: null,
                new
                {
                    system,
                    name,
                    kept = kept.Count,
                }
            );
            await db.SaveChangesAsync(cancel);
            id = import.Id;
        }

        return new FigureImportAnswer(
            id,
            system,
            rows.Count,
            kept.Count,
            ImportProblemText.Skipped(skipped),
            first,
            last,
            figures.Aggregate(default(OtherFigures), (sum, f) => sum.Plus(f.Figures)),
            RefusedRow.Of(rows.Select(r => (r.Number, r.Problem, r.About))),
            unmatched.Count,
            [.. unmatched.Take(RefusedRow.Most)],
            recipe,
            table.Names
        );
    }

    /// <summary>The imports of the workspace, the newest first; those that go on too.</summary>
    public async Task<List<FigureImportRow>> ListAsync(CancellationToken cancel) =>
        (await book.ListAsync(db.CurrentWorkspaceId!.Value, clock.GetUtcNow(), cancel)).ConvertAll(i => new FigureImportRow(
            i.Id,
            i.System,
            i.Name,
            i.Lines,
            i.Done,
            i.Kept,
            i.FirstDay,
            i.LastDay,
            i.MadeAt,
            i.MadeBy,
            i.FinishedAt,
            i.UndoneAt,
            i.UndoneBy
        ));

    /// <summary>Takes an import out of what is compared, or puts it back.</summary>
    public async Task<Refusal?> UndoAsync(Guid id, bool undo, CancellationToken cancel)
    {
        if (!await book.UndoAsync(db.CurrentWorkspaceId!.Value, id, undo, clock.GetUtcNow(), auditLog.Who, cancel))
        {
            return Refusal.NotFound("import");
        }

        auditLog.Add(What, id, new { undone = !undo }, new { undone = undo });
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Names that mean nothing known, and what the others were found to mean, so that a new name in the plan changes nothing.</summary>
    private async Task<(List<UnmatchedFigureName> Unmatched, List<FigureMatch> Matches)> MatchAsync(
        Guid workspaceId,
        string system,
        List<FigureOfDay> figures,
        CancellationToken cancel
    )
    {
        var known = FigureNameBook.CorrectionsOf((await nameBook.ReadAsync(workspaceId, cancel)).Where(m => m.System == system));
        var targets = figures.Select(f => f.Target).DistinctBy(t => t.Key).ToList();
        var matcher = new TargetMatcher(
            await names.ReadAsync(
                db.CurrentWorkspaceId!.Value,
                targets.Select(t => t.Link).Where(l => !known.ContainsKey((TargetPart.Link, l))),
                cancel
            ),
            known
        );
        var unmatched = new Dictionary<(TargetPart Part, string Text), ImportProblem>();
        var matches = new Dictionary<(TargetPart Part, string Text), Guid>();
        foreach (var target in targets)
        {
            var match = matcher.Match(target);
            if (match is { Problem: { } problem, Part: { } part })
            {
                unmatched.TryAdd((part, match.About), problem);
            }

            Remember(TargetPart.Link, target.Link, match.Target?.LinkId);
            Remember(TargetPart.Campaign, target.Campaign, match.Target?.CampaignId);
            Remember(TargetPart.Placement, target.Placement, match.Target?.PlacementId);
        }

        var now = clock.GetUtcNow();
        return (
            [
                .. unmatched.Select(u => new UnmatchedFigureName(
                    u.Key.Part,
                    u.Key.Text,
                    ImportProblemText.Of(u.Value, u.Key.Text),
                    matcher.Likely(u.Key.Part, u.Key.Text)?.Name
                )),
            ],
            [.. matches.Select(m => new FigureMatch(system, m.Key.Part, m.Key.Text, m.Value, now, ""))]
        );

        void Remember(TargetPart part, string text, Guid? id)
        {
            if (id is { } found && !known.ContainsKey((part, text)))
            {
                matches.TryAdd((part, text), found);
            }
        }
    }

    private static NamedTarget Cut(NamedTarget target) =>
        target with
        {
            Link = Cut(target.Link),
            Campaign = Cut(target.Campaign),
            Placement = Cut(target.Placement),
        };

    private static string Cut(string text) =>
        (text.Length > LongestText ? text[..LongestText] : text).Replace("\0", "", StringComparison.Ordinal);
}

/// <summary>What came of a file of another system's figures.</summary>
/// <param name="Id">The import; null where nothing was kept.</param>
/// <param name="System">What the other system is called.</param>
/// <param name="Read">Rows read, empty ones left out.</param>
/// <param name="Kept">Rows whose figures count, or would, once their names mean something.</param>
/// <param name="Skipped">Rows left out, by why.</param>
/// <param name="FirstDay">The first day with a figure; null without any.</param>
/// <param name="LastDay">The last day with a figure; null without any.</param>
/// <param name="Totals">All figures together.</param>
/// <param name="Rows">The first 200 rows left out.</param>
/// <param name="UnmatchedCount">Names that mean nothing known.</param>
/// <param name="Unmatched">The first 200 of them.</param>
/// <param name="Recipe">How the file was read.</param>
/// <param name="Columns">The columns it has, by name.</param>
public sealed record FigureImportAnswer(
    Guid? Id,
    string System,
    int Read,
    int Kept,
    IReadOnlyDictionary<string, int> Skipped,
    DateOnly? FirstDay,
    DateOnly? LastDay,
    OtherFigures Totals,
    IReadOnlyList<RefusedRow> Rows,
    int UnmatchedCount,
    IReadOnlyList<UnmatchedFigureName> Unmatched,
    FigureRecipe Recipe,
    IReadOnlyList<string> Columns
);

/// <summary>A name in a file that means nothing known yet.</summary>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Says">Why, as a sentence.</param>
/// <param name="Likely">What it probably means; null where nothing is near.</param>
public sealed record UnmatchedFigureName(TargetPart Part, string Text, string Says, string? Likely);

/// <summary>An import of another system's figures.</summary>
/// <param name="System">What the other system is called.</param>
/// <param name="Name">The file's name.</param>
/// <param name="Read">Rows read.</param>
/// <param name="Done">Rows that are through so far.</param>
/// <param name="Kept">Rows whose figures count; 0 while it goes on.</param>
/// <param name="FirstDay">The first day with a figure; null while it goes on.</param>
/// <param name="LastDay">The last day with a figure; null while it goes on.</param>
/// <param name="MadeAt">When it began.</param>
/// <param name="MadeBy">Who began it.</param>
/// <param name="FinishedAt">When it was through; null while it goes on.</param>
/// <param name="UndoneAt">When it was undone; null where it counts.</param>
/// <param name="UndoneBy">Who undid it.</param>
public sealed record FigureImportRow(
    Guid Id,
    string System,
    string Name,
    int Read,
    int Done,
    int Kept,
    DateOnly? FirstDay,
    DateOnly? LastDay,
    DateTimeOffset MadeAt,
    string MadeBy,
    DateTimeOffset? FinishedAt,
    DateTimeOffset? UndoneAt,
    string? UndoneBy
);
