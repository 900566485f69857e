using System.Buffers;
using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Adds up visits by the rows of a report. For one thread; several threads add up a part each, and their sums are put <see cref="Together"/>.
/// </summary>
public sealed class VisitScan : IDisposable
{
    /// <summary>The row of visits that a condition leaves out.</summary>
    private const int LeftOut = 0;

    private readonly IReadOnlyList<RowMap> _maps;
    private readonly string _currency;
    private readonly DistinctVisitors? _visitors;
    private readonly RowNumbers _numbers;
    private int[] _rows = [];
    private long[] _keys = [];
    private readonly SortedDictionary<DateOnly, (long Visits, long Converting)> _days = [];
    private readonly SortedDictionary<string, decimal> _elsewhere = new(StringComparer.Ordinal);
    private readonly IReadOnlyList<NamedMeasure> _named;
    private readonly Dictionary<NamedMeasure, long> _occurring = [];
    private readonly RowSums _sums;
    private readonly ConversionPoints? _points;

    /// <summary>Nothing added yet.</summary>
    /// <param name="maps">What rows are made by and narrowed by.</param>
    /// <param name="currency">The workspace's; revenue in another one is kept apart.</param>
    /// <param name="withVisitors">Whether distinct visitors are counted.</param>
    /// <param name="named">Conversions by kind and events by name that are counted for each row.</param>
    /// <param name="withPoints">Keeps conversions for <see cref="Credit"/> instead of adding them to their visits' rows.</param>
    public VisitScan(
        IReadOnlyList<RowMap> maps,
        string currency,
        bool withVisitors,
        IReadOnlyList<NamedMeasure> named,
        bool withPoints = false
    )
    {
        _points = withPoints ? new ConversionPoints(maps, named) : null;
        _named = named;
        _sums = new RowSums(named);
        _maps = maps;
        _currency = currency;
        _visitors = withVisitors ? new DistinctVisitors() : null;
        _numbers = new RowNumbers([.. maps.Select(m => m.Names.Count)]);
    }

    /// <summary>Visits and converting visits of each day that was added.</summary>
    public IReadOnlyDictionary<DateOnly, (long Visits, long Converting)> Days => _days;

    /// <summary>Revenue in other currencies than the workspace's.</summary>
    public IReadOnlyDictionary<string, decimal> Elsewhere => _elsewhere;

    /// <summary>How often each kind of conversion and each named event occurred in all rows together.</summary>
    public IReadOnlyDictionary<NamedMeasure, long> Occurring => _occurring;

    /// <summary>Distinct visitors of all rows together, once put <see cref="Together"/>.</summary>
    public long Visitors { get; private set; }

    /// <summary>The rows that occurred: of each map its group, and the figures. Visitors only once put <see cref="Together"/>.</summary>
    public IEnumerable<(int[] Groups, Figures Figures)> Rows() =>
        Enumerable.Range(1, _numbers.Count).Select(row => (_numbers.GroupsOf(row), _sums.FiguresOf(row)));

    /// <summary>The conversions that wait for their credit; null where they were added to their visits' rows.</summary>
    public ConversionPoints? Points => _points;

    /// <summary>Gives the credit for all conversions that wait for it.</summary>
    /// <param name="history">Whose visits they were, those of the days before too.</param>
    /// <param name="choice">How credit is given.</param>
    /// <param name="isTagged">Whether a source is a link or has tags.</param>
    public void Credit(TouchHistory history, CreditChoice choice, Func<int, bool> isTagged)
    {
        var giver = new CreditGiver(_maps, choice, isTagged, _currency);
        giver.Give(
            _points!,
            history,
            groups =>
            {
                int row = _numbers.NumberOf(groups);
                _sums.MakeRoom(_numbers.Count + 1);
                return row;
            },
            _sums,
            _elsewhere
        );
    }

    /// <summary>Adds visits of one day.</summary>
    public void Add(VisitColumns visits, DateOnly day)
    {
        _points?.Add(visits, day);
        MakeRoom(visits.Count);
        if (visits.Count == 0 || !FindRows(visits, day))
        {
            return;
        }

        var rows = _rows.AsSpan(0, visits.Count);
        _sums.MakeRoom(_numbers.Count + 1);
        long leftOut = _sums.Visits[LeftOut];
        long leftOutConverting = _sums.ConvertingVisits[LeftOut];
        long[] counts = _sums.Visits;
        foreach (int row in rows)
        {
            counts[row]++;
        }

        visits.PageViews.AddTo(rows, _sums.PageViews);
        visits.Events.AddTo(rows, _sums.Events);
        visits.Seconds.AddTo(rows, _sums.Seconds);
        long converting = visits.AddFlagsTo(rows, _sums.Bounces, _sums.ConvertingVisits, _sums.VisitsWithId, _sums.NewVisitors);
        AddConversions(visits.Conversions, rows);
        AddEvents(visits.NamedEvents, rows);
        AddVisitors(visits.Visitors, rows);

        var known = _days.GetValueOrDefault(day);
        _days[day] = (
            known.Visits + visits.Count - (_sums.Visits[LeftOut] - leftOut),
            known.Converting + converting - (_sums.ConvertingVisits[LeftOut] - leftOutConverting)
        );
    }

    /// <summary>The sums of several scans by the same maps, with their distinct visitors.</summary>
    /// <param name="scans">At least one; the first of them holds the sums of all afterwards.</param>
    public static VisitScan Together(IReadOnlyList<VisitScan> scans)
    {
        var first = scans[0];
        var rowsOf = scans.Select(s => s == first ? [.. Enumerable.Range(0, first._numbers.Count + 1)] : first.Take(s)).ToList();
        if (first._visitors is not null)
        {
            first._sums.MakeRoom(first._numbers.Count + 1);
            first.Visitors = DistinctVisitors.Count([.. scans.Select((s, i) => (s._visitors!, rowsOf[i]))], first._sums.Visitors);
        }

        return first;
    }

    /// <summary>Gives the memory back that visits and visitors were gone through in.</summary>
    public void Dispose()
    {
        _visitors?.Dispose();
        ArrayPool<int>.Shared.Return(_rows);
        ArrayPool<long>.Shared.Return(_keys);
        (_rows, _keys) = ([], []);
    }

    /// <summary>Adds the sums of another scan.</summary>
    /// <returns>The numbers of its rows here.</returns>
    private int[] Take(VisitScan other)
    {
        int[] rowOf = new int[other._numbers.Count + 1];
        for (int row = 1; row <= other._numbers.Count; row++)
        {
            int mine = rowOf[row] = _numbers.NumberOf(other._numbers.GroupsOf(row));
            _sums.MakeRoom(_numbers.Count + 1);
            _sums.Add(mine, other._sums, row);
        }

        foreach (var (day, (visits, converting)) in other._days)
        {
            var known = _days.GetValueOrDefault(day);
            _days[day] = (known.Visits + visits, known.Converting + converting);
        }

        foreach (var (currency, revenue) in other._elsewhere)
        {
            _elsewhere[currency] = _elsewhere.GetValueOrDefault(currency) + revenue;
        }

        foreach (var (measure, times) in other._occurring)
        {
            _occurring[measure] = _occurring.GetValueOrDefault(measure) + times;
        }

        _points?.Take(other._points!);
        return rowOf;
    }

    private void MakeRoom(int visits)
    {
        if (_rows.Length < visits)
        {
            ArrayPool<int>.Shared.Return(_rows);
            ArrayPool<long>.Shared.Return(_keys);
            _rows = ArrayPool<int>.Shared.Rent(visits);
            _keys = ArrayPool<long>.Shared.Rent(visits);
        }
    }

    /// <summary>Finds the row of each visit.</summary>
    /// <returns>False where none is in any.</returns>
    private bool FindRows(VisitColumns visits, DateOnly day)
    {
        var rows = _rows.AsSpan(0, visits.Count);
        var keys = _keys.AsSpan(0, visits.Count);
        keys.Clear();
        for (int m = 0; m < _maps.Count; m++)
        {
            var map = _maps[m];
            if (map.Table == RowTable.Day)
            {
                int group = map.GroupOf(day.DayNumber);
                if (group == RowMap.None)
                {
                    return false;
                }

                _numbers.Append(m, keys, group);
                continue;
            }

            var column = visits.IdsOf(map.Table);
            int[] groups = new int[column.Ids.Length];
            bool any = false;
            for (int i = 0; i < groups.Length; i++)
            {
                groups[i] = map.GroupOf(column.Ids[i]);
                any |= groups[i] != RowMap.None;
            }

            if (!any)
            {
                return false;
            }

            if (_maps.Count == 1)
            {
                // Rows by one table: each of its few ids is looked up, and not each visit.
                int[] rowOf = Array.ConvertAll(groups, _numbers.NumberOf);
                var places = column.Places;
                for (int i = 0; i < places.Length; i++)
                {
                    rows[i] = rowOf[places[i]];
                }

                return true;
            }

            _numbers.Append(m, keys, groups, column.Places);
        }

        _numbers.Find(keys, rows);
        return true;
    }

    private void AddConversions(ConversionColumns conversions, ReadOnlySpan<int> rows)
    {
        var kinds = new NamedSums(NamedThing.Conversions, conversions.Kinds, _named);
        for (int i = 0; i < conversions.Count; i++)
        {
            int row = rows[conversions.VisitOf(i)];
            if (row == LeftOut)
            {
                continue;
            }

            if (_points is not null)
            {
                kinds.Count(conversions.KindPlaceOf(i), 1);
                continue;
            }

            kinds.Add(_sums.Named, row, conversions.KindPlaceOf(i), 1, CreditShares.PerConversion);
            _sums.Conversions[row] += CreditShares.PerConversion;
            _sums.VerifiedConversions[row] += conversions.IsVerified(i) ? CreditShares.PerConversion : 0;
            string currency = conversions.CurrencyOf(i);
            if (currency.Length == 0 || currency == _currency)
            {
                _sums.Revenue[row] += conversions.ValueOf(i);
            }
            else
            {
                _elsewhere[currency] = _elsewhere.GetValueOrDefault(currency) + conversions.ValueOf(i);
            }
        }

        kinds.AddTo(_occurring);
    }

    private void AddEvents(EventColumns events, ReadOnlySpan<int> rows)
    {
        var names = new NamedSums(NamedThing.Events, events.Names, _named);
        for (int i = 0; i < events.Count; i++)
        {
            int row = rows[events.VisitOf(i)];
            if (row != LeftOut)
            {
                names.Add(_sums.Named, row, events.NameOf(i), events.TimesOf(i), 1);
            }
        }

        names.AddTo(_occurring);
    }

    /// <summary>Counts what has a name, over the few names that some visits have.</summary>
    private readonly ref struct NamedSums
    {
        private readonly NamedThing _of;
        private readonly IReadOnlyList<string> _names;
        private readonly int[] _measureOf;
        private readonly long[] _all;

        public NamedSums(NamedThing of, IReadOnlyList<string> names, IReadOnlyList<NamedMeasure> measures)
        {
            _of = of;
            _names = names;
            _all = new long[names.Count];
            _measureOf = new int[names.Count];
            for (int n = 0; n < names.Count; n++)
            {
                _measureOf[n] = -1;
                for (int m = 0; m < measures.Count; m++)
                {
                    _measureOf[n] = measures[m].Of == of && measures[m].Name == names[n] ? m : _measureOf[n];
                }
            }
        }

        public void Count(int name, int times) => _all[name] += times;

        public void Add(long[][] sums, int row, int name, int times, long each)
        {
            Count(name, times);
            if (_measureOf[name] is >= 0 and var measure)
            {
                sums[measure][row] += times * each;
            }
        }

        public void AddTo(Dictionary<NamedMeasure, long> occurring)
        {
            for (int n = 0; n < _all.Length; n++)
            {
                if (_all[n] > 0)
                {
                    var measure = new NamedMeasure(_of, _names[n]);
                    occurring[measure] = occurring.GetValueOrDefault(measure) + _all[n];
                }
            }
        }
    }

    private void AddVisitors(ReadOnlySpan<ulong> visitors, ReadOnlySpan<int> rows)
    {
        if (_visitors is null)
        {
            return;
        }

        for (int i = 0; i < visitors.Length; i++)
        {
            if (rows[i] != LeftOut)
            {
                _visitors.Add(visitors[i], rows[i]);
            }
        }
    }
}
