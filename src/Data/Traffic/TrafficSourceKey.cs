using System.Security.Cryptography;
using System.Text;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>One distinct raw way in which visits arrived.</summary>
internal sealed record TrafficSourceKey(
    Guid WorkspaceId,
    Guid SiteId,
    Guid? LinkId,
    string ReferrerHost,
    bool Printed,
    RawTags Tags,
    string Typed
)
{
    public static TrafficSourceKey Of(Visit visit) =>
        new(visit.WorkspaceId, visit.SiteId, visit.LinkId, visit.ReferrerHost, visit.Printed, visit.Tags, visit.Typed);

    /// <summary>A hash of everything but the workspace.</summary>
    public Guid Hash()
    {
        string text =
            $"{SiteId:N}{LinkId?.ToString("N") ?? "-"}{(Printed ? "p" : "-")}{ReferrerHost.Length}:{ReferrerHost}{Tags.Json}{Typed}";
        return new Guid(SHA256.HashData(Encoding.UTF8.GetBytes(text)).AsSpan(0, 16));
    }
}
