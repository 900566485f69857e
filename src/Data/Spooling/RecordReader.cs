using System.Buffers.Binary;
using System.Text;

namespace PreciseBeacon.Data.Spooling;

/// <summary>Reads the parts of a record in the order <see cref="RecordWriter"/> wrote them.</summary>
internal ref struct RecordReader(ReadOnlySpan<byte> record)
{
    private ReadOnlySpan<byte> _rest = record;

    public readonly bool AtEnd => _rest.IsEmpty;

    public byte Byte()
    {
        byte value = _rest[0];
        _rest = _rest[1..];
        return value;
    }

    public Guid Id()
    {
        var value = new Guid(_rest[..16]);
        _rest = _rest[16..];
        return value;
    }

    public Guid? OptionalId() => Byte() == 0 ? null : Id();

    public DateTimeOffset Moment()
    {
        long microseconds = BinaryPrimitives.ReadInt64LittleEndian(_rest);
        _rest = _rest[8..];
        return new DateTimeOffset(DateTime.UnixEpoch.Ticks + (microseconds * TimeSpan.TicksPerMicrosecond), TimeSpan.Zero);
    }

    public long Whole()
    {
        long value = BinaryPrimitives.ReadInt64LittleEndian(_rest);
        _rest = _rest[8..];
        return value;
    }

    public string Text()
    {
        int length = BinaryPrimitives.ReadUInt16LittleEndian(_rest);
        string value = Encoding.UTF8.GetString(_rest.Slice(2, length));
        _rest = _rest[(2 + length)..];
        return value;
    }

    public string? OptionalText() => Byte() == 0 ? null : Text();
}
