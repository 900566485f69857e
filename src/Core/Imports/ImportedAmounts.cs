namespace PreciseBeacon.Core.Imports;

/// <summary>An imported amount of one day.</summary>
/// <param name="Target">The number of what it belongs to.</param>
/// <param name="Day">The day.</param>
/// <param name="Amount">Money in one currency, or how often something was counted; at least 0.</param>
public readonly record struct ImportedAmount(int Target, DateOnly Day, decimal Amount);

/// <summary>
/// What imported amounts of one kind say of which links and days. Where a finer one lies within a coarser one of the same day, such as a
/// link's within its campaign's, the coarser one is the whole and the finer one a part of it: nothing counts twice, and what is left
/// stands with the coarser one alone (ours). An imported cost of a day replaces the rates of all links it covers.
/// </summary>
public sealed class ImportedAmounts
{
    private readonly IReadOnlyDictionary<int, ImportTarget> _targets;
    private readonly Dictionary<int, List<CoverableLink>> _covered = [];
    private readonly Dictionary<Guid, List<int>> _ofLink = [];
    private readonly Dictionary<int, HashSet<DateOnly>> _days = [];
    private readonly IReadOnlyCollection<ImportedAmount> _amounts;

    /// <param name="targets">What amounts belong to, by number.</param>
    /// <param name="amounts">One for each target and day.</param>
    /// <param name="links">All links that one of the targets covers; others do no harm.</param>
    public ImportedAmounts(
        IReadOnlyDictionary<int, ImportTarget> targets,
        IReadOnlyCollection<ImportedAmount> amounts,
        IEnumerable<CoverableLink> links
    )
    {
        _targets = targets;
        _amounts = amounts;
        foreach (var amount in amounts)
        {
            (_days.TryGetValue(amount.Target, out var days) ? days : _days[amount.Target] = []).Add(amount.Day);
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

    /// <summary>Nothing was imported.</summary>
    public bool IsEmpty => _amounts.Count == 0;

    /// <summary>Whether something was imported for a link on a day.</summary>
    public bool Covers(Guid link, DateOnly day) =>
        _ofLink.TryGetValue(link, out var targets) && targets.Exists(t => _days[t].Contains(day));

    /// <summary>The days on which something was imported for a link; in no order.</summary>
    public IEnumerable<DateOnly> DaysOf(Guid link) =>
        _ofLink.TryGetValue(link, out var targets) ? targets.SelectMany(t => _days[t]).Distinct() : [];

    /// <summary>Whether amounts of a day say all there is of something: of all its links, or of what it is a part of.</summary>
    /// <param name="target">What it is.</param>
    /// <param name="links">The links it covers.</param>
    /// <param name="day">The day.</param>
    public bool CoversAll(ImportTarget target, IReadOnlyCollection<CoverableLink> links, DateOnly day) =>
        links.Count > 0
            ? links.All(l => Covers(l.Id, day))
            : _days.Any(d => d.Value.Contains(day) && (target.SaysMoreThan(_targets[d.Key]) || target.Key == _targets[d.Key].Key));

    /// <summary>The first and the last day of all amounts; null without any.</summary>
    public (DateOnly From, DateOnly To)? Span => _amounts.Count == 0 ? null : (_amounts.Min(c => c.Day), _amounts.Max(c => c.Day));

    /// <summary>What an amount belongs to.</summary>
    public ImportTarget TargetOf(int target) => _targets[target];

    /// <summary>The links a target covers.</summary>
    public IReadOnlyList<CoverableLink> LinksOf(int target) => _covered.GetValueOrDefault(target) ?? [];

    /// <summary>What is left of each amount without the finer ones within it, at least 0; those of which nothing is left are left out.</summary>
    public IEnumerable<ImportedAmount> Rests()
    {
        var within = WithinEach();
        foreach (var ofDay in _amounts.GroupBy(c => c.Day))
        {
            var rests = new Dictionary<int, decimal>();
            foreach (var amount in ofDay.OrderByDescending(c => _targets[c.Target].Fineness).ThenBy(c => LinksOf(c.Target).Count))
            {
                decimal inner = 0;
                if (within.TryGetValue(amount.Target, out var finer))
                {
                    inner = finer.Sum(f => rests.GetValueOrDefault(f));
                }

                decimal rest = Math.Max(0, amount.Amount - inner);
                rests[amount.Target] = rest;
                if (rest > 0)
                {
                    yield return amount with
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
