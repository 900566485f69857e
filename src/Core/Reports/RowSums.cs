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

    public long[] Conversions { get; private set; } = [];

    public long[] VerifiedConversions { get; private set; } = [];

    public long[] Visitors { get; private set; } = [];

    public decimal[] Revenue { get; private set; } = [];

    /// <summary>For each named measure its sums.</summary>
    public long[][] Named { get; } = [.. named.Select(_ => Array.Empty<long>())];

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
            Conversions = Conversions[row],
            VerifiedConversions = VerifiedConversions[row],
            Visitors = Visitors[row],
            Revenue = Revenue[row],
            Named =
                _names.Length == 0
                    ? Figures.Zero.Named
                    : _names.Select((name, i) => (name, Named[i][row])).ToDictionary(n => n.name, n => n.Item2),
        };
}
