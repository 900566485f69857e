using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads links: id, name, campaign, placement, page and values, in this order.</summary>
internal static class LinkRow
{
    public static ClickedLink ClickedOf(NpgsqlDataReader reader) =>
        new(reader.GetGuid(0), RawTags.Of(ValuesOf(reader)), reader.GetString(4));

    public static Dictionary<string, string> ValuesOf(NpgsqlDataReader reader) =>
        JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(5)) ?? [];

    public static LinkOfVisit CalledOf(NpgsqlDataReader reader) =>
        new(
            reader.GetGuid(0),
            reader.GetString(1),
            reader.IsDBNull(2) ? null : reader.GetGuid(2),
            reader.IsDBNull(3) ? null : reader.GetGuid(3)
        );
}
