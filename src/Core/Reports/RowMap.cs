namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Says for the ids of one table which group of a report each belongs to. Ids that a condition leaves out are in none. Visits are added up
/// by the numbers of groups; what they are called stays here.
/// </summary>
public sealed class RowMap
{
    /// <summary>The group of ids that a condition leaves out, or that are not in the map.</summary>
    public const int None = -1;

    private readonly Dictionary<GroupKey, int> _groups = [];
    private readonly List<string?[]> _names = [];
    private int[] _lookup = [];
    private int _first;

    public RowMap(RowTable table, IReadOnlyList<RowField> rows, IReadOnlyList<RowCondition> where)
    {
        Table = table;
        Fields = [.. rows.Select((field, place) => (field, place)).Where(r => r.field.Table == table)];
        Conditions = [.. where.Where(c => c.Field.Table == table)];
    }

    public RowTable Table { get; }

    /// <summary>The fields of this table among the rows asked for, with their places there.</summary>
    public IReadOnlyList<(RowField Field, int Place)> Fields { get; }

    public IReadOnlyList<RowCondition> Conditions { get; }

    /// <summary>True where the table tells rows apart or leaves visits out.</summary>
    public bool IsNeeded => Fields.Count > 0 || Conditions.Count > 0;

    /// <summary>What each group is called, by <see cref="Fields"/>.</summary>
    public IReadOnlyList<string?[]> Names => _names;

    /// <summary>The ids that are in a group, rising.</summary>
    public IEnumerable<int> Ids => Enumerable.Range(0, _lookup.Length).Where(i => _lookup[i] != None).Select(i => i + _first);

    /// <summary>The group of an id, counted from 0, or <see cref="None"/>.</summary>
    public int GroupOf(int id) => (uint)(id - _first) < (uint)_lookup.Length ? _lookup[id - _first] : None;

    /// <summary>Adds an id unless a condition leaves it out. Ids that lie close together take the least room.</summary>
    /// <param name="id">The id.</param>
    /// <param name="valueOf">Its value of a field.</param>
    public void Add(int id, Func<RowField, string?> valueOf)
    {
        foreach (var condition in Conditions)
        {
            if (!condition.Holds(valueOf(condition.Field)))
            {
                return;
            }
        }

        var key = new GroupKey([.. Fields.Select(f => valueOf(f.Field))]);
        if (!_groups.TryGetValue(key, out int group))
        {
            _groups[key] = group = _names.Count;
            _names.Add(key.Values);
        }

        Put(id, group);
    }

    /// <summary>Adds the days of a range.</summary>
    public void AddDays(DateOnly from, DateOnly to)
    {
        for (var day = from; day <= to; day = day.AddDays(1))
        {
            var at = day;
            Add(day.DayNumber, field => Calendar.NameOf(field.Kind, at));
        }
    }

    /// <summary>Adds the hours of a day.</summary>
    public void AddHours()
    {
        for (int hour = 0; hour < 24; hour++)
        {
            string name = hour.ToString(System.Globalization.CultureInfo.InvariantCulture);
            Add(hour, _ => name);
        }
    }

    /// <summary>Adds the kinds of visitors.</summary>
    public void AddVisitorKinds()
    {
        foreach (int kind in (int[])[VisitorKinds.Unknown, VisitorKinds.New, VisitorKinds.Returning])
        {
            Add(kind, _ => VisitorKinds.NameOf(kind));
        }
    }

    private void Put(int id, int group)
    {
        if (_lookup.Length == 0)
        {
            (_lookup, _first) = ([None], id);
        }

        if (id < _first)
        {
            int[] wider = new int[_lookup.Length + (_first - id)];
            Array.Fill(wider, None, 0, _first - id);
            _lookup.CopyTo(wider, _first - id);
            (_lookup, _first) = (wider, id);
        }
        else if (id - _first >= _lookup.Length)
        {
            int known = _lookup.Length;
            Array.Resize(ref _lookup, Math.Max(id - _first + 1, 2 * known));
            Array.Fill(_lookup, None, known, _lookup.Length - known);
        }

        _lookup[id - _first] = group;
    }

    private sealed record GroupKey(string?[] Values)
    {
        public bool Equals(GroupKey? other) => other is not null && Values.AsSpan().SequenceEqual(other.Values);

        public override int GetHashCode()
        {
            var hash = new HashCode();
            foreach (string? value in Values)
            {
                hash.Add(value, StringComparer.Ordinal);
            }

            return hash.ToHashCode();
        }
    }
}
