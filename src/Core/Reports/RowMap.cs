using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Says for the ids of one table which group of a report each belongs to. Ids that a condition leaves out are not in it. The database adds
/// up by group; what the groups are called stays here.
/// </summary>
internal sealed class RowMap
{
    private readonly Dictionary<GroupKey, int> _groups = [];

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

    public List<int> Ids { get; } = [];

    public List<int> Groups { get; } = [];

    /// <summary>The least id; 0 where there is none.</summary>
    public int First => Ids.Count == 0 ? 0 : Ids.Min();

    /// <summary>
    /// For each id from <see cref="First"/> on its group, counted from 1; 0 for ids that are left out. The database looks a group up in it
    /// in no time, where a join with as many ids takes sorting and is estimated wrongly.
    /// </summary>
    public int[] Lookup()
    {
        if (Ids.Count == 0)
        {
            return [];
        }

        int first = First;
        int[] groups = new int[Ids.Max() - first + 1];
        for (int i = 0; i < Ids.Count; i++)
        {
            groups[Ids[i] - first] = Groups[i] + 1;
        }

        return groups;
    }

    /// <summary>What each group is called, by <see cref="Fields"/>.</summary>
    public List<string?[]> Names { get; } = [];

    /// <summary>The visit's column it goes by, as a whole number.</summary>
    public string Column =>
        Table switch
        {
            RowTable.Source => "source_id",
            RowTable.LandingPage => "landing_page_id",
            RowTable.LastPage => "last_page_id",
            RowTable.Place => "place_id",
            RowTable.Device => "device_id",
            RowTable.Hour => "hour",
            _ => "(day - date '0001-01-01')", // as DateOnly.DayNumber counts
        };

    /// <summary>Adds an id unless a condition leaves it out.</summary>
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
            _groups[key] = group = Names.Count;
            Names.Add(key.Values);
        }

        Ids.Add(id);
        Groups.Add(group);
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
