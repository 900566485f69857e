using System.Security.Cryptography;
using System.Text;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Traffic;

/// <summary>One distinct raw way in which visits arrived. Its id is a hash of the rest.</summary>
internal sealed record TrafficSourceKey(
    Guid WorkspaceId,
    ArrivalTags Tags,
    string ReferrerHost,
    string LandingPage,
    string Device,
    bool Printed
)
{
    public static TrafficSourceKey Of(Visit visit) =>
        new(visit.WorkspaceId, visit.Tags, visit.ReferrerHost, visit.LandingPage, visit.Device, visit.Printed);

    public Guid Id()
    {
        string?[] parts =
        [
            WorkspaceId.ToString(),
            Tags.Source,
            Tags.Medium,
            Tags.Campaign,
            Tags.Term,
            Tags.Content,
            Tags.TagId,
            ReferrerHost,
            LandingPage,
            Device,
        ];
        var text = new StringBuilder();
        foreach (string? part in parts)
        {
            text.Append(part is null ? "-" : $"{part.Length}:{part}");
        }

        if (Tags.Own is { } own)
        {
            text.Append(own.Length).Append(':').Append(own);
        }

        if (Printed)
        {
            text.Append("printed");
        }

        return new Guid(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())).AsSpan(0, 16));
    }
}
