using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>What is asked of Arrivals.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="Currency">Its currency, ISO 4217; revenue in another one is shown apart.</param>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Rows">What rows are made by, outermost first; none gives the total alone.</param>
/// <param name="Where">Only visits that fulfil all of these.</param>
/// <param name="WithVisitors">Counts distinct visitors too, which takes longest; else there are none.</param>
public sealed record ArrivalsRequest(
    Guid WorkspaceId,
    string Currency,
    DateOnly From,
    DateOnly To,
    IReadOnlyList<RowField> Rows,
    IReadOnlyList<RowCondition> Where,
    bool WithVisitors = true
)
{
    private const int MostDays = 186;

    /// <summary>Counts clicks on short links too, where the rows are of a kind that clicks have; see <see cref="ClickRows.CanTell"/>.</summary>
    public bool WithClicks { get; init; }

    /// <summary>Shares conversions and revenue out over the touches before them; null leaves them with their own visits.</summary>
    public CreditChoice? Credit { get; init; }

    /// <summary>True where rows or conditions tell days apart.</summary>
    public bool IsByDay => Rows.Concat(Where.Select(w => w.Field)).Any(f => f.Table == RowTable.Day);

    /// <summary>Adds up what links cost too, where the conditions are of a kind that costs have; see <see cref="AmountRows.CanTell"/>.</summary>
    public bool WithCosts { get; init; }

    /// <summary>What other systems count that is asked for, where the conditions are of a kind that their figures have; see <see cref="AmountRows.CanTell"/>.</summary>
    public IReadOnlyList<FigureKind> Others { get; init; } = [];

    /// <summary>Conversions by kind and events by name that are counted for each row, at most <see cref="NamedMeasure.Most"/>.</summary>
    public IReadOnlyList<NamedMeasure> Named { get; init; } = [];

    /// <summary>Today in the workspace's zone: fixed costs of days to come are not due yet.</summary>
    public DateOnly Today { get; init; } = DateOnly.MaxValue;

    /// <summary>What a point of the series stands for: <see cref="RowKind.Day"/>, <see cref="RowKind.Week"/> or <see cref="RowKind.Month"/>.</summary>
    public RowKind Points { get; init; } = To.DayNumber - From.DayNumber >= MostDays ? RowKind.Month : RowKind.Day;

    /// <summary>Which rows have a line of their own in the series, of all rows of the report, with the plan they are named by; null for none.</summary>
    public Func<IReadOnlyList<ReportRow>, PlanOfVisits, IEnumerable<IReadOnlyList<string?>>>? Lines { get; init; }
}
