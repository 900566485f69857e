using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Locks that let one process at a time work out; they end with the transaction.</summary>
internal static class WorkLock
{
    public const long Visits = 7_003;
    public const long Clicks = 7_004;
    public const long Segments = 7_005;

    public static async Task<bool> TryTakeAsync(NpgsqlConnection connection, long which, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select pg_try_advisory_xact_lock($1)", connection);
        command.Parameters.Add(new() { Value = which });
        return (bool)(await command.ExecuteScalarAsync(cancel))!;
    }
}
