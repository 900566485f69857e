using System.Globalization;

namespace PreciseBeacon.Data.Spooling;

/// <summary>
/// A process's own, locked directory of segments. What was appended survives the death of the process and of
/// PostgreSQL, not a power cut. Appending is one short copy under a lock.
/// </summary>
public sealed class Spool : IDisposable
{
    private const string LockName = "lock";
    private const string SegmentSuffix = ".segment";

    private readonly string _directory;
    private readonly SpoolOptions _options;
    private readonly FileStream _lock;
    private readonly Lock _appending = new();
    private readonly List<SpoolSegment> _segments = []; // in order; the last one takes appends
    private Task<SpoolSegment>? _spare;
    private bool _closed;
    private long _appended;

    private Spool(string directory, SpoolOptions options, FileStream held)
    {
        _directory = directory;
        _options = options;
        _lock = held;
        Id = Guid.Parse(Path.GetFileName(directory));
        foreach (string path in Directory.EnumerateFiles(directory, "*" + SegmentSuffix).Order(StringComparer.Ordinal))
        {
            _segments.Add(SpoolSegment.Open(path, long.Parse(Path.GetFileNameWithoutExtension(path), CultureInfo.InvariantCulture)));
        }
    }

    /// <summary>Names the spool in the database, so that what was moved is known.</summary>
    public Guid Id { get; }

    /// <summary>Raised after a record was appended; wakes the mover.</summary>
    public SemaphoreSlim Waiting { get; } = new(0, 1);

    /// <summary>How many records were appended since the spool was opened.</summary>
    public long Appended => Volatile.Read(ref _appended);

    /// <summary>How much of the spool is taken, from 0 to 1.</summary>
    public double Fullness
    {
        get
        {
            lock (_appending)
            {
                return (double)_segments.Count / _options.MostSegments;
            }
        }
    }

    /// <summary>Opens every spool under a root that no living process holds.</summary>
    public static IReadOnlyList<Spool> OpenOrphans(string root, SpoolOptions options) =>
        Directory.Exists(root)
            ? [.. Directory.EnumerateDirectories(root).Order(StringComparer.Ordinal).Select(d => TryOpen(d, options)).OfType<Spool>()]
            : [];

    /// <summary>Makes a spool of one's own under a root.</summary>
    public static Spool Create(string root, SpoolOptions options)
    {
        string directory = Path.Combine(root, Guid.CreateVersion7().ToString());
        Directory.CreateDirectory(directory);
        return TryOpen(directory, options) ?? throw new IOException($"{directory} was taken while it was being made.");
    }

    /// <summary>Appends a record; it is safe when this returns true. False when the spool is full or the disk is.</summary>
    public bool TryAppend(ReadOnlySpan<byte> payload)
    {
        lock (_appending)
        {
            if (_closed)
            {
                return false;
            }

            if (_segments.Count == 0 || !_segments[^1].TryAppend(payload))
            {
                if (!TryRotate() || !_segments[^1].TryAppend(payload))
                {
                    return false;
                }
            }

            _appended++;
        }

        if (Waiting.CurrentCount == 0)
        {
            try
            {
                Waiting.Release();
            }
            catch (SemaphoreFullException)
            {
                // Somebody else woke the mover in the same moment.
            }
        }

        return true;
    }

    /// <summary>Reads records from a place on, until the reader has enough or there are no more.</summary>
    /// <param name="from">The place moved up to; a place in a segment long gone means the first one that is there.</param>
    /// <param name="take">Takes one record; false when that was enough.</param>
    /// <returns>The place after the last record taken.</returns>
    public SpoolPosition Read(SpoolPosition from, Func<ReadOnlyMemory<byte>, bool> take)
    {
        SpoolSegment[] segments;
        lock (_appending)
        {
            segments = [.. _segments];
        }

        var position = from;
        foreach (var segment in segments)
        {
            if (segment.Number < position.Segment)
            {
                continue;
            }

            long offset = segment.Number == position.Segment ? position.Offset : SpoolSegment.FirstOffset;
            while (segment.TryRead(offset, out var payload, out long next))
            {
                offset = next;
                position = new SpoolPosition(segment.Number, offset);
                if (!take(payload.ToArray()))
                {
                    return position;
                }
            }
        }

        return position;
    }

    /// <summary>Deletes the segments that were moved whole; the one that takes appends stays.</summary>
    public void Forget(SpoolPosition moved)
    {
        lock (_appending)
        {
            while (_segments.Count > 1 && _segments[0].Number < moved.Segment)
            {
                Drop(_segments[0]);
            }
        }
    }

    /// <summary>Takes no more records.</summary>
    public void Close()
    {
        lock (_appending)
        {
            _closed = true;
        }
    }

    /// <summary>Deletes an adopted spool after its last record was moved, and lets go of it.</summary>
    public void Delete()
    {
        Dispose();
        Directory.Delete(_directory, recursive: true);
    }

    public void Dispose()
    {
        Close();
        _spare?.ContinueWith(
            t => t.Result.Dispose(),
            CancellationToken.None,
            TaskContinuationOptions.OnlyOnRanToCompletion,
            TaskScheduler.Default
        );
        foreach (var segment in _segments)
        {
            segment.Dispose();
        }

        _lock.Dispose();
        Waiting.Dispose();
    }

    private static Spool? TryOpen(string directory, SpoolOptions options)
    {
        if (!Guid.TryParse(Path.GetFileName(directory), out _))
        {
            return null;
        }

        FileStream held;
        try
        {
            // The lock goes with its process, however that ends.
            held = new FileStream(Path.Combine(directory, LockName), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (IOException)
        {
            return null;
        }

        return new Spool(directory, options, held);
    }

    private bool TryRotate()
    {
        if (_segments.Count >= _options.MostSegments)
        {
            return false;
        }

        long number = _segments.Count == 0 ? DateTimeOffset.UtcNow.ToUnixTimeMilliseconds() : _segments[^1].Number + 1;
        try
        {
            var next =
                _spare is { IsCompletedSuccessfully: true } && _spare.Result.Number == number ? _spare.Result
                : _spare?.GetAwaiter().GetResult() is { } waited && waited.Number == number ? waited
                : Make(number);
            _segments.Add(next);
            _spare = _segments.Count < _options.MostSegments ? Task.Run(() => Make(number + 1)) : null;
            return true;
        }
        catch (IOException)
        {
            _spare = null;
            return false;
        }
    }

    private SpoolSegment Make(long number) =>
        SpoolSegment.Create(
            Path.Combine(_directory, number.ToString("D16", CultureInfo.InvariantCulture) + SegmentSuffix),
            number,
            _options.SegmentLength
        );

    private void Drop(SpoolSegment segment)
    {
        _segments.Remove(segment);
        segment.Dispose();
        File.Delete(segment.Path);
    }
}

/// <summary>Size of a spool.</summary>
/// <param name="SegmentLength">Octets of one segment.</param>
/// <param name="MostSegments">Segments that may wait to be moved; beyond that the spool is full.</param>
public sealed record SpoolOptions(long SegmentLength = 16 << 20, int MostSegments = 64);

/// <summary>A place in a spool: the number of a segment and an offset in it.</summary>
public readonly record struct SpoolPosition(long Segment, long Offset);
