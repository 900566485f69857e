using PreciseBeacon.Core.Imports;
using PreciseBeacon.Data.Imports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Finds what other systems' figures are about, as the plan and what somebody put right stand now.</summary>
public sealed class FigureTargetReader(FigureNameBook book, NamedTargetReader names)
{
    /// <summary>Names that mean nothing known, listed with what they probably mean (ours).</summary>
    public const int MostUnmatched = 200;

    /// <summary>What subjects of a workspace mean; those that mean nothing known, or are left out, are not there.</summary>
    public async Task<IReadOnlyDictionary<int, ImportTarget>> TargetsAsync(Guid workspaceId, ReadFigures read, CancellationToken cancel) =>
        (await MatchAsync(workspaceId, read, cancel)).Targets;

    /// <summary>What subjects of a workspace mean, and the names that mean nothing known.</summary>
    public async Task<FigureTargets> ReadAsync(Guid workspaceId, ReadFigures read, CancellationToken cancel)
    {
        var match = await MatchAsync(workspaceId, read, cancel);
        var rows = read.Figures.GroupBy(f => f.Subject).ToDictionary(g => g.Key, g => g.Count());
        return new FigureTargets(
            match.Targets,
            match.Plan,
            [
                .. match
                    .Unmatched.Select(u => (u.Key, u.Value.Problem, Rows: u.Value.Subjects.Sum(s => rows.GetValueOrDefault(s))))
                    .OrderByDescending(u => u.Rows)
                    .ThenBy(u => u.Key.Text, StringComparer.Ordinal)
                    .Take(MostUnmatched)
                    .Select(u =>
                    {
                        var likely = match.Matchers[u.Key.System].Likely(u.Key.Part, u.Key.Text);
                        return new UnmatchedName(u.Key.System, u.Key.Part, u.Key.Text, u.Problem, u.Rows, likely?.Id, likely?.Name);
                    }),
            ],
            match.Unmatched.Count,
            match.Matches
        );
    }

    private async Task<Matched> MatchAsync(Guid workspaceId, ReadFigures read, CancellationToken cancel)
    {
        var matches = await book.ReadAsync(workspaceId, cancel);
        var corrections = matches
            .GroupBy(m => m.System, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, FigureNameBook.CorrectionsOf, StringComparer.Ordinal);
        var plan = await names.ReadAsync(
            workspaceId,
            read.Subjects.Values.Where(s =>
                    !corrections.TryGetValue(s.System, out var put) || !put.ContainsKey((TargetPart.Link, s.Target.Link))
                )
                .Select(s => s.Target.Link),
            cancel
        );
        var targets = new Dictionary<int, ImportTarget>();
        var unmatched = new Dictionary<(string System, TargetPart Part, string Text), (ImportProblem Problem, HashSet<int> Subjects)>();
        var matchers = new Dictionary<string, TargetMatcher>(StringComparer.Ordinal);
        foreach (var ofSystem in read.Subjects.GroupBy(s => s.Value.System, StringComparer.Ordinal))
        {
            var matcher = matchers[ofSystem.Key] = new TargetMatcher(plan, corrections.GetValueOrDefault(ofSystem.Key));
            foreach (var (id, subject) in ofSystem)
            {
                var match = matcher.Match(subject.Target);
                if (match.Target is { } target)
                {
                    targets[id] = target;
                }
                else if (match is { Problem: { } problem, Part: { } part })
                {
                    var key = (ofSystem.Key, part, match.About);
                    (unmatched.TryGetValue(key, out var some) ? some : unmatched[key] = (problem, [])).Subjects.Add(id);
                }
            }
        }

        return new Matched(targets, plan, unmatched, matchers, matches);
    }

    private sealed record Matched(
        IReadOnlyDictionary<int, ImportTarget> Targets,
        TargetNames Plan,
        IReadOnlyDictionary<(string System, TargetPart Part, string Text), (ImportProblem Problem, HashSet<int> Subjects)> Unmatched,
        IReadOnlyDictionary<string, TargetMatcher> Matchers,
        IReadOnlyList<FigureMatch> Matches
    );
}

/// <summary>What other systems' figures are about.</summary>
/// <param name="Targets">By subject; those that mean nothing known, or are left out, are not there.</param>
/// <param name="Plan">What campaigns and placements are called.</param>
/// <param name="Unmatched">Names that mean nothing known, those of most rows first, at most <see cref="FigureTargetReader.MostUnmatched"/>.</param>
/// <param name="UnmatchedCount">How many there are in all.</param>
/// <param name="Matches">What names mean that were found or put right.</param>
public sealed record FigureTargets(
    IReadOnlyDictionary<int, ImportTarget> Targets,
    TargetNames Plan,
    IReadOnlyList<UnmatchedName> Unmatched,
    int UnmatchedCount,
    IReadOnlyList<FigureMatch> Matches
);
