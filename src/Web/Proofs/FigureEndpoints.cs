using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Imports;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Other systems' figures from files, set beside ours, and what the names in them mean.</summary>
public static class FigureEndpoints
{
    private const int UsualDays = 28;
    private const int LongestText = 2_000;

    public static void MapFigures(this IEndpointRouteBuilder app)
    {
        var imports = app.MapGroup("/api/v1/imports/figures").WithTags("Proof");
        imports
            .MapPost("", TakeAsync)
            .WithName("ImportFigures")
            .WithSummary("Imports another system's figures by day from a CSV or XLSX file; can show first what it would take.")
            .WithDescription(
                "A form (multipart) with the file as “file” and, where the headings don't say it all, a “recipe” as JSON that names the columns: {\"day\", \"shown\", \"sent\", \"delivered\", \"opened\", \"clicks\", \"visits\", \"conversions\", \"link\", \"campaign\", \"placement\", \"values\": {key: column}, \"decimal\", \"dayFirst\"}. A day of the same target and system that was imported before is replaced."
            )
            .For(Caller.Builders)
            .TakesSheet();
        imports
            .MapGet("", (FigureImporter importer, CancellationToken cancel) => importer.ListAsync(cancel))
            .WithName("ListFigureImports")
            .WithSummary("Lists imports of other systems' figures, the newest first, with how far those are that go on.")
            .For(Caller.Readers)
            .Produces<List<FigureImportRow>>();
        imports
            .MapPost("/{id:guid}/undo", (Guid id, FigureImporter importer, CancellationToken cancel) =>
                importer.UndoAsync(id, true, cancel)
            )
            .WithName("UndoFigureImport")
            .WithSummary("Takes the figures of an import out of what is compared; what it replaced counts again.")
            .For(Caller.Builders);
        imports
            .MapPost("/{id:guid}/redo", (Guid id, FigureImporter importer, CancellationToken cancel) =>
                importer.UndoAsync(id, false, cancel)
            )
            .WithName("RedoFigureImport")
            .WithSummary("Puts the figures of an undone import back.")
            .For(Caller.Builders);

        var figures = app.MapGroup("/api/v1/figures").WithTags("Proof");
        figures
            .MapGet("", ReadAsync)
            .WithName("ReconcileFigures")
            .WithSummary("Sets other systems' figures beside ours of the same days, and says why they differ.")
            .For(Caller.Readers);
        figures
            .MapPost("/names", NameAsync)
            .WithName("NameFigures")
            .WithSummary("Says what a name in a system's files means; it is remembered for files to come.")
            .For(Caller.Builders);
        figures
            .MapPost("/names/forget", ForgetAsync)
            .WithName("ForgetFigureName")
            .WithSummary("Forgets what a name in a system's files means.")
            .For(Caller.Builders);
    }

    private static async Task<Outcome<FigureImportAnswer>> TakeAsync(
        HttpContext context,
        FigureImporter importer,
        CancellationToken cancel,
        string system = "",
        bool dry = false
    )
    {
        var sent = await SheetUploads.ReadAsync<FigureRecipe>(context, "figures", cancel);
        return sent.Refusal is { } refusal
            ? refusal
            : await importer.TakeAsync(sent.Value!.Table, sent.Value.Name, system, sent.Value.Recipe, dry, cancel);
    }

    private static async Task<Outcome<ReconcileAnswer>> ReadAsync(
        BeaconDb db,
        FigureBook book,
        ReconcileReader reader,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, workspace.TimeZone);
        var last = to ?? await book.LastDayAsync(workspace.Id, cancel) ?? today;
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from ?? last.AddDays(1 - UsualDays), last, "", null);
        if (request is null)
        {
            return refusal!;
        }

        var convention = await conventions.ReadAsync(cancel);
        var read = await reader.ReadAsync(workspace, convention, request.From, request.To, now, cancel);
        return ReconcileAnswer.Of(request.From, request.To, read);
    }

    private static async Task<Refusal?> NameAsync(
        FigureName name,
        BeaconDb db,
        FigureNameBook book,
        NamedTargetReader names,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (name.Refused() is { } refusal)
        {
            return refusal;
        }

        if (name.Link?.Trim() is { Length: > 0 } link)
        {
            var matcher = new TargetMatcher(await names.ReadAsync(db.CurrentWorkspaceId!.Value, [link], cancel));
            var match = matcher.Match(new NamedTarget(link, "", "", new Dictionary<string, string>()));
            if (match.Problem is { } problem)
            {
                return Refusal.Invalid("link-unknown", ImportProblemText.Of(problem, link));
            }

            name = name with { Part = TargetPart.Link, Id = match.Target!.LinkId };
        }

        bool isThere =
            name.Id is not { } id
            || await (
                name.Part switch
                {
                    TargetPart.Link => db.Links.AnyAsync(l => l.Id == id, cancel),
                    TargetPart.Campaign => db.Campaigns.AnyAsync(c => c.Id == id, cancel),
                    _ => db.Placements.AnyAsync(p => p.Id == id, cancel),
                }
            );
        if (!isThere)
        {
            return Refusal.NotFound(name.Part.ToString().ToLowerInvariant());
        }

        var workspaceId = db.CurrentWorkspaceId!.Value;
        await book.RememberAsync(
            workspaceId,
            [new FigureMatch(name.System, name.Part, name.Text, name.Id, clock.GetUtcNow(), auditLog.Who)],
            cancel
        );
        auditLog.Add("figure-name", workspaceId, before: null, name);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static async Task<Refusal?> ForgetAsync(
        FigureName name,
        BeaconDb db,
        FigureNameBook book,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        if (name.Refused() is { } refusal)
        {
            return refusal;
        }

        var workspaceId = db.CurrentWorkspaceId!.Value;
        if (!await book.ForgetAsync(workspaceId, name.System, name.Part, name.Text, cancel))
        {
            return Refusal.NotFound("name");
        }

        auditLog.Add("figure-name", workspaceId, name, after: null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static Refusal? Refused(this FigureName name) =>
        name is { System.Length: > 0, Text.Length: > 0 and <= LongestText } && Enum.IsDefined(name.Part)
            ? null
            : Refusal.Invalid(
                "name-refused",
                "Name the “system”, the “part” (link, campaign or placement), and the “text” as it stands in the file."
            );
}

/// <summary>What a name in a system's files means.</summary>
/// <param name="System">The system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name as it stands in the file.</param>
/// <param name="Id">The link, campaign or placement it means; null to leave rows with it out.</param>
/// <param name="Link">Instead of a link's id: its short URL, URL or title; null for none.</param>
public sealed record FigureName(string System, TargetPart Part, string Text, Guid? Id = null, string? Link = null);

/// <summary>Other systems' figures beside ours.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Count">How many figures are compared in all.</param>
/// <param name="Figures">At most 200, those worth looking into and with the largest difference first.</param>
/// <param name="UnmatchedCount">How many names mean nothing known.</param>
/// <param name="Unmatched">At most 200 of them, those of most rows first.</param>
/// <param name="Named">What somebody said names mean, the newest first.</param>
public sealed record ReconcileAnswer(
    DateOnly From,
    DateOnly To,
    int Count,
    IReadOnlyList<ReconciledAnswer> Figures,
    int UnmatchedCount,
    IReadOnlyList<UnmatchedNameAnswer> Unmatched,
    IReadOnlyList<MatchedNameAnswer> Named
)
{
    internal static ReconcileAnswer Of(DateOnly from, DateOnly to, Reconciled read) =>
        new(
            from,
            to,
            read.Count,
            [
                .. read.Figures.Select(f => new ReconciledAnswer(
                    f.Key,
                    f.System,
                    f.Target.LinkId,
                    f.Target.CampaignId,
                    f.Target.PlacementId,
                    f.Called,
                    f.Gap.Kind,
                    f.Gap.Beside,
                    f.Gap.Theirs,
                    f.Gap.Ours,
                    f.Gap.Gap,
                    f.Gap.Verdict,
                    f.Gap.Causes,
                    f.Gap.Likeliest?.Kind,
                    f.Theirs,
                    [.. f.Theirs.Shares()],
                    f.From,
                    f.To,
                    f.Weeks
                )),
            ],
            read.UnmatchedCount,
            [
                .. read.Unmatched.Select(u => new UnmatchedNameAnswer(
                    u.System,
                    u.Part,
                    u.Text,
                    u.Rows,
                    ImportProblemText.Of(u.Problem, u.Text),
                    u.LikelyId,
                    u.Likely
                )),
            ],
            [
                .. read
                    .Matches.Where(m => m.MadeBy.Length > 0)
                    .OrderByDescending(m => m.MadeAt)
                    .Select(m => new MatchedNameAnswer(m.System, m.Part, m.Text, m.Id, m.MadeBy, m.MadeAt)),
            ]
        );
}

/// <summary>One figure of another system beside ours.</summary>
/// <param name="Key">The same for the same system, target and kind.</param>
/// <param name="System">The other system.</param>
/// <param name="LinkId">The link it is about; null for none.</param>
/// <param name="CampaignId">The campaign it is about; null for none.</param>
/// <param name="PlacementId">The placement it is about; null for none.</param>
/// <param name="Called">What it is about, by name: link, campaign, placement and values; at least one.</param>
/// <param name="Kind">What they count.</param>
/// <param name="Beside">What of ours stands beside it.</param>
/// <param name="Theirs">What they count.</param>
/// <param name="Ours">What was found here on the same days.</param>
/// <param name="Gap">Share of theirs that is missing here; negative where ours are more, null where theirs are 0.</param>
/// <param name="Verdict">What is to be said of it.</param>
/// <param name="Causes">Likely causes, those with the most evidence first.</param>
/// <param name="Likeliest">The cause that explains the most; null where nothing is missing.</param>
/// <param name="All">All of their figures.</param>
/// <param name="Shares">What their figures say of one another.</param>
/// <param name="From">The first day they have a figure of.</param>
/// <param name="To">The last one.</param>
/// <param name="Weeks">The gap week by week, the oldest first.</param>
public sealed record ReconciledAnswer(
    string Key,
    string System,
    Guid? LinkId,
    Guid? CampaignId,
    Guid? PlacementId,
    IReadOnlyList<string> Called,
    FigureKind Kind,
    FigureKind Beside,
    decimal Theirs,
    decimal Ours,
    double? Gap,
    FigureVerdict Verdict,
    IReadOnlyList<FigureCause> Causes,
    FigureCauseKind? Likeliest,
    OtherFigures All,
    IReadOnlyList<FigureShare> Shares,
    DateOnly From,
    DateOnly To,
    IReadOnlyList<FigureWeek> Weeks
);

/// <summary>A name in another system's files that means nothing known.</summary>
/// <param name="System">The other system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Rows">Figures by day that wait for it.</param>
/// <param name="Says">Why it means nothing, as a sentence.</param>
/// <param name="LikelyId">The campaign or placement it probably means; null where none is near.</param>
/// <param name="Likely">What that is called.</param>
public sealed record UnmatchedNameAnswer(
    string System,
    TargetPart Part,
    string Text,
    int Rows,
    string Says,
    Guid? LikelyId,
    string? Likely
);

/// <summary>What somebody said a name means.</summary>
/// <param name="System">The system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Id">What it means; null where rows with it are left out.</param>
/// <param name="MadeBy">Who said so.</param>
/// <param name="MadeAt">When.</param>
public sealed record MatchedNameAnswer(string System, TargetPart Part, string Text, Guid? Id, string MadeBy, DateTimeOffset MadeAt);
