using Npgsql;
using NpgsqlTypes;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Writes values that may be null in a binary COPY.</summary>
internal static class NullableCopy
{
    public static Task WriteNullableAsync<T>(this NpgsqlBinaryImporter copy, T? value, NpgsqlDbType type, CancellationToken cancel)
        where T : class => value is null ? copy.WriteNullAsync(cancel) : copy.WriteAsync(value, type, cancel);

    public static Task WriteNullableAsync<T>(this NpgsqlBinaryImporter copy, T? value, NpgsqlDbType type, CancellationToken cancel)
        where T : struct => value is { } given ? copy.WriteAsync(given, type, cancel) : copy.WriteNullAsync(cancel);
}
