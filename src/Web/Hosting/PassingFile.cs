namespace PreciseBeacon.Web.Hosting;

/// <summary>A file that lies on disk only until it was sent, for what is too large to be held.</summary>
public static class PassingFile
{
    private const int Buffer = 1 << 16;

    /// <summary>Writes a file and winds it back; it is gone when the stream is closed.</summary>
    public static async Task<Stream> WriteAsync(Func<Stream, Task> write)
    {
        var file = new FileStream(
            Path.Combine(Path.GetTempPath(), Path.GetRandomFileName()),
            FileMode.CreateNew,
            FileAccess.ReadWrite,
            FileShare.None,
            Buffer,
            FileOptions.DeleteOnClose | FileOptions.Asynchronous
        );
        try
        {
            await write(file);
            file.Position = 0;
            return file;
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }
}
