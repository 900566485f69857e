namespace PreciseBeacon.Core.Reports;

/// <summary>Ids of many visits: each different one once, and for every visit which of them it has.</summary>
/// <param name="ids">The different ids, in the order of their first visits.</param>
/// <param name="places">For each visit the place of its id among <paramref name="ids"/>.</param>
public sealed class IdColumn(int[] ids, ushort[] places)
{
    private readonly int[] _ids = ids;
    private readonly ushort[] _places = places;

    /// <summary>The different ids.</summary>
    public ReadOnlySpan<int> Ids => _ids;

    /// <summary>For each visit the place of its id among <see cref="Ids"/>.</summary>
    public ReadOnlySpan<ushort> Places => _places;

    /// <summary>The id of one visit.</summary>
    public int this[int visit] => _ids[_places[visit]];

    /// <summary>How many visits have each id.</summary>
    public IReadOnlyDictionary<int, long> Counts()
    {
        long[] counts = new long[_ids.Length];
        foreach (ushort place in _places)
        {
            counts[place]++;
        }

        return _ids.Zip(counts).ToDictionary(c => c.First, c => c.Second);
    }

    internal int Bytes => (_ids.Length * sizeof(int)) + (_places.Length * sizeof(ushort));

    internal static IdColumn Of<T>(IReadOnlyList<T> rows, Func<T, int> idOf)
    {
        var known = new Dictionary<int, ushort>();
        var ids = new List<int>();
        ushort[] places = new ushort[rows.Count];
        for (int i = 0; i < places.Length; i++)
        {
            int id = idOf(rows[i]);
            if (!known.TryGetValue(id, out ushort place))
            {
                known[id] = place = (ushort)ids.Count;
                ids.Add(id);
            }

            places[i] = place;
        }

        return new IdColumn([.. ids], places);
    }

    internal static IdColumn Read(BinaryReader reader, int count) =>
        new(Packed.Read<int>(reader, reader.ReadInt32()), Packed.Read<ushort>(reader, count));

    internal void Write(BinaryWriter writer)
    {
        writer.Write(_ids.Length);
        Packed.Write<int>(writer, _ids);
        Packed.Write<ushort>(writer, _places);
    }
}
