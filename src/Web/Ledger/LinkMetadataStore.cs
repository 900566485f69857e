using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What one link is called, and its topics.</summary>
/// <param name="Title">What it is called; empty is refused.</param>
/// <param name="Topics">All of its topics; null leaves them.</param>
public sealed record LinkNaming(string? Title, IReadOnlyList<string>? Topics = null);

/// <summary>Changes what one link is called, and its topics.</summary>
public sealed class LinkMetadataStore(BeaconDb db, AuditLog auditLog)
{
    private const int LongestTitle = 300;

    public async Task<Refusal?> ChangeAsync(Guid id, LinkNaming naming, CancellationToken cancel)
    {
        if (TypedText.OrNull(naming.Title) is not { Length: <= LongestTitle } title)
        {
            return Refusal.Unacceptable("title-refused", $"A title has 1 to {LongestTitle} characters.");
        }

        string[] topics = Topics.Read(naming.Topics ?? [], out string? problem);
        if (problem is not null)
        {
            return Refusal.Unacceptable("topics-refused", problem);
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.LinkAsync(db, id, cancel);
        if (await db.Links.Include(l => l.Campaign).SingleOrDefaultAsync(l => l.Id == id, cancel) is not { } link)
        {
            return Refusal.NotFound("link");
        }

        var before = LinkMetadata.Of(link, link.Campaign?.Name);
        link.Title = title;
        link.Topics = naming.Topics is null || topics.SequenceEqual(link.Topics) ? link.Topics : topics;
        if (db.Entry(link).Properties.Any(p => p.IsModified))
        {
            auditLog.Add(LinkMetadata.What, id, before, LinkMetadata.Of(link, link.Campaign?.Name));
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
        }

        return null;
    }
}
