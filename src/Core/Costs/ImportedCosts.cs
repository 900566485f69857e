using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Core.Costs;

/// <summary>An imported cost of one day.</summary>
/// <param name="Target">The number of what it belongs to.</param>
/// <param name="Day">The day.</param>
/// <param name="Amount">Money in the workspace's currency.</param>
public readonly record struct ImportedCost(int Target, DateOnly Day, decimal Amount);

/// <summary>
/// What imported costs say of which links and days. An import for a day replaces the rates of all links it covers. Where a finer import
/// lies within a coarser one of the same day, such as a link's within its campaign's, the coarser one is the whole and the finer one a part
/// of it: nothing is paid twice, and what is left stands with the coarser one alone (ours).
/// </summary>
public sealed class ImportedCosts
{
    private readonly IReadOnlyDictionary<int, ImportTarget> _targets;
    private readonly Dictionary<int, List<CoverableLink>> _covered = [];
    private readonly Dictionary<Guid, List<int>> _ofLink = [];
    private readonly Dictionary<int, HashSet<DateOnly>> _days = [];
    private readonly IReadOnlyCollection<ImportedCost> _costs;

    /// <param name="targets">What costs belong to, by number.</param>
    /// <param name="costs">One for each target and day.</param>
    /// <param name="links">All links that one of the targets covers; others do no harm.</param>
    public ImportedCosts(
        IReadOnlyDictionary<int, ImportTarget> targets,
        IReadOnlyCollection<ImportedCost> costs,
        IEnumerable<CoverableLink> links
    )
    {
        _targets = targets;
        _costs = costs;
        foreach (var cost in costs)
        {
            (_days.TryGetValue(cost.Target, out var days) ? days : _days[cost.Target] = []).Add(cost.Day);
        }

        var finder = new TargetFinder(_days.Keys.ToDictionary(t => t, t => targets[t]));
        foreach (var link in links)
        {
            foreach (int target in finder.Of(link))
            {
                (_covered.TryGetValue(target, out var covered) ? covered : _covered[target] = []).Add(link);
                (_ofLink.TryGetValue(link.Id, out var of) ? of : _ofLink[link.Id] = []).Add(target);
            }
        }
    }

    /// <summary>No costs were imported.</summary>
    public bool IsEmpty => _costs.Count == 0;

    /// <summary>Whether an import says what a link cost on a day, so that its rates don't count.</summary>
    public bool Covers(Guid link, DateOnly day) =>
        _ofLink.TryGetValue(link, out var targets) && targets.Exists(t => _days[t].Contains(day));

    /// <summary>The days on which imports say what a link cost; in no order.</summary>
    public IEnumerable<DateOnly> DaysOf(Guid link) =>
        _ofLink.TryGetValue(link, out var targets) ? targets.SelectMany(t => _days[t]).Distinct() : [];

    /// <summary>The first and the last day of imported costs; null without any.</summary>
    public (DateOnly From, DateOnly To)? Span => _costs.Count == 0 ? null : (_costs.Min(c => c.Day), _costs.Max(c => c.Day));

    /// <summary>What a cost belongs to.</summary>
    public ImportTarget TargetOf(int target) => _targets[target];

    /// <summary>The links a target covers.</summary>
    public IReadOnlyList<CoverableLink> LinksOf(int target) => _covered.GetValueOrDefault(target) ?? [];

    /// <summary>What is left of each cost without the finer ones within it, at least 0; those of which nothing is left are left out.</summary>
    public IEnumerable<ImportedCost> Rests()
    {
        var within = WithinEach();
        foreach (var ofDay in _costs.GroupBy(c => c.Day))
        {
            var rests = new Dictionary<int, decimal>();
            foreach (var cost in ofDay.OrderByDescending(c => _targets[c.Target].Fineness).ThenBy(c => LinksOf(c.Target).Count))
            {
                decimal inner = 0;
                if (within.TryGetValue(cost.Target, out var finer))
                {
                    inner = finer.Sum(f => rests.GetValueOrDefault(f));
                }

                decimal rest = Math.Max(0, cost.Amount - inner);
                rests[cost.Target] = rest;
                if (rest > 0)
                {
                    yield return cost with
                    {
                        Amount = rest,
                    };
                }
            }
        }
    }

    /// <summary>For each target the finer ones within it: those that name more of the same, and those whose links are all among its own.</summary>
    private Dictionary<int, List<int>> WithinEach()
    {
        var within = new Dictionary<int, List<int>>();
        foreach (int finer in _days.Keys)
        {
            var links = LinksOf(finer);
            var named = _targets[finer];
            IEnumerable<int> coarser =
                links.Count == 0
                    ? _days.Keys.Where(t => named.SaysMoreThan(_targets[t]))
                    : _ofLink[links[0].Id]
                        .Where(t =>
                            t != finer
                            && _targets[t].Fineness < named.Fineness
                            && LinksOf(t).Count >= links.Count
                            && links.All(l => _targets[t].Covers(l))
                        );
            foreach (int target in coarser)
            {
                (within.TryGetValue(target, out var some) ? some : within[target] = []).Add(finer);
            }
        }

        return within;
    }
}
