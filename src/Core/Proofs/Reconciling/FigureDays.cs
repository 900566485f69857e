using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Core.Proofs.Reconciling;

/// <summary>Both sides of a target, day by day, of the days another system has figures of.</summary>
/// <param name="Days">By day, in order; a day on which they count nothing is not there.</param>
public sealed record FigureDays(IReadOnlyList<(DateOnly Day, OtherFigures Theirs, OwnFigures Ours)> Days)
{
    /// <summary>Theirs of all days.</summary>
    public OtherFigures Theirs => Days.Aggregate(default(OtherFigures), (sum, d) => sum.Plus(d.Theirs));

    /// <summary>Ours of the days on which they say something of a kind.</summary>
    public OwnFigures OursOf(FigureKind kind) =>
        Days.Where(d => d.Theirs.Of(kind) is not null).Aggregate(default(OwnFigures), (sum, d) => sum.Plus(d.Ours));

    /// <summary>Theirs of a kind of days that ended less than two days ago, as their clicks may not be worked out (rules, section 10).</summary>
    /// <param name="kind">The kind.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public decimal NewOf(FigureKind kind, DateOnly today) =>
        OursOf(kind).Beside(kind) is { } beside
            ? Days.Where(d => d.Day > today.AddDays(-(int)ClickGap.New.TotalDays))
                .Sum(d => Math.Max(0, (d.Theirs.Of(kind) ?? 0) - d.Ours.Of(beside)))
            : 0;

    /// <summary>The gap of a kind week by week (ISO 8601: weeks begin on Monday), oldest first.</summary>
    public IReadOnlyList<FigureWeek> WeeksOf(FigureKind kind)
    {
        if (OursOf(kind).Beside(kind) is not { } beside)
        {
            return [];
        }

        return
        [
            .. Days.Where(d => d.Theirs.Of(kind) is not null)
                .GroupBy(d => Calendar.FirstDayOf(RowKind.Week, d.Day))
                .OrderBy(g => g.Key)
                .Select(g => FigureWeek.Of(g.Key, g.Sum(d => d.Theirs.Of(kind)!.Value), g.Sum(d => d.Ours.Of(beside)))),
        ];
    }
}

/// <summary>A gap in one week.</summary>
/// <param name="Week">Its Monday.</param>
/// <param name="Theirs">What they count.</param>
/// <param name="Ours">What was found here.</param>
/// <param name="Gap">Share of theirs that is missing; null where theirs are under <see cref="ClickGap.LeastExpected"/>, which says nothing.</param>
/// <param name="Verdict">What is to be said of it.</param>
public sealed record FigureWeek(DateOnly Week, decimal Theirs, decimal Ours, double? Gap, FigureVerdict Verdict)
{
    internal static FigureWeek Of(DateOnly week, decimal theirs, decimal ours)
    {
        if (theirs < ClickGap.LeastExpected)
        {
            return new FigureWeek(week, theirs, ours, null, FigureVerdict.TooFew);
        }

        double gap = (double)((theirs - ours) / theirs);
        return new FigureWeek(week, theirs, ours, gap, FigureGap.VerdictOf(theirs, ours, gap));
    }
}
