using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Applies migrations before anything is served; one process at a time, the others wait.</summary>
public static class DatabaseSetup
{
    public static async Task ApplyMigrationsAsync(IServiceProvider services, CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<BeaconDb>();
        await db.Database.MigrateAsync(cancel);
    }
}
