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
        // A step over very many links takes its time; half a step would keep the application from starting.
        db.Database.SetCommandTimeout(TimeSpan.FromHours(2));
        await db.Database.MigrateAsync(cancel);
    }
}
