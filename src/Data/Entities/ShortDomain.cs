using System.Security.Cryptography;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Data.Entities;

public sealed class ShortDomain : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>ASCII, lower case, with a port where there is one; unique over all workspaces.</summary>
    public required string Host { get; set; }

    /// <summary><c>https</c>, or <c>http</c> on this machine.</summary>
    public required string Scheme { get; set; }

    /// <summary>Short links are made on it where none is chosen; one of a workspace is.</summary>
    public bool IsFirst { get; set; }

    /// <summary>What only this application answers when it is asked under this host.</summary>
    public string Proof { get; set; } = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16));

    /// <summary>When the host was last found to lead here; null for never.</summary>
    public DateTimeOffset? CheckedAt { get; set; }

    /// <summary>What the last check found wrong; null when nothing, or when none was made.</summary>
    public string? Problem { get; set; }

    /// <summary>Short links can be made on it: the one the workspace was set up with, and whichever was found to lead here.</summary>
    public bool IsUsable => IsFirst || CheckedAt is not null;

    /// <summary>The whole address of a slug on this domain.</summary>
    public string UrlOf(string slug) => ShortUrl.Of(Scheme, Host, slug);
}
