using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Addresses;

/// <summary>How the workspace writes its links, beside what its convention says.</summary>
public static class LinkWritingEndpoints
{
    private static readonly PlaceholderShapes[] Shapes =
    [
        PlaceholderShapes.Braces,
        PlaceholderShapes.DoubleBraces,
        PlaceholderShapes.Brackets,
        PlaceholderShapes.Percents,
        PlaceholderShapes.Dollars,
        PlaceholderShapes.Underscores,
        PlaceholderShapes.MergeTags,
    ];

    public static void MapLinkWriting(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/link-writing").WithTags("Workspace");
        group
            .MapGet("", ReadAsync)
            .WithName("ReadLinkWriting")
            .WithSummary("Reads how links are written: placeholders, spaces, tags already there.")
            .For(Caller.Readers);
        group.MapPut("", ChangeAsync).WithName("ChangeLinkWriting").WithSummary("Changes how links are written.").For(Caller.Owner);
    }

    private static async Task<Ok<LinkWriting>> ReadAsync(BeaconDb db, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        return TypedResults.Ok(
            new LinkWriting([.. Shapes.Where(s => (workspace.LivePlaceholders & s) != 0)], workspace.ExistingTags, workspace.PlusForSpace)
        );
    }

    private static async Task<Refusal?> ChangeAsync(LinkWriting writing, BeaconDb db, AuditLog auditLog, CancellationToken cancel)
    {
        if (writing.Placeholders is null || writing.Placeholders.Any(s => !Shapes.Contains(s)))
        {
            return Refusal.Invalid(
                "placeholder-shape",
                "The list of placeholders is missing, or names a shape that isn't known; choose among those listed."
            );
        }

        var workspace = await db.Workspaces.SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var before = new
        {
            workspace.LivePlaceholders,
            workspace.ExistingTags,
            workspace.PlusForSpace,
        };
        workspace.LivePlaceholders = writing.Placeholders.Aggregate(PlaceholderShapes.None, (all, s) => all | s);
        (workspace.ExistingTags, workspace.PlusForSpace) = (writing.Existing, writing.PlusForSpace);
        auditLog.Add(
            "link-writing",
            workspace.Id,
            before,
            new
            {
                workspace.LivePlaceholders,
                workspace.ExistingTags,
                workspace.PlusForSpace,
            }
        );
        await db.SaveChangesAsync(cancel);
        return null;
    }
}

/// <summary>How links are written.</summary>
/// <param name="Placeholders">Shapes of placeholders that stay literal, for an ad platform or a mail tool to fill in; any order.</param>
/// <param name="Existing">What happens to tags an address has already.</param>
/// <param name="PlusForSpace">Writes a space in a value as <c>+</c> instead of <c>%20</c>.</param>
public sealed record LinkWriting(IReadOnlyList<PlaceholderShapes>? Placeholders, ExistingTags Existing, bool PlusForSpace);
