using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Conventions;

/// <summary>Versions of the convention: one draft at the most, and the published ones, which never change.</summary>
public sealed class ConventionStore(BeaconDb db, ConventionReader reader, NewTagKeys newKeys, TimeProvider clock)
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
    /// <returns>The draft; refused where the document can't be a convention, or somebody else saved in between.</returns>
    public async Task<Outcome<ConventionVersion>> SaveDraftAsync(
        ConventionDocument document,
        Guid? madeFrom,
        string who,
        CancellationToken cancel
    )
    {
        if ((await WorkUpAsync(document, cancel)).Refusal is { } wrong)
        {
            return wrong;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        int newest = await db.ConventionVersions.Where(v => v.PublishedAt != null).MaxAsync(v => v.Number, cancel);
        var draft = await db.ConventionVersions.Include(v => v.Fields).SingleOrDefaultAsync(v => v.PublishedAt == null, cancel);
        if (draft is not null && draft.Revision != madeFrom)
        {
            return Overtaken(draft.SavedBy);
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
            return Overtaken(null);
        }

        await transaction.CommitAsync(cancel);
        return draft;
    }

    /// <summary>Publishes the draft; from now on it holds.</summary>
    public async Task<Outcome<ConventionVersion>> PublishAsync(Guid revision, string who, CancellationToken cancel)
    {
        if (await db.ConventionVersions.Include(v => v.Fields).SingleOrDefaultAsync(v => v.PublishedAt == null, cancel) is not { } draft)
        {
            return Refusal.Conflict("no-draft", "There is no draft to publish; change something first.");
        }

        if (draft.Revision != revision)
        {
            return Overtaken(draft.SavedBy);
        }

        await LookForNewKeysAsync(draft, cancel);
        draft.PublishedAt = clock.GetUtcNow();
        draft.SavedBy = who;
        draft.Revision = Guid.NewGuid();
        db.ChangeLog.Add(
            new ChangeLogEntry
            {
                At = clock.GetUtcNow(),
                Who = who,
                What = "convention-published",
                ThingId = draft.Id,
            }
        );
        await db.SaveChangesAsync(cancel);
        return draft;
    }

    /// <summary>Keys that past visits did not keep are looked for in their raw events.</summary>
    private async Task LookForNewKeysAsync(ConventionVersion draft, CancellationToken cancel)
    {
        var workspace = db.CurrentWorkspaceId!.Value;
        var keys = await newKeys.AmongAsync(workspace, draft.Fields.SelectMany(f => f.AlsoRead.Prepend(f.Key)), cancel);
        if (keys.Count > 0)
        {
            db.NewKeyMonths.AddRange(
                (await newKeys.MonthsAsync(workspace, cancel)).Select(m => new NewKeyMonth { Month = m, Keys = [.. keys] })
            );
        }
    }

    /// <summary>Throws the draft away.</summary>
    public async Task DiscardAsync(CancellationToken cancel)
    {
        var draft = await db
            .ConventionVersions.Include(v => v.Fields)
                .ThenInclude(f => f.Words)
            .SingleOrDefaultAsync(v => v.PublishedAt == null, cancel);
        if (draft is not null)
        {
            db.Remove(draft);
            await db.SaveChangesAsync(cancel);
        }
    }

    /// <summary>The document in the form the rules work with.</summary>
    /// <returns>The convention; refused where the document can't be one, the reason says what and where.</returns>
    public async Task<Outcome<Convention>> WorkUpAsync(ConventionDocument document, CancellationToken cancel)
    {
        try
        {
            return document.ToConvention(0, await reader.SettingsAsync(cancel));
        }
        catch (ConventionException wrong)
        {
            return Refusal.Unacceptable("convention-refused", wrong.Message);
        }
    }

    private static Refusal Overtaken(string? by) =>
        Refusal.Conflict(
            "draft-overtaken",
            $"{by ?? "Somebody"} saved the draft meanwhile; it was not overwritten. Load it and make your change again."
        );
}
