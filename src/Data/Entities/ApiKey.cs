using System.Security.Cryptography;
using System.Text;

namespace PreciseBeacon.Data.Entities;

public sealed class ApiKey : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    public Role Role { get; set; }

    /// <summary>SHA-256 of the key; the key itself is shown once and kept nowhere.</summary>
    public required byte[] Hash { get; set; }

    public bool DemoOnly { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    public DateTimeOffset? RevokedAt { get; set; }

    /// <summary>From when on it works no more; null for never.</summary>
    public DateTimeOffset? ExpiresAt { get; set; }

    /// <summary>When it was last used, to within a minute; null for never.</summary>
    public DateTimeOffset? LastUsedAt { get; set; }

    /// <summary>What is stored of a key: its SHA-256. A key has enough chance in it that nobody guesses it back.</summary>
    public static byte[] HashOf(string key) => SHA256.HashData(Encoding.UTF8.GetBytes(key));
}
