using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Tags in the traffic that the convention does not know: found, assigned, and assigned no longer.</summary>
public static class StrayEndpoints
{
    private const int UsualDays = 90;
    private const int MostGroups = 200;
    private const int MostInside = 100;
    private const int MostEffects = 200;
    private const string What = "stray";

    public static void MapStrays(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/strays").WithTags("Proof");
        group
            .MapGet("", ReadAsync)
            .WithName("ReadStrays")
            .WithSummary(
                "Lists tags of a range that the convention does not know, grouped by what they probably mean, and what is assigned."
            )
            .For(Caller.Readers);
        group
            .MapPost("/effect", EffectAsync)
            .WithName("ReadStrayEffect")
            .WithSummary("Says what the reports would say before and after some assignments; nothing is saved.")
            .For(Caller.Readers);
        group
            .MapPost("/assignments", AssignAsync)
            .WithName("AssignStrays")
            .WithSummary("Assigns strays to what they mean; reports read the past so from then on.")
            .For(Caller.Builders);
        group
            .MapPost("/assignments/undo", UndoAsync)
            .WithName("UndoStrays")
            .WithSummary("Takes assignments back; reports say what they said before.")
            .For(Caller.Builders);
        group
            .MapPost("/words", DraftAsync)
            .WithName("DraftStrays")
            .WithSummary("Makes values words, or aliases of a word, in the draft of the convention.")
            .For(Caller.Owner);
    }

    private static async Task<Outcome<StraysAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        StrayReader strays,
        StrayBook book,
        InsideTagReader inside,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    )
    {
        var workspace = await WorkspaceOf(db, cancel);
        var (range, refusal) = RangeOf(workspace, clock, from, to);
        if (range is null)
        {
            return refusal!;
        }

        var convention = await conventions.ReadAsync(cancel);
        var traffic = await strays.ReadAsync(workspace.Id, range.From, range.To, cancel);
        var all = StrayFinder.Find(traffic.Sources, traffic.VisitsOf, convention, traffic.Plan);
        var groups = all.Take(MostGroups).ToList();
        var groupOf = new Dictionary<int, int>();
        foreach (var (group, at) in groups.Select((g, i) => (g, i)))
        {
            foreach (int source in group.Strays.SelectMany(s => s.Sources))
            {
                groupOf.TryAdd(source, at);
            }
        }

        var pages = await strays.PagesAsync(workspace.Id, range.From, range.To, groupOf, StrayGroupAnswer.MostPages, cancel);
        return new StraysAnswer(
            range.From,
            range.To,
            all.Count - groups.Count,
            [.. groups.Select((g, i) => StrayGroupAnswer.Of(g, traffic, convention, pages.GetValueOrDefault(i, [])))],
            [.. (await book.ReadAsync(workspace.Id, cancel)).Select(a => AssignedStray.Of(a, convention))],
            await inside.ReadAsync(workspace.Id, range.From, range.To, MostInside, cancel)
        );
    }

    private static async Task<Outcome<StrayEffectAnswer>> EffectAsync(
        AssignStrays request,
        BeaconDb db,
        ConventionReader conventions,
        StrayReader strays,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var workspace = await WorkspaceOf(db, cancel);
        var (range, refusal) = RangeOf(workspace, clock, request.From, request.To);
        if (range is null)
        {
            return refusal!;
        }

        var convention = await conventions.ReadAsync(cancel);
        var traffic = await strays.ReadAsync(workspace.Id, range.From, range.To, cancel);
        var (assignments, wrong) = AssignmentCheck.Read(request.Assignments, convention, traffic.Plan);
        if (assignments is null)
        {
            return wrong!;
        }

        var after = traffic.Plan.With(new StrayAssignments([.. traffic.Plan.Strays.All, .. assignments]));
        var effects = StrayEffect.Of(traffic.Sources.Select(s => (s, traffic.VisitsOf(s.Id))), convention, traffic.Plan, after);
        return new StrayEffectAnswer(
            range.From,
            range.To,
            Math.Max(0, effects.Count - MostEffects),
            [
                .. effects
                    .Take(MostEffects)
                    .Select(e => new StrayEffectRow(
                        RowNames.LabelOf(e.Field),
                        RowNames.Of(
                            e.Field,
                            e.Key,
                            e.Field.Kind == RowKind.Campaign ? after.Campaigns.FirstOrDefault(c => c.Value == e.Key)?.Name : null
                        ),
                        e.Before,
                        e.After
                    )),
            ]
        );
    }

    private static async Task<Outcome<AssignedStrays>> AssignAsync(
        AssignStrays request,
        BeaconDb db,
        ConventionReader conventions,
        Data.Reports.PlanOfVisitsReader plans,
        StrayBook book,
        FindingBook findings,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var workspace = db.CurrentWorkspaceId!.Value;
        var convention = await conventions.ReadAsync(cancel);
        var (assignments, wrong) = AssignmentCheck.Read(request.Assignments, convention, await plans.ReadAsync(workspace, cancel));
        if (assignments is null)
        {
            return wrong!;
        }

        if (!await book.AddAsync(workspace, assignments, auditLog.Who, clock.GetUtcNow(), cancel))
        {
            return Refusal.Conflict(
                "assignments-many",
                $"At most {StrayBook.Most:N0} strays are assigned at a time; make some of them words or aliases of the convention."
            );
        }

        var change = Guid.NewGuid();
        foreach (var assignment in assignments)
        {
            auditLog.Add($"{What}-assigned", assignment.Id, null, AssignedText.Of(assignment, convention), change);
        }

        await db.SaveChangesAsync(cancel);
        await findings.MarkDueAsync(workspace, cancel);
        return new AssignedStrays([.. assignments.Select(a => a.Id)]);
    }

    private static async Task<Refusal?> UndoAsync(
        UndoStrays request,
        BeaconDb db,
        ConventionReader conventions,
        StrayBook book,
        FindingBook findings,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        if (request.Ids is not { Length: > 0 and <= StrayBook.Most } ids)
        {
            return Refusal.Invalid("ids-missing", "Nothing is named to be undone; send the “ids” of assignments.");
        }

        var removed = await book.RemoveAsync(db.CurrentWorkspaceId!.Value, ids, cancel);
        if (removed.Count == 0)
        {
            return Refusal.NotFound("assignment");
        }

        var convention = await conventions.ReadAsync(cancel);
        var change = Guid.NewGuid();
        foreach (var kept in removed)
        {
            auditLog.Add($"{What}-undone", kept.Assignment.Id, AssignedText.Of(kept.Assignment, convention), null, change);
        }

        await db.SaveChangesAsync(cancel);
        await findings.MarkDueAsync(db.CurrentWorkspaceId!.Value, cancel);
        return null;
    }

    private static async Task<Refusal?> DraftAsync(DraftWords request, StrayDraft draft, AuditLog auditLog, CancellationToken cancel) =>
        await draft.AddAsync(request.Field ?? "", request.Values ?? [], request.Word, auditLog.Who, cancel);

    private static Task<Workspace> WorkspaceOf(BeaconDb db, CancellationToken cancel) =>
        db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);

    private static Outcome<Data.Reports.ArrivalsRequest> RangeOf(Workspace workspace, TimeProvider clock, DateOnly? from, DateOnly? to)
    {
        var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
        return ArrivalsEndpoints.RequestOf(workspace, clock, from ?? (to ?? today).AddDays(1 - UsualDays), to, "", null);
    }
}
