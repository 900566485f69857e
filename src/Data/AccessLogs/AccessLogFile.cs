using System.IO.Compression;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>Reads a log line by line, plain or packed with gzip, in memory that does not grow with it.</summary>
public sealed class AccessLogFile : IDisposable
{
    /// <summary>A longer line is no line of a log; it is passed over.</summary>
    public const int LongestLine = 64 * 1024;

    private readonly FileStream _file;
    private readonly Stream _text;
    private readonly byte[] _buffer = new byte[1 << 20];
    private int _from;
    private int _until;
    private bool _ended;

    private AccessLogFile(FileStream file, Stream text) => (_file, _text) = (file, text);

    /// <summary>Where the next line begins, in octets of the text.</summary>
    public long Position { get; private set; }

    /// <summary>How much of the file is read, in octets as it lies there.</summary>
    public long OctetsRead => _file.Position;

    /// <summary>Opens a log for one reader at a time, which goes on at a place in its text.</summary>
    /// <exception cref="IOException">Somebody else reads it.</exception>
    /// <exception cref="InvalidDataException">It is packed, and broken before that place.</exception>
    public static AccessLogFile Open(string path, long position)
    {
        var file = new FileStream(path, FileMode.Open, FileAccess.ReadWrite, FileShare.None, 1 << 16, FileOptions.SequentialScan);
        try
        {
            // RFC 1952 §2.3.1.
            bool packed = file.ReadByte() == 0x1F && file.ReadByte() == 0x8B;
            file.Position = 0;
            var log = new AccessLogFile(file, packed ? new GZipStream(file, CompressionMode.Decompress) : file);
            log.GoTo(position);
            return log;
        }
        catch
        {
            file.Dispose();
            throw;
        }
    }

    /// <summary>The next line without its end.</summary>
    /// <param name="line">The line, which holds until the next call; empty where it was too long.</param>
    /// <returns>False at the end of the file.</returns>
    /// <exception cref="InvalidDataException">It is packed, and broken or cut off.</exception>
    public bool TryReadLine(out ReadOnlySpan<byte> line)
    {
        line = default;
        bool tooLong = false;
        while (true)
        {
            var have = _buffer.AsSpan(_from, _until - _from);
            int end = have.IndexOf((byte)'\n');
            if (end >= 0)
            {
                line = tooLong || end > LongestLine ? default : have[..end].TrimEnd((byte)'\r');
                Skip(end + 1);
                return true;
            }

            if (have.Length > LongestLine)
            {
                tooLong = true;
                Skip(have.Length);
            }

            if (!Fill())
            {
                have = _buffer.AsSpan(_from, _until - _from);
                bool some = tooLong || have.Length > 0;
                line = tooLong ? default : have.TrimEnd((byte)'\r');
                Skip(have.Length);
                return some;
            }
        }
    }

    public void Dispose()
    {
        _text.Dispose();
        _file.Dispose();
    }

    private void Skip(int octets)
    {
        _from += octets;
        Position += octets;
    }

    private bool Fill()
    {
        if (_ended)
        {
            return false;
        }

        if (_from > 0)
        {
            _buffer.AsSpan(_from, _until - _from).CopyTo(_buffer);
            _until -= _from;
            _from = 0;
        }

        int read = _text.Read(_buffer, _until, _buffer.Length - _until);
        _until += read;
        _ended = read == 0;
        return read > 0;
    }

    private void GoTo(long position)
    {
        if (_text == _file)
        {
            _file.Position = Position = Math.Min(position, _file.Length);
            return;
        }

        while (Position < position && (_until > _from || Fill()))
        {
            Skip((int)Math.Min(_until - _from, position - Position));
        }
    }
}
