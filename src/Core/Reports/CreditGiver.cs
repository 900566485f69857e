using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>Shares the conversions of a report out over the rows of their touches' sources; everything else about a row is the converting visit's.</summary>
internal sealed class CreditGiver
{
    private readonly CreditChoice _choice;
    private readonly Func<int, bool> _isTagged;
    private readonly string _currency;
    private readonly int _sourcePlace = -1;
    private readonly RowMap? _sources;
    private readonly Touch[] _touches = new Touch[CreditChoice.MostTouches];
    private readonly int[] _groups;
    private readonly long[] _weights = new long[CreditChoice.MostTouches];
    private readonly long[] _parts = new long[CreditChoice.MostTouches];
    private readonly decimal[] _money = new decimal[CreditChoice.MostTouches];

    public CreditGiver(IReadOnlyList<RowMap> maps, CreditChoice choice, Func<int, bool> isTagged, string currency)
    {
        (_choice, _isTagged, _currency) = (choice, isTagged, currency);
        _groups = new int[maps.Count];
        for (int m = 0; m < maps.Count; m++)
        {
            if (maps[m].Table == RowTable.Source)
            {
                (_sourcePlace, _sources) = (m, maps[m]);
            }
        }
    }

    /// <summary>Gives all credit.</summary>
    /// <param name="points">The conversions.</param>
    /// <param name="history">Their visitors' visits.</param>
    /// <param name="rowOf">The row of some groups.</param>
    /// <param name="sums">What credit is added to.</param>
    /// <param name="elsewhere">Revenue in other currencies.</param>
    public void Give(
        ConversionPoints points,
        TouchHistory history,
        Func<int[], int> rowOf,
        RowSums sums,
        IDictionary<string, decimal> elsewhere
    )
    {
        if (_choice.Beside is not null)
        {
            sums.Compare();
        }

        foreach (var point in points.All)
        {
            int count = history.Before(point.Visitor, point.Visit, _choice.Seconds, _touches);
            bool isOwn = point.Currency.Length == 0 || point.Currency == _currency;
            Share(_choice.Rule, point, count);
            for (int i = 0; i < count; i++)
            {
                if (_weights[i] == 0 || RowOf(point, i, rowOf) is not { } row)
                {
                    continue;
                }

                sums.Conversions[row] += _parts[i];
                sums.VerifiedConversions[row] += point.Verified ? _parts[i] : 0;
                if (point.Measure >= 0)
                {
                    sums.Named[point.Measure][row] += _parts[i];
                }

                if (isOwn)
                {
                    sums.Revenue[row] += _money[i];
                }
                else
                {
                    elsewhere[point.Currency] = (elsewhere.TryGetValue(point.Currency, out decimal known) ? known : 0) + _money[i];
                }
            }

            if (_choice.Beside is not { } beside)
            {
                continue;
            }

            Share(beside, point, count);
            for (int i = 0; i < count; i++)
            {
                if (_weights[i] != 0 && RowOf(point, i, rowOf) is { } row)
                {
                    sums.OtherConversions[row] += _parts[i];
                    sums.OtherRevenue[row] += isOwn ? _money[i] : 0;
                }
            }
        }
    }

    private int? RowOf(ConversionPoint point, int touch, Func<int[], int> rowOf)
    {
        if (_sources is null)
        {
            return rowOf(point.Groups);
        }

        int group = _sources.GroupOf(_touches[touch].SourceId);
        if (group == RowMap.None)
        {
            return null;
        }

        point.Groups.CopyTo(_groups, 0);
        _groups[_sourcePlace] = group;
        return rowOf(_groups);
    }

    private void Share(CreditRule rule, ConversionPoint point, int count)
    {
        if (count == 1)
        {
            (_weights[0], _parts[0], _money[0]) = (1, CreditShares.PerConversion, point.Value);
            return;
        }

        var weights = _weights.AsSpan(0, count);
        rule.Weigh(_touches.AsSpan(0, count), _isTagged, weights);
        CreditShares.Of(CreditShares.PerConversion, weights, _parts.AsSpan(0, count));
        CreditShares.OfMoney(
            point.Value,
            Currencies.DecimalsOf(point.Currency.Length == 0 ? _currency : point.Currency),
            weights,
            _money.AsSpan(0, count)
        );
    }
}
