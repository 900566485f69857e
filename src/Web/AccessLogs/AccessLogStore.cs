using Microsoft.Extensions.Options;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.AccessLogs;

/// <summary>Where access logs lie until they are read: one file each, named by its reading.</summary>
public sealed class AccessLogStore(IOptions<BeaconOptions> options)
{
    private const string Arriving = ".part";
    private static readonly TimeSpan LongestUpload = TimeSpan.FromDays(1);

    private readonly string _directory = Path.Combine(options.Value.DataDirectory, "logs");

    /// <summary>Where a reading's file lies.</summary>
    public string PathOf(Guid readingId) => Path.Combine(_directory, readingId.ToString("N"));

    /// <summary>Begins a file that is not complete yet.</summary>
    public FileStream Begin(Guid readingId)
    {
        Directory.CreateDirectory(_directory);
        return new FileStream(PathOf(readingId) + Arriving, FileMode.CreateNew, FileAccess.Write, FileShare.None, 1 << 16);
    }

    /// <summary>Says that a file is complete.</summary>
    public void Complete(Guid readingId) => File.Move(PathOf(readingId) + Arriving, PathOf(readingId));

    /// <summary>Deletes a file, complete or not.</summary>
    public void Delete(Guid readingId)
    {
        if (!Directory.Exists(_directory))
        {
            return;
        }

        File.Delete(PathOf(readingId));
        File.Delete(PathOf(readingId) + Arriving);
    }

    /// <summary>The readings whose files are complete, the oldest first.</summary>
    public IReadOnlyList<Guid> Complete() => Named("");

    /// <summary>The readings whose files are not said to be complete.</summary>
    public IReadOnlyList<Guid> Incomplete() => Named(Arriving);

    /// <summary>Deletes what a process that died left half sent.</summary>
    public void DeleteLeftovers(DateTimeOffset now)
    {
        foreach (var id in Incomplete())
        {
            if (File.GetLastWriteTimeUtc(PathOf(id) + Arriving) < (now - LongestUpload).UtcDateTime)
            {
                Delete(id);
            }
        }
    }

    private List<Guid> Named(string ending) =>
        Directory.Exists(_directory)
            ?
            [
                .. Directory
                    .EnumerateFiles(_directory)
                    .Select(Path.GetFileName)
                    .Where(f => f!.EndsWith(ending, StringComparison.Ordinal))
                    .Select(f => Guid.TryParseExact(f![..^ending.Length], "N", out var id) ? id : (Guid?)null)
                    .OfType<Guid>()
                    .Order(),
            ]
            : [];
}
