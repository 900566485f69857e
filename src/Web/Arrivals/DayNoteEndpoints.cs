using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Notes on days: what was sent, what broke.</summary>
public static class DayNoteEndpoints
{
    public static void MapDayNotes(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/day-notes").WithTags("Arrivals");
        group.MapGet("", ListAsync).WithName("ListDayNotes").WithSummary("Lists notes on days.").For(Caller.Readers);
        group.MapPost("", AddAsync).WithName("AddDayNote").WithSummary("Writes a note on a day.").For(Caller.Builders);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeDayNote").WithSummary("Changes a note.").For(Caller.Builders);
        group.MapDelete("/{id:guid}", RemoveAsync).WithName("RemoveDayNote").WithSummary("Removes a note.").For(Caller.Builders);
    }

    private static async Task<Ok<List<DayNoteAnswer>>> ListAsync(
        DayNoteStore notes,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null
    ) => TypedResults.Ok(await notes.ListAsync(from, to, cancel));

    private static async Task<Outcome<DayNoteAnswer>> AddAsync(DayNoteRequest request, DayNoteStore notes, CancellationToken cancel) =>
        await notes.AddAsync(request, cancel);

    private static async Task<Outcome<DayNoteAnswer>> ChangeAsync(
        Guid id,
        DayNoteRequest request,
        DayNoteStore notes,
        CancellationToken cancel
    ) => await notes.ChangeAsync(id, request, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, DayNoteStore notes, CancellationToken cancel) =>
        await notes.RemoveAsync(id, cancel);
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
