namespace PreciseBeacon.Data.Entities;

/// <summary>An access log that is read, or was.</summary>
public sealed class LogReading : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>The site whose server wrote it.</summary>
    public Guid SiteId { get; set; }

    public Site? Site { get; set; }

    public required string FileName { get; set; }

    /// <summary>The file's length in octets, as it was sent.</summary>
    public long Octets { get; set; }

    /// <summary>How far it is read, in octets of the file as it was sent.</summary>
    public long OctetsRead { get; set; }

    /// <summary>How far it is read, in octets of its text: reading goes on there after the process died.</summary>
    public long Position { get; set; }

    /// <summary>Lines read so far.</summary>
    public long Lines { get; set; }

    /// <summary>Lines that became page views.</summary>
    public long Kept { get; set; }

    /// <summary>Lines left out, by <see cref="Core.Traffic.AccessLogs.LogLineSkip"/>: a JSON object of whole numbers.</summary>
    public string Skipped { get; set; } = "{}";

    /// <summary>Days on which the site's pages measured themselves are left out.</summary>
    public bool LeavesMeasuredDays { get; set; }

    /// <summary>The first day with a page view from it, in the workspace's zone.</summary>
    public DateOnly? FirstDay { get; set; }

    /// <summary>The last day with a page view from it.</summary>
    public DateOnly? LastDay { get; set; }

    public LogReadingState State { get; set; }

    /// <summary>Why it failed.</summary>
    public LogReadingFault? Fault { get; set; }

    public required string AddedBy { get; set; }

    public DateTimeOffset AddedAt { get; set; }

    public DateTimeOffset? EndedAt { get; set; }
}

/// <summary>How far reading an access log has come.</summary>
public enum LogReadingState
{
    /// <summary>It is being read, or will be.</summary>
    Reading,

    /// <summary>All of it is read.</summary>
    Read,

    /// <summary>Somebody stopped it; what was read until then stays.</summary>
    Cancelled,

    /// <summary>It could not be read to its end; what was read until then stays.</summary>
    Failed,
}

/// <summary>Why an access log could not be read.</summary>
public enum LogReadingFault
{
    /// <summary>Its first lines are all in another format.</summary>
    NotCombined,

    /// <summary>It is packed, and broken or cut off.</summary>
    BrokenArchive,

    /// <summary>It unpacks to more than is read.</summary>
    TooLongUnpacked,

    /// <summary>The process that had the file is gone, and the file with it.</summary>
    FileGone,

    /// <summary>Its site was removed meanwhile.</summary>
    SiteGone,
}
