using System.Buffers.Binary;
using System.IO.MemoryMappedFiles;
using System.Numerics;

namespace PreciseBeacon.Data.Spooling;

/// <summary>
/// One file of a spool, allocated in full and mapped into memory. A record is there once its commit word is written,
/// which is the last thing done; the mapping belongs to the kernel, so records outlive the process. A record torn by
/// the process's death has no valid commit word, and as records never overlap it can only be the last one.
/// </summary>
internal sealed unsafe class SpoolSegment : IDisposable
{
    private const ulong Magic = 0x31_4C_4F_4F_50_53_42_50; // "PBSPOOL1"
    private const int HeaderLength = 32;
    private const int RecordHeaderLength = 8;

    private readonly MemoryMappedFile _file;
    private readonly MemoryMappedViewAccessor _view;
    private readonly byte* _start;
    private readonly uint _seed;
    private long _committed;
    private bool _disposed;

    private SpoolSegment(string path, long number, long length, bool isNew)
    {
        Path = path;
        Number = number;
        Length = length;
        _file = MemoryMappedFile.CreateFromFile(path, FileMode.Open, null, 0, MemoryMappedFileAccess.ReadWrite);
        _view = _file.CreateViewAccessor(0, length);
        _view.SafeMemoryMappedViewHandle.AcquirePointer(ref _start);
        var header = new Span<byte>(_start, HeaderLength);
        if (isNew || BinaryPrimitives.ReadUInt64LittleEndian(header) != Magic)
        {
            // Without its magic word the file was made but nothing was ever appended to it.
            _seed = (uint)System.Security.Cryptography.RandomNumberGenerator.GetInt32(1, int.MaxValue);
            BinaryPrimitives.WriteUInt32LittleEndian(header[8..], _seed);
            BinaryPrimitives.WriteUInt64LittleEndian(header, Magic);
            _committed = HeaderLength;
        }
        else
        {
            _seed = BinaryPrimitives.ReadUInt32LittleEndian(header[8..]);
            _committed = FindEnd();
        }
    }

    public string Path { get; }

    public long Number { get; }

    public long Length { get; }

    /// <summary>Where the first record begins.</summary>
    public static long FirstOffset => HeaderLength;

    /// <summary>End of the last record that is wholly there.</summary>
    public long Committed => Volatile.Read(ref _committed);

    /// <summary>Makes a new file with every block allocated, so that a full disk is noticed here and not while writing.</summary>
    /// <exception cref="IOException">The disk is full.</exception>
    public static SpoolSegment Create(string path, long number, long length)
    {
        string making = path + ".new";
        using (
            new FileStream(
                making,
                new FileStreamOptions
                {
                    Mode = FileMode.Create,
                    Access = FileAccess.ReadWrite,
                    PreallocationSize = length,
                }
            )
        ) { }

        using (var file = new FileStream(making, FileMode.Open, FileAccess.ReadWrite))
        {
            file.SetLength(length);
        }

        File.Move(making, path, overwrite: true);
        var segment = new SpoolSegment(path, number, length, isNew: true);
        segment.TouchPages();
        return segment;
    }

    public static SpoolSegment Open(string path, long number) => new(path, number, new FileInfo(path).Length, isNew: false);

    /// <summary>Appends a record; the caller holds the spool's lock. False when it doesn't fit any more.</summary>
    public bool TryAppend(ReadOnlySpan<byte> payload)
    {
        long at = _committed;
        long end = at + Padded(payload.Length);
        if (end > Length)
        {
            return false;
        }

        byte* record = _start + at;
        *(int*)record = payload.Length;
        payload.CopyTo(new Span<byte>(record + RecordHeaderLength, payload.Length));
        Volatile.Write(ref *(uint*)(record + 4), CommitWord(payload));
        Volatile.Write(ref _committed, end);
        return true;
    }

    /// <summary>The record at an offset and the offset of the next one; false at the end.</summary>
    public bool TryRead(long offset, out ReadOnlySpan<byte> payload, out long next)
    {
        payload = default;
        next = offset;
        if (offset >= Committed)
        {
            return false;
        }

        int length = *(int*)(_start + offset);
        payload = new ReadOnlySpan<byte>(_start + offset + RecordHeaderLength, length);
        next = offset + Padded(length);
        return true;
    }

    public void Dispose()
    {
        if (_disposed)
        {
            return;
        }

        _disposed = true;
        _view.SafeMemoryMappedViewHandle.ReleasePointer();
        _view.Dispose();
        _file.Dispose();
    }

    /// <summary>Has the kernel ready every page now, so that no append waits for one.</summary>
    private void TouchPages()
    {
        for (long at = HeaderLength; at < Length; at += Environment.SystemPageSize)
        {
            Volatile.Write(ref *(_start + at), 0);
        }
    }

    private static long Padded(int length) => RecordHeaderLength + ((length + 7L) & ~7L);

    private long FindEnd()
    {
        long at = HeaderLength;
        while (at + RecordHeaderLength <= Length)
        {
            int length = *(int*)(_start + at);
            uint commit = *(uint*)(_start + at + 4);
            if (
                length <= 0
                || at + Padded(length) > Length
                || commit != CommitWord(new ReadOnlySpan<byte>(_start + at + RecordHeaderLength, length))
            )
            {
                break;
            }

            at += Padded(length);
        }

        return at;
    }

    /// <summary>CRC-32C of the payload, begun with the segment's secret seed and never 0.</summary>
    private uint CommitWord(ReadOnlySpan<byte> payload)
    {
        uint crc = BitOperations.Crc32C(_seed, (uint)payload.Length);
        int at = 0;
        for (; at + 8 <= payload.Length; at += 8)
        {
            crc = BitOperations.Crc32C(crc, BinaryPrimitives.ReadUInt64LittleEndian(payload[at..]));
        }

        for (; at < payload.Length; at++)
        {
            crc = BitOperations.Crc32C(crc, payload[at]);
        }

        return crc == 0 ? 1 : crc;
    }
}
