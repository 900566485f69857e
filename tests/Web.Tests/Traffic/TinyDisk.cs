using System.Diagnostics;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>A disk of a few megabytes in memory, mounted while a test runs.</summary>
public sealed class TinyDisk : IDisposable
{
    private TinyDisk(string path) => Path = path;

    public string Path { get; }

    /// <summary>Mounts one.</summary>
    /// <returns>Null where mounting is not allowed, as in a container without that right.</returns>
    public static TinyDisk? TryMount(int megabytes)
    {
        string path = Directory.CreateTempSubdirectory("beacon-disk-").FullName;
        if (Run("mount", "-t", "tmpfs", "-o", $"size={megabytes}m", "tmpfs", path))
        {
            return new TinyDisk(path);
        }

        Directory.Delete(path);
        return null;
    }

    /// <summary>Takes what is free, but for some of it.</summary>
    public void Fill(int leaveMegabytes)
    {
        long free = new DriveInfo(Path).AvailableFreeSpace - ((long)leaveMegabytes << 20);
        using var filler = File.Create(Filler);
        byte[] block = new byte[1 << 20];
        for (long written = 0; written < free; written += block.Length)
        {
            filler.Write(block, 0, (int)Math.Min(block.Length, free - written));
        }
    }

    public void Free() => File.Delete(Filler);

    public void Dispose()
    {
        Run("umount", "-l", Path);
        Directory.Delete(Path);
    }

    private string Filler => System.IO.Path.Combine(Path, "filler");

    private static bool Run(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardError = true })!;
        process.WaitForExit();
        return process.ExitCode == 0;
    }
}
