namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Numbers the rows of a report in the order they are found, from 1. A row is one group of each map; its key is these groups written as one
/// number, as digits are.
/// </summary>
/// <param name="groups">How many groups each map has.</param>
internal sealed class RowNumbers(IReadOnlyList<int> groups)
{
    /// <summary>Up to so many rows that could be, each key has its place in an array; beyond, those that occur are looked up.</summary>
    private const double MostPlaces = 1 << 22;

    private const double MostKeys = 1L << 62;

    private readonly int[]? _places = Possible(groups) <= MostPlaces ? new int[(int)Possible(groups)] : null;
    private readonly Dictionary<long, int> _found = [];
    private readonly List<int[]> _rows =
    [
        [],
    ];

    /// <summary>Where a key would grow beyond 62 bits, those that occur up to there are numbered, and their numbers go on.</summary>
    private readonly Dictionary<int, KeyNumbers> _shortened = ShortenedAt(groups);

    /// <summary>How many rows were found.</summary>
    public int Count => _rows.Count - 1;

    /// <summary>Of each map the group of a row.</summary>
    public int[] GroupsOf(int row) => _rows[row];

    /// <summary>The number of the row of a single map's group; 0 for none.</summary>
    public int NumberOf(int group) =>
        group == RowMap.None ? 0
        : Known(group) is > 0 and var known ? known
        : Make(group, [group]);

    /// <summary>The number of the row with these groups.</summary>
    public int NumberOf(int[] row)
    {
        long key = 0;
        for (int m = 0; m < row.Length; m++)
        {
            key = (Shortened(m, key) * groups[m]) + row[m];
        }

        return Known(key) is > 0 and var known ? known : Make(key, [.. row]);
    }

    /// <summary>Writes a map's group at the end of all keys.</summary>
    public void Append(int map, Span<long> keys, int group)
    {
        Shorten(map, keys);
        for (int i = 0; i < keys.Length; i++)
        {
            keys[i] = keys[i] < 0 ? keys[i] : (keys[i] * groups[map]) + group;
        }
    }

    /// <summary>Writes each visit's group at the end of its key; a key with <see cref="RowMap.None"/> in it is negative.</summary>
    public void Append(int map, Span<long> keys, int[] groupOf, ReadOnlySpan<ushort> places)
    {
        Shorten(map, keys);
        long count = groups[map];
        for (int i = 0; i < places.Length; i++)
        {
            long key = keys[i];
            int group = groupOf[places[i]];
            keys[i] = (key | (long)group) < 0 ? -1 : (key * count) + group;
        }
    }

    /// <summary>The row of each key; 0 for negative ones.</summary>
    public void Find(ReadOnlySpan<long> keys, Span<int> rows)
    {
        for (int i = 0; i < keys.Length; i++)
        {
            long key = keys[i];
            rows[i] =
                key < 0 ? 0
                : Known(key) is > 0 and var known ? known
                : Make(key, Read(key));
        }
    }

    private int Known(long key) => _places is not null ? _places[key] : _found.GetValueOrDefault(key);

    private int Make(long key, int[] row)
    {
        int number = _rows.Count;
        _rows.Add(row);
        if (_places is not null)
        {
            _places[key] = number;
        }
        else
        {
            _found[key] = number;
        }

        return number;
    }

    private int[] Read(long key)
    {
        int[] row = new int[groups.Count];
        for (int m = row.Length - 1; m >= 0; m--)
        {
            row[m] = (int)(key % groups[m]);
            key /= groups[m];
            key = _shortened.TryGetValue(m, out var numbers) ? numbers.KeyOf(key) : key;
        }

        return row;
    }

    private void Shorten(int map, Span<long> keys)
    {
        if (_shortened.TryGetValue(map, out var numbers))
        {
            for (int i = 0; i < keys.Length; i++)
            {
                keys[i] = keys[i] < 0 ? keys[i] : numbers.NumberOf(keys[i]);
            }
        }
    }

    private long Shortened(int map, long key) => _shortened.TryGetValue(map, out var numbers) ? numbers.NumberOf(key) : key;

    private static double Possible(IReadOnlyList<int> groups) => groups.Aggregate(1.0, (product, count) => product * count);

    private static Dictionary<int, KeyNumbers> ShortenedAt(IReadOnlyList<int> groups)
    {
        var shortened = new Dictionary<int, KeyNumbers>();
        double possible = 1;
        for (int m = 0; m < groups.Count; m++)
        {
            if (possible * groups[m] > MostKeys)
            {
                shortened[m] = new KeyNumbers();
                possible = int.MaxValue;
            }

            possible *= groups[m];
        }

        return shortened;
    }

    /// <summary>Numbers keys in the order they are found.</summary>
    private sealed class KeyNumbers
    {
        private readonly Dictionary<long, long> _numbers = [];
        private readonly List<long> _keys = [];

        public long KeyOf(long number) => _keys[(int)number];

        public long NumberOf(long key)
        {
            if (!_numbers.TryGetValue(key, out long number))
            {
                _numbers[key] = number = _keys.Count;
                _keys.Add(key);
            }

            return number;
        }
    }
}
