using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>How long visits and clicks are kept one by one.</summary>
public static class RetentionEndpoints
{
    private const string What = "retention";
    private const int Fewest = 1;
    private const int Most = 120;

    public static void MapRetention(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/retention").WithTags("Measuring");
        group
            .MapGet("", ReadAsync)
            .WithName("ReadRetention")
            .WithSummary("Reads how long visits and clicks are kept one by one.")
            .For(Caller.Readers);
        group
            .MapPost("/count", CountAsync)
            .WithName("CountRetention")
            .WithSummary("Counts the visits and clicks that another span would delete.")
            .For(Caller.Owner);
        group
            .MapPut("", ChangeAsync)
            .WithName("ChangeRetention")
            .WithSummary("Changes how long visits and clicks are kept one by one.")
            .For(Caller.Owner);
    }

    private static async Task<Outcome<RetentionAnswer>> ReadAsync(BeaconDb db, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        return new RetentionAnswer(workspace.RawMonths, workspace.RawFrom);
    }

    private static async Task<Outcome<RetentionEffect>> CountAsync(
        NewRetention span,
        BeaconDb db,
        Retention retention,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (Problem(span) is { } refusal)
        {
            return refusal;
        }

        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var first = FirstDay(workspace, span.Months, clock);
        var (visits, clicks) = await retention.CountAsync(workspace.Id, first, workspace.TimeZone, cancel);
        return new RetentionEffect(first, visits, clicks);
    }

    private static async Task<Refusal?> ChangeAsync(NewRetention span, BeaconDb db, AuditLog auditLog, CancellationToken cancel)
    {
        if (Problem(span) is { } refusal)
        {
            return refusal;
        }

        var workspace = await db.Workspaces.SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        auditLog.Add(What, workspace.Id, new { Months = workspace.RawMonths }, new { span.Months });
        workspace.RawMonths = span.Months;
        await db.SaveChangesAsync(cancel);
        return null;
    }

    private static DateOnly FirstDay(Workspace workspace, int months, TimeProvider clock) =>
        KeptSpan.FirstDay(WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone), months);

    private static Refusal? Problem(NewRetention span) =>
        span.Months is < Fewest or > Most
            ? Refusal.Invalid("months-refused", $"Visits and clicks are kept one by one for {Fewest} to {Most} whole months.")
            : null;
}

/// <summary>How long visits and clicks are kept one by one. Reports of earlier days stay.</summary>
/// <param name="Months">Whole months before the current one.</param>
/// <param name="RawFrom">The first day they are there one by one; null as long as nothing had its time.</param>
public sealed record RetentionAnswer(int Months, DateOnly? RawFrom);

/// <summary>Another span.</summary>
/// <param name="Months">Whole months before the current one, 1 to 120.</param>
public sealed record NewRetention(int Months);

/// <summary>What a span would delete.</summary>
/// <param name="From">The first day that would stay.</param>
/// <param name="Visits">Visits before it that are still there one by one.</param>
/// <param name="Clicks">Clicks before it that are still there one by one.</param>
public sealed record RetentionEffect(DateOnly From, long Visits, long Clicks);
