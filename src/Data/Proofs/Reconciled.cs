using System.IO.Hashing;
using System.Text;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Other systems' figures beside ours.</summary>
/// <param name="Figures">At most <see cref="ReconcileReader.Most"/>, those worth looking into and with the largest difference first.</param>
/// <param name="Count">How many there are in all.</param>
/// <param name="Unmatched">Names that mean nothing known, those of most rows first, at most <see cref="FigureTargetReader.MostUnmatched"/>.</param>
/// <param name="UnmatchedCount">How many there are in all.</param>
/// <param name="Matches">What names mean that were found or put right.</param>
public sealed record Reconciled(
    IReadOnlyList<ReconciledFigure> Figures,
    int Count,
    IReadOnlyList<UnmatchedName> Unmatched,
    int UnmatchedCount,
    IReadOnlyList<FigureMatch> Matches
);

/// <summary>One figure of another system beside ours.</summary>
/// <param name="System">The other system.</param>
/// <param name="Target">What it is about.</param>
/// <param name="Called">What that is called: link, campaign, placement and values; at least one.</param>
/// <param name="Gap">The gap and its causes.</param>
/// <param name="Theirs">All of their figures.</param>
/// <param name="From">The first day they have a figure of.</param>
/// <param name="To">The last one.</param>
/// <param name="Weeks">The gap week by week, the oldest first.</param>
public sealed record ReconciledFigure(
    string System,
    ImportTarget Target,
    IReadOnlyList<string> Called,
    FigureGap Gap,
    OtherFigures Theirs,
    DateOnly From,
    DateOnly To,
    IReadOnlyList<FigureWeek> Weeks
)
{
    /// <summary>The same for the same system, target and kind of figure; 32 letters and digits.</summary>
    public string Key => Convert.ToHexStringLower(XxHash128.Hash(Encoding.UTF8.GetBytes($"{System}\u001f{Gap.Kind}\u001f{Target.Key}")));
}

/// <summary>A name in another system's files that means nothing known.</summary>
/// <param name="System">The other system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Problem">Why it means nothing.</param>
/// <param name="Rows">Figures by day that wait for it.</param>
/// <param name="LikelyId">The campaign or placement it probably means; null where none is near.</param>
/// <param name="Likely">What that is called.</param>
public sealed record UnmatchedName(
    string System,
    TargetPart Part,
    string Text,
    ImportProblem Problem,
    int Rows,
    Guid? LikelyId,
    string? Likely
);
