using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Puts many links away or moves them to another campaign, and takes that back again as a whole.</summary>
public sealed class ManyLinks(BeaconDb db, History history, TimeProvider clock)
{
    /// <summary>Most links changed at once.</summary>
    public const int Most = 10_000;

    private const string What = "links-many";

    /// <summary>Changes them; one entry of history keeps what each was before.</summary>
    public async Task<(ManyLinksAnswer? Answer, ProblemHttpResult? Refusal)> ChangeAsync(ManyLinksChange change, CancellationToken cancel)
    {
        List<Guid> ids = [.. (change.Links ?? []).Distinct()];
        if (ids.Count is 0 or > Most)
        {
            return (null, Refusal.Of(StatusCodes.Status400BadRequest, "links-count", $"Choose 1 to {Most:N0} links."));
        }

        if (change.Retire is null && change.Campaign is null)
        {
            return (null, Refusal.Of(StatusCodes.Status400BadRequest, "change-missing", "Say what is to change: “retire”, or “campaign”."));
        }

        if (change.Campaign is { } wanted && !await db.Campaigns.AnyAsync(c => c.Id == wanted, cancel))
        {
            return (null, Refusal.NotFound("campaign"));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var before = await db.Links.Where(l => ids.Contains(l.Id)).OrderBy(l => l.Id).Select(l => new LinkBefore(l.Id, l.RetiredAt, l.CampaignId)).ToListAsync(cancel);
        var changing = before.Where(b => (change.Retire is { } retire && retire != b.RetiredAt is not null) || (change.Campaign is { } campaign && campaign != b.CampaignId)).ToList();
        if (changing.Count == 0)
        {
            return (new ManyLinksAnswer(0, null), null);
        }

        List<Guid> some = [.. changing.Select(c => c.Id)];
        var links = db.Links.Where(l => some.Contains(l.Id));
        if (change.Retire is { } away)
        {
            var at = away ? clock.GetUtcNow() : (DateTimeOffset?)null;
            await links.ExecuteUpdateAsync(l => l.SetProperty(x => x.RetiredAt, at), cancel);
        }

        if (change.Campaign is { } other)
        {
            await links.ExecuteUpdateAsync(l => l.SetProperty(x => x.CampaignId, other), cancel);
        }

        var undo = Guid.CreateVersion7();
        history.Add(What, undo, changing, new { change.Retire, change.Campaign });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return (new ManyLinksAnswer(changing.Count, undo), null);
    }

    /// <summary>Makes every link of a change what it was before.</summary>
    /// <returns>How many; null when there is no such change.</returns>
    public async Task<int?> UndoAsync(Guid undo, CancellationToken cancel)
    {
        var entry = await db.ChangeLog.AsNoTracking().Where(c => c.ThingId == undo && c.What == What && c.Before != null).OrderBy(c => c.At).FirstOrDefaultAsync(cancel);
        if (entry is null)
        {
            return null;
        }

        var before = JsonSerializer.Deserialize<List<LinkBefore>>(entry.Before!, JsonSerializerOptions.Web)!;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        int changed = 0;
        foreach (var group in before.GroupBy(b => (b.RetiredAt, b.CampaignId)))
        {
            List<Guid> ids = [.. group.Select(b => b.Id)];
            changed += await db.Links.Where(l => ids.Contains(l.Id))
                .ExecuteUpdateAsync(l => l.SetProperty(x => x.RetiredAt, group.Key.RetiredAt).SetProperty(x => x.CampaignId, group.Key.CampaignId), cancel);
        }

        history.Add($"{What}-undone", undo, null, new { Links = changed });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return changed;
    }

    private sealed record LinkBefore(Guid Id, DateTimeOffset? RetiredAt, Guid? CampaignId);
}
