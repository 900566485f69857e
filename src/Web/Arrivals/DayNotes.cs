using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Notes on days: what was sent, what broke.</summary>
public static class DayNotes
{
    private const string What = "day-note";
    private const int Longest = 500;
    private const int MostGiven = 1_000;

    public static void MapDayNotes(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/day-notes").WithTags("Arrivals");
        group.MapGet("", ListAsync).WithName("ListDayNotes").WithSummary("Lists notes on days.").For(Caller.Readers);
        group.MapPost("", AddAsync).WithName("AddDayNote").WithSummary("Writes a note on a day.").For(Caller.Builders);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeDayNote").WithSummary("Changes a note.").For(Caller.Builders);
        group.MapDelete("/{id:guid}", RemoveAsync).WithName("RemoveDayNote").WithSummary("Removes a note.").For(Caller.Builders);
    }

    private static async Task<Ok<List<DayNoteAnswer>>> ListAsync(
        BeaconDb db,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    ) =>
        TypedResults.Ok(
            await db
                .DayNotes.AsNoTracking()
                .Where(n => (from == null || n.Day >= from) && (to == null || n.Day <= to))
                .OrderByDescending(n => n.Day)
                .ThenBy(n => n.Id)
                .Take(MostGiven)
                .Select(n => new DayNoteAnswer(n.Id, n.Day, n.Text, n.WrittenBy, n.WrittenAt))
                .ToListAsync(cancel)
        );

    private static async Task<Outcome<DayNoteAnswer>> AddAsync(
        DayNoteRequest request,
        BeaconDb db,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
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

    private static async Task<Outcome<DayNoteAnswer>> ChangeAsync(
        Guid id,
        DayNoteRequest request,
        BeaconDb db,
        AuditLog auditLog,
        TimeProvider clock,
        CancellationToken cancel
    )
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

    private static async Task<Refusal?> RemoveAsync(Guid id, BeaconDb db, AuditLog auditLog, CancellationToken cancel)
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

/// <summary>A note to be written.</summary>
/// <param name="Day">The day it is about, in the workspace's zone.</param>
/// <param name="Text">What happened; up to 500 characters.</param>
public sealed record DayNoteRequest(DateOnly? Day, string? Text);

/// <summary>A note on a day.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Day">The day it is about, in the workspace's zone.</param>
/// <param name="Text">What happened.</param>
/// <param name="WrittenBy">Who wrote it last.</param>
/// <param name="WrittenAt">When that was.</param>
public sealed record DayNoteAnswer(Guid Id, DateOnly Day, string Text, string WrittenBy, DateTimeOffset WrittenAt);
