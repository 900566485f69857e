using System.Buffers.Binary;
using System.Text;

namespace PreciseBeacon.Data.Spooling;

/// <summary>Writes the parts of a record into a buffer, front to back. Texts are cut to a number of characters.</summary>
internal ref struct RecordWriter(Span<byte> buffer)
{
    private readonly Span<byte> _buffer = buffer;
    private int _at;

    public readonly int Length => _at;

    public void Byte(byte value) => _buffer[_at++] = value;

    public void Id(Guid value)
    {
        value.TryWriteBytes(_buffer[_at..]);
        _at += 16;
    }

    public void OptionalId(Guid? value)
    {
        Byte(value is null ? (byte)0 : (byte)1);
        if (value is { } id)
        {
            Id(id);
        }
    }

    /// <summary>A moment in microseconds since the Unix epoch, as PostgreSQL keeps it.</summary>
    public void Moment(DateTimeOffset value)
    {
        BinaryPrimitives.WriteInt64LittleEndian(_buffer[_at..], (value.UtcTicks - DateTime.UnixEpoch.Ticks) / TimeSpan.TicksPerMicrosecond);
        _at += 8;
    }

    public void Whole(long value)
    {
        BinaryPrimitives.WriteInt64LittleEndian(_buffer[_at..], value);
        _at += 8;
    }

    public void Text(ReadOnlySpan<char> value, int most)
    {
        var cut = value.Length <= most ? value : value[..most];
        int count = Encoding.UTF8.GetBytes(cut, _buffer[(_at + 2)..]);

        // PostgreSQL keeps no NUL in a text; one sent by a stranger must not stop the mover.
        _buffer.Slice(_at + 2, count).Replace((byte)0, (byte)' ');
        BinaryPrimitives.WriteUInt16LittleEndian(_buffer[_at..], (ushort)count);
        _at += 2 + count;
    }

    public void OptionalText(string? value, int most)
    {
        Byte(value is null ? (byte)0 : (byte)1);
        if (value is not null)
        {
            Text(value, most);
        }
    }
}
