using System.Security.Cryptography;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Data.Entities;

public sealed class Workspace
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public required string Name { get; set; }

    /// <summary>ISO 4217.</summary>
    public required string Currency { get; set; }

    /// <summary>IANA name.</summary>
    public required string TimeZone { get; set; }

    public ExistingTags ExistingTags { get; set; }

    public PlaceholderShapes LivePlaceholders { get; set; }

    public bool PlusForSpace { get; set; }

    /// <summary>How many whole months before the current one raw rows, visits and clicks are kept one by one.</summary>
    public int RawMonths { get; set; } = 25;

    /// <summary>The first day whose raw rows are complete, in the workspace's zone; null as long as none had their time.</summary>
    public DateOnly? RawFrom { get; set; }

    /// <summary>Another one with every change of what counts as a conversion; null as long as nothing was defined.</summary>
    public Guid? ConversionsStamp { get; set; }

    /// <summary>What codes of sealed links are made with, in Base64.</summary>
    public string SealingSecret { get; set; } = Convert.ToBase64String(RandomNumberGenerator.GetBytes(32));

    /// <summary>True for the demo's workspace; its sign-ins and keys exist only in demo mode.</summary>
    public bool IsDemo { get; set; }

    public DateTimeOffset CreatedAt { get; set; }
}

/// <summary>A row that belongs to one workspace and is never seen from another.</summary>
public interface IWorkspaceRow
{
    Guid WorkspaceId { get; set; }
}
