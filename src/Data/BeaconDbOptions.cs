using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Npgsql;

namespace PreciseBeacon.Data;

/// <summary>How the database is spoken to.</summary>
public static class BeaconDbOptions
{
    public static void Configure(DbContextOptionsBuilder builder, NpgsqlDataSource database) =>
        builder
            // A connection, not the pool: a pool is part of what the model and the compiled queries are remembered by.
            .UseNpgsql(database.CreateConnection(), contextOwnsConnection: true)
            .UseSnakeCaseNamingConvention()
            // Counting to so many and no further needs no order; pages that are shown all have one.
            .ConfigureWarnings(w => w.Ignore(CoreEventId.RowLimitingOperationWithoutOrderByWarning));
}
