using System.Text;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>
/// Writes a file in the MaxMind DB format, version 2.0, that says the same of every address: one node whose both sides lead
/// to the first record of the data (the format's published description, sections “Binary Search Tree” and “Data Section”).
/// </summary>
public static class PlaceFile
{
    private const byte Text = 2 << 5,
        Number = 3 << 5,
        Whole16 = 5 << 5,
        Whole32 = 6 << 5,
        Map = 7 << 5;
    private static readonly byte[] MetadataMark = [0xAB, 0xCD, 0xEF, .. "MaxMind.com"u8];

    public static void Write(string path, Dictionary<string, object> record)
    {
        using var file = new MemoryStream();
        file.Write([0, 0, 17, 0, 0, 17]); // one node, so the first octet of data is 1 + 16
        file.Write(new byte[16]);
        WriteValue(file, record);
        file.Write(MetadataMark);
        WriteValue(
            file,
            new Dictionary<string, object>
            {
                ["node_count"] = 1u,
                ["record_size"] = (ushort)24,
                ["ip_version"] = (ushort)6,
                ["database_type"] = "Test",
                ["languages"] = new List<object> { "en" },
                ["binary_format_major_version"] = (ushort)2,
                ["binary_format_minor_version"] = (ushort)0,
                ["build_epoch"] = 1_700_000_000ul,
                ["description"] = new Dictionary<string, object> { ["en"] = "Test" },
            }
        );
        File.WriteAllBytes(path, file.ToArray());
    }

    private static void WriteValue(MemoryStream into, object value)
    {
        switch (value)
        {
            case string text:
                byte[] octets = Encoding.UTF8.GetBytes(text);
                into.WriteByte((byte)(Text | octets.Length));
                into.Write(octets);
                break;
            case double number:
                into.Write([Number | 8, .. BitConverter.GetBytes(number).Reverse()]);
                break;
            case ushort whole:
                into.Write([Whole16 | 2, (byte)(whole >> 8), (byte)whole]);
                break;
            case uint whole:
                into.Write([Whole32 | 4, (byte)(whole >> 24), (byte)(whole >> 16), (byte)(whole >> 8), (byte)whole]);
                break;
            case ulong whole:
                into.Write([8, 2, .. BitConverter.GetBytes(whole).Reverse()]);
                break;
            case List<object> list:
                into.Write([(byte)list.Count, 4]);
                list.ForEach(v => WriteValue(into, v));
                break;
            case Dictionary<string, object> map:
                into.WriteByte((byte)(Map | map.Count));
                foreach (var (key, inner) in map)
                {
                    WriteValue(into, key);
                    WriteValue(into, inner);
                }

                break;
            default:
                throw new ArgumentException($"{value.GetType()} is not written.", nameof(value));
        }
    }
}
