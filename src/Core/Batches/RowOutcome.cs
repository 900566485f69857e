namespace PreciseBeacon.Core.Batches;

/// <summary>What a run would make, or made, of a row.</summary>
public static class RowOutcome
{
    /// <summary>It gets its first link.</summary>
    public const string New = "new";

    /// <summary>It gets a link of the Ledger that has its URL already; none is made.</summary>
    public const string Existing = "existing";

    /// <summary>It gets another link than an earlier run gave it.</summary>
    public const string Changed = "changed";

    /// <summary>It keeps the link it has.</summary>
    public const string Unchanged = "unchanged";

    /// <summary>It yields no link, and says why.</summary>
    public const string Stopped = "stopped";

    /// <summary>There is nothing in it.</summary>
    public const string Empty = "empty";

    /// <summary>The outcome.</summary>
    /// <param name="ready">The convention lets the link pass.</param>
    /// <param name="url">Its URL, or null.</param>
    /// <param name="earlier">The URL an earlier run gave it, or null.</param>
    /// <param name="mode">What happens to earlier links.</param>
    /// <param name="exists">A link with its URL is in the Ledger and is to be used.</param>
    public static string Of(bool ready, string? url, string? earlier, ResultsMode mode, bool exists = false) =>
        earlier is not null && (mode == ResultsMode.Keep || earlier == url) ? Unchanged
        : !ready ? Stopped
        : earlier is null
            ? exists ? Existing
                : New
        : Changed;
}
