namespace PreciseBeacon.Web.Hosting;

/// <summary>Says once that the database is away, with what follows from it, and once that it is there again. Safe for many threads.</summary>
/// <param name="log">Where it is said.</param>
/// <param name="consequence">What follows from it for whoever says it; one sentence.</param>
public sealed partial class Outage(ILogger log, string consequence)
{
    private int _away;

    /// <summary>It failed; only the first failure of an outage is told.</summary>
    public void Begin(Exception failure)
    {
        if (Interlocked.Exchange(ref _away, 1) == 0)
        {
            LogBegin(failure.Message, consequence);
        }
    }

    /// <summary>It worked.</summary>
    public void End()
    {
        if (Volatile.Read(ref _away) == 1 && Interlocked.Exchange(ref _away, 0) == 1)
        {
            LogEnd(consequence);
        }
    }

    [LoggerMessage(LogLevel.Warning, "The database can't be reached: {Reason} {Consequence}")]
    private partial void LogBegin(string reason, string consequence);

    [LoggerMessage(LogLevel.Warning, "The database is there again; this is over: {Consequence}")]
    private partial void LogEnd(string consequence);
}
