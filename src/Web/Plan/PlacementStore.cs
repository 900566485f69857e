using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Costs;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Ledger;

namespace PreciseBeacon.Web.Plan;

/// <summary>Keeps placements; those with links are retired or merged, never deleted.</summary>
public sealed class PlacementStore(
    BeaconDb db,
    ConventionReader conventions,
    WorkspaceReader workspaces,
    AuditLog auditLog,
    TimeProvider clock
)
{
    internal const string DomainLeadsElsewhere = "That short domain doesn't lead here; choose one that does.";

    private const int LongestText = 200;
    private const int LongestForm = 2_000;
    private const int MostOfAKind = 50;

    /// <summary>Placements in their order; retired ones only when asked for.</summary>
    public async Task<List<PlacementAnswer>> ListAsync(bool retired, CancellationToken cancel)
    {
        var today = await workspaces.TodayAsync(cancel);
        var links = await CountedLinks
            .All(db, clock.GetUtcNow())
            .Where(l => l.PlacementId != null && l.State != CountedLinks.Retired)
            .GroupBy(l => l.PlacementId!.Value)
            .Select(g => new { g.Key, Count = g.Sum(l => l.Links) })
            .ToDictionaryAsync(g => g.Key, g => g.Count, cancel);
        var placements = await db
            .Placements.AsNoTracking()
            .Where(p => retired || p.RetiredAt == null)
            .OrderBy(p => p.Position)
            .ThenBy(p => p.Name)
            .ToListAsync(cancel);
        return [.. placements.Select(p => PlacementAnswer.Of(p, today, links.GetValueOrDefault(p.Id)))];
    }

    /// <summary>Makes a placement, or changes the one with the id.</summary>
    public async Task<Outcome<PlacementAnswer>> SaveAsync(Guid? id, PlacementRequest request, CancellationToken cancel)
    {
        var convention = await conventions.ReadAsync(cancel);
        if (WhyWrong(request, convention) is { } why)
        {
            return Refusal.Invalid("placement-refused", why);
        }

        if (request.ShortDomain is { } on && await db.ShortDomains.SingleOrDefaultAsync(d => d.Id == on, cancel) is not { IsUsable: true })
        {
            return Refusal.Invalid("placement-refused", DomainLeadsElsewhere);
        }

        string name = request.Name!.Trim();
        if (await db.Placements.AnyAsync(p => p.Id != id && p.Name == name, cancel))
        {
            return NameTaken(name);
        }

        var placement = id is null
            ? new Placement
            {
                Name = name,
                Channel = "",
                Position = await db.Placements.MaxAsync(p => (int?)p.Position, cancel) + 1 ?? 0,
            }
            : await db.Placements.SingleOrDefaultAsync(p => p.Id == id, cancel);
        if (placement is null)
        {
            return Refusal.NotFound("placement");
        }

        if (id is not null && placement.Revision != request.Revision)
        {
            return await ChangedMeanwhileAsync(placement, cancel);
        }

        var today = await workspaces.TodayAsync(cancel);
        var before = id is null ? null : PlacementAnswer.Of(placement, today);
        Fill(placement, name, request, convention, id is null ? null : today);
        placement.Revision++;
        if (id is null)
        {
            db.Placements.Add(placement);
        }

        var after = PlacementAnswer.Of(
            placement,
            today,
            id is null ? 0 : await db.Links.CountAsync(l => l.PlacementId == id && l.RetiredAt == null, cancel)
        );
        auditLog.Add("placement", placement.Id, before, after);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            db.ChangeTracker.Clear();
            return await ChangedMeanwhileAsync(await db.Placements.SingleAsync(p => p.Id == id, cancel), cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return NameTaken(name);
        }

        return after;
    }

    /// <summary>Takes a placement out of what is offered, or puts it back.</summary>
    public async Task<Refusal?> RetireAsync(Guid id, bool retire, CancellationToken cancel)
    {
        if (await db.Placements.SingleOrDefaultAsync(p => p.Id == id, cancel) is not { } placement)
        {
            return Refusal.NotFound("placement");
        }

        auditLog.Add("placement", id, new { retired = placement.RetiredAt is not null }, new { retired = retire });
        placement.RetiredAt = retire ? clock.GetUtcNow() : null;
        placement.Revision++;
        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>Gives everything of one placement to another and deletes it; what its links say stays as it is.</summary>
    public async Task<Outcome<MergeAnswer>> MergeAsync(Guid id, Guid into, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var gone = await db.Placements.SingleOrDefaultAsync(p => p.Id == id, cancel);
        if (gone is null || !await db.Placements.AnyAsync(p => p.Id == into, cancel))
        {
            return Refusal.NotFound("placement");
        }

        if (id == into)
        {
            return Refusal.Invalid("merge-refused", "A placement can't be merged into itself; choose another one.");
        }

        var moved = await db.Links.Where(l => l.PlacementId == id).Select(l => l.Id).ToListAsync(cancel);
        await db.Links.Where(l => l.PlacementId == id).ExecuteUpdateAsync(l => l.SetProperty(x => x.PlacementId, into), cancel);
        int planned = await db
            .PlannedLinks.Where(p => p.PlacementId == id)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.PlacementId, into), cancel);
        await CostImports.MoveAsync(db, id, into, cancel);
        await FigureNameBook.MoveAsync(db, id, into, cancel);
        var sets = await db.PlacementSets.Where(s => s.PlacementIds.Contains(id)).ToListAsync(cancel);
        foreach (var set in sets)
        {
            set.PlacementIds = [.. set.PlacementIds.Select(p => p == id ? into : p).Distinct()];
        }

        foreach (var partnerPage in await db.PartnerPages.Where(h => h.PlacementIds.Contains(id)).ToListAsync(cancel))
        {
            // The page of one partner must not come to show what another placement has, so it only loses the one that is gone.
            partnerPage.PlacementIds = [.. partnerPage.PlacementIds.Where(p => p != id)];
        }

        auditLog.Add(
            "placement",
            id,
            PlacementAnswer.Of(gone, await workspaces.TodayAsync(cancel), moved.Count),
            new { mergedInto = into, links = moved }
        );
        db.Placements.Remove(gone);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new MergeAnswer(moved.Count, planned, sets.Count);
    }

    private async Task<Refusal> ChangedMeanwhileAsync(Placement placement, CancellationToken cancel) =>
        Refusal.ChangedBy(
            await auditLog.LastAsync(placement.Id, cancel),
            $"“{placement.Name}”",
            PlacementAnswer.Of(
                placement,
                await workspaces.TodayAsync(cancel),
                await db.Links.CountAsync(l => l.PlacementId == placement.Id && l.RetiredAt == null, cancel)
            )
        );

    private static Dictionary<string, string> ByKey(Dictionary<string, string>? given, Convention convention, bool keepEmpty)
    {
        var values = new Dictionary<string, string>();
        foreach (var (name, value) in given ?? [])
        {
            if (keepEmpty || !string.IsNullOrWhiteSpace(value))
            {
                values[convention.Find(name)!.Key] = value.Trim();
            }
        }

        return values;
    }

    /// <summary>Writes what somebody asked for, which was found right before.</summary>
    /// <param name="placement">Where to write.</param>
    /// <param name="name">Its name.</param>
    /// <param name="request">What somebody asked for.</param>
    /// <param name="convention">The convention.</param>
    /// <param name="today">The day from which another cost holds; null for a new placement.</param>
    internal static void Fill(Placement placement, string name, PlacementRequest request, Convention convention, DateOnly? today)
    {
        placement.Name = name;
        placement.Channel = request.Channel!.Trim();
        placement.Publisher = TypedText.OrNull(request.Publisher);
        placement.Defaults = ByKey(request.Defaults, convention, keepEmpty: false);
        placement.Asks = [.. (request.Asks ?? []).OfType<string>().Select(a => convention.Find(a)!.Key).Distinct()];
        placement.ToolWrites = ByKey(request.ToolWrites, convention, keepEmpty: true);
        placement.Tags =
        [
            .. (request.Tags ?? []).Select(t => t.Trim()).Where(t => t.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase),
        ];
        placement.UseDays = [.. (request.UseDays ?? []).Distinct().Order()];
        placement.UseForm = TypedText.OrNull(request.UseForm);
        placement.Style = request.Style;
        placement.ShareForm = TypedText.OrNull(request.ShareForm);
        placement.Rates = CostRates.Write(CostRates.WithClickCost(CostRates.Parse(placement.Rates), request.CostPerClick, today));
        placement.FixedCost = request.FixedCost;
        placement.ShortDomainId = request.ShortDomain;
    }

    internal static string? WhyWrong(PlacementRequest request, Convention convention)
    {
        if (string.IsNullOrWhiteSpace(request.Name) || request.Name.Trim().Length > LongestText)
        {
            return $"A placement needs a name of at most {LongestText} characters.";
        }

        if (string.IsNullOrWhiteSpace(request.Channel) || request.Channel.Length > LongestText)
        {
            return "A placement needs the channel its visitors belong to; choose one.";
        }

        var named = (request.Defaults ?? []).Keys.Concat(request.Asks ?? []).OfType<string>().Concat((request.ToolWrites ?? []).Keys);
        if (named.FirstOrDefault(n => convention.Find(n) is null) is { } strange)
        {
            return $"The convention has no field “{strange}”; remove it, or ask an owner to add it.";
        }

        if (
            (request.Defaults ?? []).Values.Concat((request.ToolWrites ?? []).Values).Any(v => v is null || v.Length > LongestText)
            || (request.Tags ?? []).Any(t => t is null || t.Length > LongestText)
            || request.Tags?.Count > MostOfAKind
            || request.Publisher?.Length > LongestText
            || request.UseForm?.Length > LongestText
            || request.ShareForm?.Length > LongestForm
        )
        {
            return $"Values, tags, publisher and form have at most {LongestText} characters, a share text {LongestForm:N0}; shorten them.";
        }

        if ((request.UseDays ?? []).Any(d => d is < 1 or > 7))
        {
            return "Days are numbers from 1 for Monday to 7 for Sunday.";
        }

        return request.CostPerClick is < 0 or > CostRates.LargestAmount || request.FixedCost is < 0 or > CostRates.LargestAmount
            ? "A cost is an amount of 0 or more; check its digits."
            : null;
    }

    private static Refusal NameTaken(string name) =>
        Refusal.Conflict("name-taken", $"A placement “{name}” already exists; choose another name, or use that one.");
}
