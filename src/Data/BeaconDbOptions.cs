using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace PreciseBeacon.Data;

/// <summary>How the database is spoken to.</summary>
public static class BeaconDbOptions
{
    public static DbContextOptions<BeaconDb> For(string connectionString)
    {
        var builder = new DbContextOptionsBuilder<BeaconDb>();
        Configure(builder, connectionString);
        return builder.Options;
    }

    public static void Configure(DbContextOptionsBuilder builder, string connectionString) =>
        builder.UseNpgsql(connectionString).UseSnakeCaseNamingConvention()

            // Counting to so many and no further needs no order; pages that are shown all have one.
            .ConfigureWarnings(w => w.Ignore(CoreEventId.RowLimitingOperationWithoutOrderByWarning));
}
