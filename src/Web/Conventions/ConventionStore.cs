using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conventions;

/// <summary>Versions of the convention: one draft at the most, and the published ones, which never change.</summary>
public sealed class ConventionStore(BeaconDb db, ConventionReader reader, TimeProvider clock)
{
    /// <summary>A version with everything in it; null when there is none such.</summary>
    /// <param name="which">A number, <c>draft</c>, or null for the one that holds.</param>
    /// <param name="cancel">Gives up reading.</param>
    public Task<ConventionVersion?> FindAsync(string? which, CancellationToken cancel)
    {
        int number = int.TryParse(which, out int parsed) ? parsed : -1;
        var versions = db.ConventionVersions.AsNoTracking().AsSplitQuery().Include(v => v.Fields).ThenInclude(f => f.Words).AsQueryable();
        versions = which switch
        {
            null or "" => versions.Where(v => v.PublishedAt != null),
            "draft" => versions.Where(v => v.PublishedAt == null),
            _ => versions.Where(v => v.PublishedAt != null && v.Number == number),
        };
        return versions.OrderByDescending(v => v.Number).FirstOrDefaultAsync(cancel);
    }

    /// <summary>Saves the draft in place of the one it was made from.</summary>
    /// <exception cref="RefusedException">The document can't be a convention, or somebody else saved in between.</exception>
    public async Task<ConventionVersion> SaveDraftAsync(ConventionDocument document, Guid? madeFrom, string who, CancellationToken cancel)
    {
        await WorkUpAsync(document, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        int newest = await db.ConventionVersions.Where(v => v.PublishedAt != null).MaxAsync(v => v.Number, cancel);
        var draft = await db.ConventionVersions.Include(v => v.Fields).SingleOrDefaultAsync(v => v.PublishedAt == null, cancel);
        if (draft is not null && draft.Revision != madeFrom)
        {
            throw Overtaken(draft.SavedBy);
        }

        if (draft is not null)
        {
            db.RemoveRange(draft.Fields);
        }
        else
        {
            draft = new ConventionVersion { Number = newest + 1 };
            db.ConventionVersions.Add(draft);
        }

        draft.Revision = Guid.NewGuid();
        draft.SavedBy = who;
        ConventionRows.Write(document, draft);
        try
        {
            // The old fields go first: a key is unique within its version.
            await db.SaveChangesAsync(cancel);
            draft.Fields.Clear();
            draft.Fields.AddRange(ConventionRows.RowsOf(document));
            db.AddRange(draft.Fields);
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException)
        {
            throw Overtaken(null);
        }

        await transaction.CommitAsync(cancel);
        return draft;
    }

    /// <summary>Publishes the draft; from now on it holds.</summary>
    public async Task<ConventionVersion> PublishAsync(Guid revision, string who, CancellationToken cancel)
    {
        var draft = await db.ConventionVersions.SingleOrDefaultAsync(v => v.PublishedAt == null, cancel)
            ?? throw new RefusedException(Refusal.Of(StatusCodes.Status409Conflict, "no-draft", "There is no draft to publish; change something first."));
        if (draft.Revision != revision)
        {
            throw Overtaken(draft.SavedBy);
        }

        draft.PublishedAt = clock.GetUtcNow();
        draft.SavedBy = who;
        draft.Revision = Guid.NewGuid();
        db.ChangeLog.Add(new ChangeLogEntry { At = clock.GetUtcNow(), Who = who, What = "convention-published", ThingId = draft.Id });
        await db.SaveChangesAsync(cancel);
        return draft;
    }

    /// <summary>Throws the draft away.</summary>
    public async Task DiscardAsync(CancellationToken cancel)
    {
        var draft = await db.ConventionVersions.Include(v => v.Fields).ThenInclude(f => f.Words).SingleOrDefaultAsync(v => v.PublishedAt == null, cancel);
        if (draft is not null)
        {
            db.Remove(draft);
            await db.SaveChangesAsync(cancel);
        }
    }

    /// <summary>The document in the form the rules work with.</summary>
    /// <exception cref="RefusedException">It can't be a convention; the reason says what and where.</exception>
    public async Task<Convention> WorkUpAsync(ConventionDocument document, CancellationToken cancel)
    {
        try
        {
            return document.ToConvention(0, await reader.SettingsAsync(cancel));
        }
        catch (ConventionException wrong)
        {
            throw new RefusedException(Refusal.Of(StatusCodes.Status422UnprocessableEntity, "convention-refused", wrong.Message));
        }
    }

    private static RefusedException Overtaken(string? by) => new(Refusal.Of(
        StatusCodes.Status409Conflict, "draft-overtaken",
        $"{by ?? "Somebody"} saved the draft meanwhile; it was not overwritten. Load it and make your change again."));
}
