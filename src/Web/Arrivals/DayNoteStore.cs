using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Keeps notes on days.</summary>
public sealed class DayNoteStore(BeaconDb db, AuditLog auditLog, TimeProvider clock)
{
    private const string What = "day-note";
    private const int Longest = 500;
    private const int MostGiven = 1_000;

    /// <summary>Notes on days of a range, the newest first and at most 1,000.</summary>
    /// <param name="from">The first day, or null for no bound.</param>
    /// <param name="to">The last day, or null for no bound.</param>
    /// <param name="cancel">Gives up.</param>
    public Task<List<DayNoteAnswer>> ListAsync(DateOnly? from, DateOnly? to, CancellationToken cancel) =>
        db
            .DayNotes.AsNoTracking()
            .Where(n => (from == null || n.Day >= from) && (to == null || n.Day <= to))
            .OrderByDescending(n => n.Day)
            .ThenBy(n => n.Id)
            .Take(MostGiven)
            .Select(n => new DayNoteAnswer(n.Id, n.Day, n.Text, n.WrittenBy, n.WrittenAt))
            .ToListAsync(cancel);

    /// <summary>Writes a note.</summary>
    public async Task<Outcome<DayNoteAnswer>> AddAsync(DayNoteRequest request, CancellationToken cancel)
    {
        if (Refused(request) is { } refusal)
        {
            return refusal;
        }

        var note = new DayNote
        {
            Day = request.Day!.Value,
            Text = request.Text!.Trim(),
            WrittenBy = auditLog.Who,
            WrittenAt = clock.GetUtcNow(),
        };
        db.DayNotes.Add(note);
        auditLog.Add(What, note.Id, null, new { note.Day, note.Text });
        await db.SaveChangesAsync(cancel);
        return AnswerOf(note);
    }

    /// <summary>Changes a note.</summary>
    public async Task<Outcome<DayNoteAnswer>> ChangeAsync(Guid id, DayNoteRequest request, CancellationToken cancel)
    {
        if (Refused(request) is { } refusal)
        {
            return refusal;
        }

        if (await db.DayNotes.SingleOrDefaultAsync(n => n.Id == id, cancel) is not { } note)
        {
            return Refusal.NotFound("note");
        }

        auditLog.Add(What, id, new { note.Day, note.Text }, new { Day = request.Day!.Value, Text = request.Text!.Trim() });
        (note.Day, note.Text) = (request.Day.Value, request.Text.Trim());
        (note.WrittenBy, note.WrittenAt) = (auditLog.Who, clock.GetUtcNow());
        await db.SaveChangesAsync(cancel);
        return AnswerOf(note);
    }

    /// <summary>Removes a note.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        if (await db.DayNotes.SingleOrDefaultAsync(n => n.Id == id, cancel) is not { } note)
        {
            return Refusal.NotFound("note");
        }

        db.DayNotes.Remove(note);
        auditLog.Add(What, id, new { note.Day, note.Text }, null);
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static Refusal? Refused(DayNoteRequest request) =>
        request.Day is null ? Refusal.Invalid("day-missing", "A note needs its day, as in 2026-12-03.")
        : string.IsNullOrWhiteSpace(request.Text) ? Refusal.Unacceptable("text-missing", "Write what happened on that day.")
        : request.Text.Trim().Length > Longest ? Refusal.Unacceptable("text-long", $"A note has at most {Longest} characters; shorten it.")
        : null;

    private static DayNoteAnswer AnswerOf(DayNote note) => new(note.Id, note.Day, note.Text, note.WrittenBy, note.WrittenAt);
}
