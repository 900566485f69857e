using PreciseBeacon.Core.Credit;

namespace PreciseBeacon.Core.Reports;

/// <summary>Sums by row, each figure in an array of its own.</summary>
internal sealed class RowSums(IReadOnlyList<NamedMeasure> named)
{
    private readonly string[] _names = [.. named.Select(n => n.ToString())];

    public long[] Visits { get; private set; } = [];

    public long[] PageViews { get; private set; } = [];

    public long[] Events { get; private set; } = [];

    public long[] Seconds { get; private set; } = [];

    public long[] Bounces { get; private set; } = [];

    public long[] ConvertingVisits { get; private set; } = [];

    public long[] VisitsWithId { get; private set; } = [];

    public long[] NewVisitors { get; private set; } = [];

    /// <summary>In parts of <see cref="CreditShares.PerConversion"/>, as those verified and named are.</summary>
    public long[] Conversions { get; private set; } = [];

    /// <summary>By the model compared with, likewise; empty where there is none.</summary>
    public long[] OtherConversions { get; private set; } = [];

    /// <summary>Revenue by that model.</summary>
    public decimal[] OtherRevenue { get; private set; } = [];

    public long[] VerifiedConversions { get; private set; } = [];

    public long[] Visitors { get; private set; } = [];

    public decimal[] Revenue { get; private set; } = [];

    /// <summary>For each named measure its sums.</summary>
    public long[][] Named { get; } = [.. named.Select(_ => Array.Empty<long>())];

    /// <summary>Whether two models are compared.</summary>
    public bool IsCompared { get; private set; }

    /// <summary>Keeps sums by a second model too.</summary>
    public void Compare()
    {
        IsCompared = true;
        OtherConversions = new long[Visits.Length];
        OtherRevenue = new decimal[Visits.Length];
    }

    public void MakeRoom(int rows)
    {
        if (rows <= Visits.Length)
        {
            return;
        }

        int length = Math.Max(rows, Math.Max(64, 2 * Visits.Length));
        Visits = Longer(Visits);
        PageViews = Longer(PageViews);
        Events = Longer(Events);
        Seconds = Longer(Seconds);
        Bounces = Longer(Bounces);
        ConvertingVisits = Longer(ConvertingVisits);
        VisitsWithId = Longer(VisitsWithId);
        NewVisitors = Longer(NewVisitors);
        Conversions = Longer(Conversions);
        VerifiedConversions = Longer(VerifiedConversions);
        Visitors = Longer(Visitors);
        Revenue = Longer(Revenue);
        if (IsCompared)
        {
            OtherConversions = Longer(OtherConversions);
            OtherRevenue = Longer(OtherRevenue);
        }

        for (int i = 0; i < Named.Length; i++)
        {
            Named[i] = Longer(Named[i]);
        }

        T[] Longer<T>(T[] sums)
        {
            Array.Resize(ref sums, length);
            return sums;
        }
    }

    /// <summary>Adds a row of other sums to one of these.</summary>
    public void Add(int row, RowSums other, int its)
    {
        Visits[row] += other.Visits[its];
        PageViews[row] += other.PageViews[its];
        Events[row] += other.Events[its];
        Seconds[row] += other.Seconds[its];
        Bounces[row] += other.Bounces[its];
        ConvertingVisits[row] += other.ConvertingVisits[its];
        VisitsWithId[row] += other.VisitsWithId[its];
        NewVisitors[row] += other.NewVisitors[its];
        Conversions[row] += other.Conversions[its];
        VerifiedConversions[row] += other.VerifiedConversions[its];
        Visitors[row] += other.Visitors[its];
        Revenue[row] += other.Revenue[its];
        for (int i = 0; i < Named.Length; i++)
        {
            Named[i][row] += other.Named[i][its];
        }
    }

    public Figures FiguresOf(int row) =>
        new()
        {
            Visits = Visits[row],
            PageViews = PageViews[row],
            Events = Events[row],
            Seconds = Seconds[row],
            Bounces = Bounces[row],
            ConvertingVisits = ConvertingVisits[row],
            VisitsWithId = VisitsWithId[row],
            NewVisitors = NewVisitors[row],
            Conversions = WholeOf(Conversions[row]),
            VerifiedConversions = WholeOf(VerifiedConversions[row]),
            OtherConversions = IsCompared ? WholeOf(OtherConversions[row]) : null,
            OtherRevenue = IsCompared ? OtherRevenue[row] : null,
            Visitors = Visitors[row],
            Revenue = Revenue[row],
            Named =
                _names.Length == 0
                    ? Figures.Zero.Named
                    : _names
                        .Select((name, i) => (name, named[i].Of == NamedThing.Conversions ? WholeOf(Named[i][row]) : Named[i][row]))
                        .ToDictionary(n => n.name, n => n.Item2),
        };

    private static decimal WholeOf(long parts) => (decimal)parts / CreditShares.PerConversion;
}
