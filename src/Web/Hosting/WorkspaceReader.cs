using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Hosting;

/// <summary>The workspace the request is about, and which day it is there.</summary>
public sealed class WorkspaceReader(BeaconDb db, TimeProvider clock)
{
    public Task<Workspace> ReadAsync(CancellationToken cancel) =>
        db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);

    public async Task<DateOnly> TodayAsync(CancellationToken cancel) => TodayIn(await ReadAsync(cancel));

    public DateOnly TodayIn(Workspace workspace) => WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
}
