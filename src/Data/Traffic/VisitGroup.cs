using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>One person's hashes that are linked over midnight, with the days due.</summary>
internal sealed class VisitGroup(Guid workspaceId)
{
    public Guid WorkspaceId { get; } = workspaceId;

    public HashSet<Guid> Visitors { get; } = [];

    public HashSet<DateOnly> Due { get; } = [];

    /// <summary>Events over the due days and a margin around them, in order.</summary>
    public List<RawPageEvent> Events { get; } = [];

    /// <summary>
    /// Widens the due days to stretches that no visit crosses the ends of.
    /// </summary>
    /// <param name="rules">The workspace's rules.</param>
    /// <param name="margin">Days loaded before the first and after the last due day.</param>
    /// <returns>The days from and to of each stretch; null when a stretch reaches the margin, so more must be loaded.</returns>
    public List<(DateOnly From, DateOnly To)>? Stretches(VisitRules rules, int margin)
    {
        var days = Events.Select(e => rules.DayOf(e.At)).ToList();
        var stretches = new List<(DateOnly From, DateOnly To)>();
        var first = Due.Min().AddDays(-margin);
        var last = Due.Max().AddDays(margin);
        foreach (var due in Due.Order())
        {
            if (stretches.Count > 0 && due <= stretches[^1].To)
            {
                continue;
            }

            var from = due;
            var to = due;
            int begin = days.FindIndex(d => d >= due);
            int end = days.FindLastIndex(d => d <= due);
            while (begin > 0 && begin < days.Count && Events[begin].At - Events[begin - 1].At <= VisitRules.Gap)
            {
                begin--;
                from = days[begin] < from ? days[begin] : from;
            }

            // Once a day is in, it is in whole: an earlier visit of that day may lend its source.
            begin = days.FindIndex(d => d >= from);
            while (begin > 0 && Events[begin].At - Events[begin - 1].At <= VisitRules.Gap)
            {
                from = days[begin - 1];
                begin = days.FindIndex(d => d >= from);
            }

            while (end >= 0 && end + 1 < days.Count && Events[end + 1].At - Events[end].At <= VisitRules.Gap)
            {
                to = days[end + 1];
                end = days.FindLastIndex(d => d <= to);
            }

            if (from <= first || to >= last)
            {
                return null;
            }

            stretches.Add((from, to));
        }

        return stretches;
    }
}
