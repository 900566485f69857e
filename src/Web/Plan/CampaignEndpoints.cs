using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Campaigns, their attributes, and the links planned for them.</summary>
public static class CampaignEndpoints
{
    private const int MostAttributes = 20;
    private const int MostValues = 500;
    private const int LongestText = 100;
    private const int LargestSheet = 4;

    public static void MapCampaigns(RouteGroupBuilder group)
    {
        group.MapGet("/campaigns", ListAsync).WithName("ListCampaigns").WithSummary("Lists campaigns.").For(Caller.Readers);
        group.MapPost("/campaigns", MakeAsync).WithName("AddCampaign").WithSummary("Adds a campaign.").For(Caller.Builders);
        group
            .MapGet("/campaigns/budgets", (CampaignBudgets budgets, CancellationToken cancel) => budgets.ListAsync(cancel))
            .WithName("ListCampaignBudgets")
            .WithSummary("Lists the budgets of campaigns beside what they cost.")
            .For(Caller.Readers);
        group
            .MapPost("/campaigns/preview", PreviewAsync)
            .WithName("PreviewCampaign")
            .WithSummary("Shows what the links of a campaign would say.")
            .For(Caller.Readers);
        group
            .MapGet("/campaigns/{id:guid}", OneAsync)
            .WithName("ReadCampaign")
            .WithSummary("Reads a campaign with its plan and results.")
            .For(Caller.Readers);
        group
            .MapPut("/campaigns/{id:guid}", ChangeAsync)
            .WithName("ChangeCampaign")
            .WithSummary("Changes a campaign.")
            .For(Caller.Builders);
        group
            .MapDelete("/campaigns/{id:guid}", DeleteAsync)
            .WithName("DeleteCampaign")
            .WithSummary("Deletes a campaign that has no links.")
            .For(Caller.Builders);
        group
            .MapPost("/campaigns/{id:guid}/archive", (Guid id, CampaignStore store, CancellationToken cancel) =>
                ArchiveAsync(id, true, store, cancel)
            )
            .WithName("ArchiveCampaign")
            .WithSummary("Archives a campaign.")
            .For(Caller.Builders);
        group
            .MapPost("/campaigns/{id:guid}/restore", (Guid id, CampaignStore store, CancellationToken cancel) =>
                ArchiveAsync(id, false, store, cancel)
            )
            .WithName("BringCampaignBack")
            .WithSummary("Brings an archived campaign back.")
            .For(Caller.Builders);
        group
            .MapPost("/campaigns/{id:guid}/next-season", NextSeasonAsync)
            .WithName("PlanNextSeason")
            .WithSummary("Makes next season's campaign with the same plan.")
            .For(Caller.Builders);
        group
            .MapPut("/campaigns/{id:guid}/planned", ChangePlannedAsync)
            .WithName("ChangePlannedLinks")
            .WithSummary("Writes planned links, all of them or none.")
            .For(Caller.Builders);
        group
            .MapPost("/campaigns/{id:guid}/planned/make", MakePlannedAsync)
            .WithName("MakePlannedLinks")
            .WithSummary("Makes every planned link that is ready, or uses the one there is.")
            .For(Caller.Builders);
        group
            .MapPost("/campaigns/{id:guid}/planned/read-sheet", ReadSheetAsync)
            .WithName("ReadPlannedSheet")
            .WithSummary("Reads planned links from a sheet, and stores nothing.")
            .For(Caller.Builders)
            .Produces<PlanSheetRead>();
        group
            .MapGet("/campaigns/{id:guid}/planned.csv", CsvAsync)
            .WithName("ReadPlannedCsv")
            .WithSummary("Gives the planned links as CSV.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        group
            .MapGet("/campaigns/{id:guid}/planned.xlsx", XlsxAsync)
            .WithName("ReadPlannedWorkbook")
            .WithSummary("Gives the planned links as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
        group
            .MapGet("/campaign-attributes", AttributesAsync)
            .WithName("ListAttributes")
            .WithSummary("Lists the attributes campaigns have.")
            .For(Caller.Readers);
        group
            .MapPut("/campaign-attributes", ChangeAttributesAsync)
            .WithName("ChangeAttributes")
            .WithSummary("Writes the attributes campaigns have.")
            .For(Caller.Builders);
    }

    private static async Task<Ok<List<CampaignAnswer>>> ListAsync(CampaignStore store, CancellationToken cancel, bool archived = false) =>
        TypedResults.Ok(await store.ListAsync(archived, cancel));

    private static async Task<Results<Created<CampaignAnswer>, ProblemHttpResult>> MakeAsync(
        CampaignRequest request,
        CampaignStore store,
        CancellationToken cancel
    )
    {
        return (await store.SaveAsync(null, request, cancel)).ToCreated(saved => $"/api/v1/campaigns/{saved.Id}");
    }

    private static async Task<Ok<CampaignPreview>> PreviewAsync(CampaignRequest request, CampaignStore store, CancellationToken cancel) =>
        TypedResults.Ok(await store.PreviewAsync(request, cancel));

    private static async Task<Outcome<CampaignDetail>> OneAsync(Guid id, CampaignPage page, CancellationToken cancel) =>
        await page.ReadAsync(id, cancel) is { } detail ? detail : Refusal.NotFound("campaign");

    private static async Task<Outcome<CampaignAnswer>> ChangeAsync(
        Guid id,
        CampaignRequest request,
        CampaignStore store,
        CancellationToken cancel
    ) => await store.SaveAsync(id, request, cancel);

    private static async Task<Refusal?> DeleteAsync(Guid id, CampaignStore store, CancellationToken cancel) =>
        await store.DeleteAsync(id, cancel) is { } refusal ? refusal : null;

    private static async Task<Refusal?> ArchiveAsync(Guid id, bool archive, CampaignStore store, CancellationToken cancel) =>
        await store.ArchiveAsync(id, archive, cancel) is { } refusal ? refusal : null;

    private static async Task<Results<Created<CampaignAnswer>, ProblemHttpResult>> NextSeasonAsync(
        Guid id,
        NextSeasonRequest request,
        CampaignStore store,
        CancellationToken cancel
    )
    {
        return (await store.TakeUpAsync(id, request, cancel)).ToCreated(made => $"/api/v1/campaigns/{made.Id}");
    }

    private static async Task<Outcome<CampaignDetail>> ChangePlannedAsync(
        Guid id,
        PlannedChange change,
        PlannedLinks planned,
        CampaignPage page,
        CancellationToken cancel
    ) =>
        await planned.ChangeAsync(id, change, cancel) is { } refusal
            ? refusal
            : Outcome.Found(await page.ReadAsync(id, cancel), "campaign");

    private static async Task<Outcome<MakeAnswer>> MakePlannedAsync(
        Guid id,
        MakeRequest request,
        PlannedLinks planned,
        CampaignPage page,
        CancellationToken cancel
    )
    {
        var made = await planned.MakeAsync(id, request, cancel);
        return made.IsRefused ? made.Refusal : new MakeAnswer(made.Value.Made, made.Value.Used, (await page.ReadAsync(id, cancel))!);
    }

    /// <summary>Reads a sheet of planned links, XLSX or CSV, told apart by what is in it. Stores nothing.</summary>
    private static async Task<IResult> ReadSheetAsync(Guid id, HttpContext context, BeaconDb db, CancellationToken cancel)
    {
        if (!await db.Campaigns.AnyAsync(c => c.Id == id, cancel))
        {
            return Refusal.NotFound("campaign").ToResult();
        }

        var (file, refusal) = await UploadedFile.ReadAsync(context, LargestSheet, "A sheet of planned links", cancel);
        await using (file)
        {
            if (refusal is not null)
            {
                return refusal.ToResult();
            }

            try
            {
                var read = PlanSheet.Read(file.ToArray(), await db.Placements.AsNoTracking().ToListAsync(cancel), cancel);
                return read.Rows.Count > PlannedLinks.MostRows
                    ? Refusal
                        .Unacceptable(
                            "sheet-refused",
                            $"A campaign has at most {PlannedLinks.MostRows:N0} planned links; the sheet has {read.Rows.Count:N0}. Larger sheets go through Batches."
                        )
                        .ToResult()
                    : TypedResults.Ok(read);
            }
            catch (SheetException broken)
            {
                return Refusal.Unacceptable("sheet-refused", broken.Message).ToResult();
            }
        }
    }

    private static async Task<IResult> CsvAsync(Guid id, BeaconDb db, PlannedLinks planned, CancellationToken cancel) =>
        await FileNameAsync(id, db, cancel) is { } name
            ? Results.Bytes(OwnTable.Csv(PlanSheet.Rows(await planned.ListAsync(id, cancel))), OwnTable.CsvType, $"{name}.csv")
            : Refusal.NotFound("campaign").ToResult();

    private static async Task<IResult> XlsxAsync(Guid id, BeaconDb db, PlannedLinks planned, CancellationToken cancel) =>
        await FileNameAsync(id, db, cancel) is { } name
            ? Results.Bytes(
                OwnTable.Xlsx(PlanSheet.Rows(await planned.ListAsync(id, cancel)), "Planned links"),
                ConventionSheet.ContentType,
                $"{name}.xlsx"
            )
            : Refusal.NotFound("campaign").ToResult();

    private static async Task<string?> FileNameAsync(Guid id, BeaconDb db, CancellationToken cancel) =>
        await db.Campaigns.Where(c => c.Id == id).Select(c => c.Name).SingleOrDefaultAsync(cancel) is { } name
            ? $"{name} – planned links"
            : null;

    private static async Task<Ok<List<AttributeAnswer>>> AttributesAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db.CampaignAttributes.OrderBy(a => a.Position).Select(a => new AttributeAnswer(a.Name, a.Values)).ToListAsync(cancel)
        );

    /// <summary>Writes the list of attributes; what campaigns say under a name that is gone stays stored and is shown no more.</summary>
    private static async Task<Outcome<List<AttributeAnswer>>> ChangeAttributesAsync(
        IReadOnlyList<AttributeAnswer> attributes,
        BeaconDb db,
        AuditLog auditLog,
        CancellationToken cancel
    )
    {
        var wanted = attributes
            .Where(a => a is not null)
            .Select(a => new AttributeAnswer(
                (a.Name ?? "").Trim(),
                [.. (a.Values ?? []).OfType<string>().Select(v => v.Trim()).Where(v => v.Length > 0).Distinct()]
            ))
            .ToList();
        if (
            wanted.Count > MostAttributes
            || wanted.Any(a =>
                a.Name.Length is 0 or > LongestText || a.Values.Count > MostValues || a.Values.Any(v => v.Length > LongestText)
            )
            || wanted.Select(a => a.Name.ToLowerInvariant()).Distinct().Count() != wanted.Count
        )
        {
            return Refusal.Invalid(
                "attributes-refused",
                $"There are at most {MostAttributes} attributes, each with a name of its own of at most {LongestText} characters and at most {MostValues} values."
            );
        }

        var before = await db.CampaignAttributes.OrderBy(a => a.Position).ToListAsync(cancel);
        auditLog.Add(
            "campaign-attributes",
            db.CurrentWorkspaceId!.Value,
            before.Select(a => new AttributeAnswer(a.Name, a.Values)),
            wanted
        );
        db.CampaignAttributes.RemoveRange(before.Where(b => wanted.All(w => w.Name != b.Name)));
        for (int i = 0; i < wanted.Count; i++)
        {
            var row = before.FirstOrDefault(b => b.Name == wanted[i].Name);
            if (row is null)
            {
                row = new CampaignAttribute { Name = wanted[i].Name };
                db.CampaignAttributes.Add(row);
            }

            (row.Values, row.Position) = ([.. wanted[i].Values], i);
        }

        await db.SaveChangesAsync(cancel);
        return wanted;
    }
}
