namespace PreciseBeacon.Core.Reports.Printing;

/// <summary>A report as it is put on paper.</summary>
/// <param name="Workspace">Whose figures they are.</param>
/// <param name="Title">What stands at its head.</param>
/// <param name="Lines">What it covers, sentence by sentence.</param>
/// <param name="Course">Visits at each point of time, in order, with what the point is called.</param>
/// <param name="Head">What its rows are by.</param>
/// <param name="Stations">Labels of the figures on the line, in order.</param>
/// <param name="Columns">Labels of those that follow it.</param>
/// <param name="Rows">Everything first, then the rows.</param>
/// <param name="More">What is said of rows that are not on it; empty for none.</param>
/// <param name="Notes">Notes on its days, the newest first.</param>
/// <param name="Foot">What is said at the foot of each page.</param>
public sealed record PrintedReport(
    string Workspace,
    string Title,
    IReadOnlyList<string> Lines,
    IReadOnlyList<(string Name, long Visits)> Course,
    string Head,
    IReadOnlyList<string> Stations,
    IReadOnlyList<string> Columns,
    IReadOnlyList<PrintedRow> Rows,
    string More,
    IReadOnlyList<string> Notes,
    string Foot
)
{
    /// <summary>What is compared by its own days, drawn as lines that begin at the same edge in place of <see cref="Course"/>; empty for nothing.</summary>
    public IReadOnlyList<PrintedCourse> Courses { get; init; } = [];
}

/// <summary>One of several courses that begin at the same edge.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Visits">By day, the first one first; at least one.</param>
public sealed record PrintedCourse(string Name, IReadOnlyList<long> Visits);

/// <summary>A row on paper.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Note">What stands beneath; empty for nothing.</param>
/// <param name="Stations">Its figures on the line, as many as the report has.</param>
/// <param name="Columns">Those that follow.</param>
public sealed record PrintedRow(string Name, string Note, IReadOnlyList<PrintedFigure> Stations, IReadOnlyList<PrintedFigure> Columns);

/// <summary>A figure on paper.</summary>
/// <param name="Text">As it is read.</param>
/// <param name="Size">How large it is, for its dot; null for none.</param>
/// <param name="Between">What stands between it and the one before; empty for nothing.</param>
/// <param name="Difference">How it differs from the span compared with; empty for nothing.</param>
/// <param name="Before">How large it was there, for the hollow dot; null for none.</param>
public sealed record PrintedFigure(string Text, decimal? Size, string Between, string Difference, decimal? Before);
