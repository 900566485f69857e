using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Web.Imports;

/// <summary>A row of a file that is left out.</summary>
/// <param name="Number">Its row in the file; the headings are row 1.</param>
/// <param name="Problem">Why.</param>
/// <param name="About">The text that is the problem; empty for none.</param>
/// <param name="Says">The same as a sentence.</param>
public sealed record RefusedRow(int Number, ImportProblem Problem, string About, string Says)
{
    /// <summary>So many are shown (ours).</summary>
    public const int Most = 200;

    /// <summary>The first rows that have a problem, at most <see cref="Most"/>.</summary>
    internal static IReadOnlyList<RefusedRow> Of(IEnumerable<(int Number, ImportProblem? Problem, string About)> rows) =>
        [
            .. rows.Where(r => r.Problem is not null)
                .Take(Most)
                .Select(r => new RefusedRow(r.Number, r.Problem!.Value, r.About, ImportProblemText.Of(r.Problem.Value, r.About))),
        ];
}
