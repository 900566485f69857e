using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Codes;

/// <summary>Links as far as their codes are concerned, and the logos that can be put on them.</summary>
public sealed class CodeStore(BeaconDb db, BatchRows rows, AuditLog auditLog, TimeProvider clock)
{
    /// <summary>Most codes of one print sheet or zip of chosen links.</summary>
    public const int Most = 10_000;

    private const int MostLogos = 50;
    private const int LongestName = 120;

    /// <summary>The links asked for, in the order they were asked for; unknown ones are left out.</summary>
    public async Task<List<CodeText>> TextsAsync(IReadOnlyList<Guid> ids, CancellationToken cancel)
    {
        var found = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .Select(l => new
            {
                l.Id,
                l.Url,
                l.Title,
                Campaign = l.Campaign!.Name,
                Placement = l.Placement!.Name,
                Code = l
                    .ShortLinks.Where(s => s.Use == ShortLinkUse.Code)
                    .Select(s => s.ShortDomain!.Scheme + "://" + s.ShortDomain.Host + "/" + s.Slug)
                    .FirstOrDefault(),
            })
            .ToDictionaryAsync(l => l.Id, l => new CodeText(l.Id, l.Code, l.Url, l.Title, l.Campaign, l.Placement), cancel);
        return [.. ids.Where(found.ContainsKey).Select(id => found[id])];
    }

    /// <summary>The links a batch made, in the order of its rows; null when there is no such batch.</summary>
    public async Task<List<Guid>?> OfBatchAsync(Guid batch, CancellationToken cancel)
    {
        if (!await db.Batches.AnyAsync(b => b.Id == batch, cancel))
        {
            return null;
        }

        var links = new List<Guid>();
        await foreach (var (row, _) in rows.ResultsAsync(batch, linkedOnly: true, cancel))
        {
            links.Add(row.LinkId!.Value);
        }

        return links;
    }

    /// <summary>The style asked for, its logo fetched.</summary>
    public async Task<Outcome<CodeStyle>> StyleAsync(CodeLook look, CancellationToken cancel)
    {
        byte[]? png = null;
        if (look.Logo is { } id)
        {
            png = await db.CodeLogos.Where(l => l.Id == id).Select(l => l.Png).SingleOrDefaultAsync(cancel);
            if (png is null)
            {
                return Refusal.NotFound("logo");
            }
        }

        return look.Read(png);
    }

    /// <summary>Every logo, by name.</summary>
    public Task<List<LogoAnswer>> LogosAsync(CancellationToken cancel) =>
        db.CodeLogos.OrderBy(l => l.Name).Select(l => new LogoAnswer(l.Id, l.Name, l.CreatedBy, l.CreatedAt)).ToListAsync(cancel);

    public Task<byte[]?> LogoAsync(Guid id, CancellationToken cancel) =>
        db.CodeLogos.Where(l => l.Id == id).Select(l => l.Png).SingleOrDefaultAsync(cancel);

    /// <summary>Keeps a logo.</summary>
    public async Task<Outcome<LogoAnswer>> KeepAsync(string name, byte[] file, CancellationToken cancel)
    {
        if (await db.CodeLogos.CountAsync(cancel) >= MostLogos)
        {
            return Refusal.Unacceptable("logos-many", $"A workspace keeps {MostLogos} logos; remove one first.");
        }

        var (png, problem) = await LogoFile.ReadAsync(file, cancel);
        if (png is null)
        {
            return Refusal.Unacceptable("logo-unreadable", problem!);
        }

        var logo = new CodeLogo
        {
            Name = name.Length > LongestName ? name[..LongestName] : name,
            Png = png,
            CreatedBy = auditLog.Who,
            CreatedAt = clock.GetUtcNow(),
        };
        db.CodeLogos.Add(logo);
        auditLog.Add("code-logo", logo.Id, null, new { logo.Name });
        await db.SaveChangesAsync(cancel);
        return new LogoAnswer(logo.Id, logo.Name, logo.CreatedBy, logo.CreatedAt);
    }

    /// <summary>Removes a logo; codes that were drawn with it stay as they are.</summary>
    public async Task<bool> RemoveAsync(Guid id, CancellationToken cancel)
    {
        if (await db.CodeLogos.SingleOrDefaultAsync(l => l.Id == id, cancel) is not { } logo)
        {
            return false;
        }

        db.CodeLogos.Remove(logo);
        auditLog.Add("code-logo", id, new { logo.Name }, null);
        await db.SaveChangesAsync(cancel);
        return true;
    }
}
