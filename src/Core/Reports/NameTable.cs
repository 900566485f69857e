namespace PreciseBeacon.Core.Reports;

/// <summary>Names that occur often, each kept once.</summary>
internal static class NameTable
{
    /// <summary>Each name once, and for each that was given the place of it.</summary>
    public static (int[] Places, string[] Names) Of(IEnumerable<string> given)
    {
        var known = new Dictionary<string, int>(StringComparer.Ordinal);
        var names = new List<string>();
        var places = new List<int>();
        foreach (string name in given)
        {
            if (!known.TryGetValue(name, out int place))
            {
                known[name] = place = names.Count;
                names.Add(name);
            }

            places.Add(place);
        }

        return ([.. places], [.. names]);
    }

    public static string[] Read(BinaryReader reader) => [.. Enumerable.Range(0, reader.ReadInt32()).Select(_ => reader.ReadString())];

    public static void Write(BinaryWriter writer, string[] names)
    {
        writer.Write(names.Length);
        foreach (string name in names)
        {
            writer.Write(name);
        }
    }
}
