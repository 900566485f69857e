using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Placements and the sets they are gathered in.</summary>
public static class PlacementEndpoints
{
    private const int LongestName = 200;
    private const int LargestSheet = 4;
    private const int MostInSet = 1_000;

    public static void MapPlacements(RouteGroupBuilder group)
    {
        group.MapGet("/placements", ListAsync).WithName("ListPlacements").WithSummary("Lists placements.").For(Caller.Readers);
        group.MapPost("/placements", MakeAsync).WithName("AddPlacement").WithSummary("Adds a placement.").For(Caller.Builders);
        group
            .MapGet("/placements/defaults", DefaultsAsync)
            .WithName("ReadPlacementDefaults")
            .WithSummary("Gives the values that follow from a placement's channel, publisher and name.")
            .For(Caller.Readers);
        group
            .MapPost("/placements/import", ImportAsync)
            .WithName("ImportPlacements")
            .WithSummary("Adds many placements from names, a sheet or a list; can show first what it would add.")
            .For(Caller.Builders)
            .Accepts<List<PlacementRequest>>("application/json", "text/plain", "text/csv", "application/octet-stream")
            .Produces<PlacementImportAnswer>();
        group
            .MapPut("/placements/{id:guid}", ChangeAsync)
            .WithName("ChangePlacement")
            .WithSummary("Changes a placement.")
            .For(Caller.Builders);
        group
            .MapPost("/placements/{id:guid}/retire", (Guid id, PlacementStore store, CancellationToken cancel) =>
                RetireAsync(id, true, store, cancel)
            )
            .WithName("RetirePlacement")
            .WithSummary("Stops offering a placement.")
            .For(Caller.Builders);
        group
            .MapPost("/placements/{id:guid}/restore", (Guid id, PlacementStore store, CancellationToken cancel) =>
                RetireAsync(id, false, store, cancel)
            )
            .WithName("OfferPlacementAgain")
            .WithSummary("Offers a placement again.")
            .For(Caller.Builders);
        group
            .MapPost("/placements/{id:guid}/merge", MergeAsync)
            .WithName("MergePlacement")
            .WithSummary("Moves a placement's links to another one and deletes it.")
            .For(Caller.Builders);
        group
            .MapGet("/placement-sets", SetsAsync)
            .WithName("ListPlacementSets")
            .WithSummary("Lists sets of placements.")
            .For(Caller.Readers);
        group
            .MapPost("/placement-sets", MakeSetAsync)
            .WithName("AddPlacementSet")
            .WithSummary("Adds a set of placements.")
            .For(Caller.Builders);
        group
            .MapPut("/placement-sets/{id:guid}", ChangeSetAsync)
            .WithName("ChangePlacementSet")
            .WithSummary("Changes a set of placements.")
            .For(Caller.Builders);
        group
            .MapDelete("/placement-sets/{id:guid}", DeleteSetAsync)
            .WithName("DeletePlacementSet")
            .WithSummary("Deletes a set; its placements stay.")
            .For(Caller.Builders);
    }

    private static async Task<Ok<List<PlacementAnswer>>> ListAsync(PlacementStore store, CancellationToken cancel, bool retired = false) =>
        TypedResults.Ok(await store.ListAsync(retired, cancel));

    private static async Task<Results<Created<PlacementAnswer>, ProblemHttpResult>> MakeAsync(
        PlacementRequest request,
        PlacementStore store,
        CancellationToken cancel
    )
    {
        return (await store.SaveAsync(null, request, cancel)).ToCreated(saved => $"/api/v1/placements/{saved.Id}");
    }

    /// <summary>What a new placement could be given, from its channel, its publisher and its name.</summary>
    private static async Task<Ok<PlacementDefaultsAnswer>> DefaultsAsync(
        ConventionReader conventions,
        CancellationToken cancel,
        string? name = null,
        string? channel = null,
        string? publisher = null
    ) =>
        TypedResults.Ok(
            new PlacementDefaultsAnswer(
                PlacementDefaults.Complete(
                    await conventions.ReadAsync(cancel),
                    name ?? "",
                    channel ?? "",
                    TypedText.OrNull(publisher),
                    new Dictionary<string, string>()
                )
            )
        );

    /// <summary>A JSON list of placements; or names as lines, CSV, cells with tabs between them, or XLSX as the body. <c>dry</c> only shows what would be made.</summary>
    private static async Task<IResult> ImportAsync(
        HttpContext context,
        PlacementImport import,
        CancellationToken cancel,
        bool dry = false,
        string? channel = null,
        string? publisher = null,
        string? set = null
    )
    {
        var all = new PlacementImportFor(channel, publisher, set);
        if (context.Request.HasJsonContentType())
        {
            List<PlacementRequest?> given;
            try
            {
                given = await context.Request.ReadFromJsonAsync<List<PlacementRequest?>>(cancel) ?? [];
            }
            catch (JsonException unreadable)
            {
                // As for a body that the framework reads itself.
                throw new BadHttpRequestException(unreadable.Message, StatusCodes.Status400BadRequest, unreadable);
            }

            if (given.Contains(null))
            {
                return Refusal.Invalid("placements-count", "Each placement of the list is an object with a name.").ToResult();
            }

            var (listed, wrong) = await import.TakeAsync(
                [.. given.Select(r => r! with { Channel = r.Channel ?? channel, Publisher = r.Publisher ?? publisher })],
                new Dictionary<int, string>(),
                all,
                dry,
                cancel
            );
            return listed is null ? wrong!.ToResult() : TypedResults.Ok(listed);
        }

        var (file, refusal) = await UploadedFile.ReadAsync(context, LargestSheet, "A sheet of placements", cancel);
        await using (file)
        {
            if (refusal is not null)
            {
                return refusal.ToResult();
            }

            try
            {
                var (rows, problems) = await import.ReadAsync(file.ToArray(), all, cancel);
                var (answer, wrong) = await import.TakeAsync(rows, problems, all, dry, cancel);
                return answer is null ? wrong!.ToResult() : TypedResults.Ok(answer);
            }
            catch (SheetException broken)
            {
                return Refusal.Unacceptable("sheet-refused", broken.Message).ToResult();
            }
        }
    }

    private static async Task<Outcome<PlacementAnswer>> ChangeAsync(
        Guid id,
        PlacementRequest request,
        PlacementStore store,
        CancellationToken cancel
    ) => await store.SaveAsync(id, request, cancel);

    private static async Task<Refusal?> RetireAsync(Guid id, bool retire, PlacementStore store, CancellationToken cancel) =>
        await store.RetireAsync(id, retire, cancel) is { } refusal ? refusal : null;

    private static async Task<Outcome<MergeAnswer>> MergeAsync(
        Guid id,
        MergeRequest request,
        PlacementStore store,
        CancellationToken cancel
    ) => await store.MergeAsync(id, request.Into, cancel);

    private static async Task<Ok<List<PlacementSetAnswer>>> SetsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db
                .PlacementSets.OrderBy(s => s.Name)
                .Select(s => new PlacementSetAnswer(s.Id, s.Name, s.PlacementIds))
                .ToListAsync(cancel)
        );

    private static Task<Outcome<PlacementSetAnswer>> MakeSetAsync(
        PlacementSetRequest request,
        BeaconDb db,
        AuditLog auditLog,
        CancellationToken cancel
    ) => SaveSetAsync(null, request, db, auditLog, cancel);

    private static Task<Outcome<PlacementSetAnswer>> ChangeSetAsync(
        Guid id,
        PlacementSetRequest request,
        BeaconDb db,
        AuditLog auditLog,
        CancellationToken cancel
    ) => SaveSetAsync(id, request, db, auditLog, cancel);

    private static async Task<Outcome<PlacementSetAnswer>> SaveSetAsync(
        Guid? id,
        PlacementSetRequest request,
        BeaconDb db,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Trim().Length > LongestName)
        {
            return Refusal.Invalid("set-refused", $"A set needs a name of at most {LongestName} characters.");
        }

        List<Guid> wanted = [.. (request.Placements ?? []).Distinct()];
        if (wanted.Count is 0 or > MostInSet || await db.Placements.CountAsync(p => wanted.Contains(p.Id), cancel) != wanted.Count)
        {
            return Refusal.Invalid("set-refused", $"A set has 1 to {MostInSet:N0} placements of this workspace; choose them.");
        }

        var set = id is null ? new PlacementSet { Name = "" } : await db.PlacementSets.SingleOrDefaultAsync(s => s.Id == id, cancel);
        if (set is null)
        {
            return Refusal.NotFound("set");
        }

        var before = id is null ? null : new PlacementSetAnswer(set.Id, set.Name, set.PlacementIds);
        (set.Name, set.PlacementIds) = (request.Name.Trim(), wanted);
        if (id is null)
        {
            db.PlacementSets.Add(set);
        }

        var after = new PlacementSetAnswer(set.Id, set.Name, set.PlacementIds);
        auditLog.Add("placement-set", set.Id, before, after);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusal.Conflict("name-taken", $"A set “{set.Name}” already exists; choose another name.");
        }

        return after;
    }

    private static async Task<Refusal?> DeleteSetAsync(Guid id, BeaconDb db, AuditLog auditLog, CancellationToken cancel)
    {
        if (await db.PlacementSets.SingleOrDefaultAsync(s => s.Id == id, cancel) is not { } set)
        {
            return Refusal.NotFound("set");
        }

        auditLog.Add("placement-set", id, new PlacementSetAnswer(set.Id, set.Name, set.PlacementIds), null);
        db.PlacementSets.Remove(set);
        await db.SaveChangesAsync(cancel);
        return null;
    }
}
