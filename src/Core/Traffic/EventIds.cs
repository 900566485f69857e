using System.Buffers.Binary;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Makes event ids that sort as the events came: a UUID of version 7 (RFC 9562, section 5.7) whose first random bits
/// are a counter of this process. Safe for many threads.
/// </summary>
/// <param name="random">48 random bits that tell this process's ids from any other's.</param>
public sealed class EventIds(long random)
{
    private const int CounterBits = 26;

    private int _counter;

    /// <summary>When the event of an id came, to the millisecond; null for an id that is not of version 7.</summary>
    public static DateTimeOffset? TimeOf(Guid id)
    {
        Span<byte> octets = stackalloc byte[16];
        id.TryWriteBytes(octets, bigEndian: true, out _);
        return id.Version == 7 && BinaryPrimitives.ReadInt64BigEndian(octets) >>> 16 is var at && at < 253_402_300_800_000 // the year 10000
            ? DateTimeOffset.FromUnixTimeMilliseconds(at)
            : null;
    }

    /// <summary>The next id, for an event at a moment.</summary>
    public Guid Next(DateTimeOffset at)
    {
        long counter = Interlocked.Increment(ref _counter) & ((1 << CounterBits) - 1);
        Span<byte> octets = stackalloc byte[16];
        BinaryPrimitives.WriteInt64BigEndian(octets, (at.ToUnixTimeMilliseconds() << 16) | 0x7000L | (counter >> 14));
        BinaryPrimitives.WriteInt64BigEndian(octets[8..], (2L << 62) | ((counter & 0x3FFF) << 48) | (random & 0xFFFF_FFFF_FFFF));
        return new Guid(octets, bigEndian: true);
    }
}
