namespace PreciseBeacon.Core.Channels;

/// <summary>
/// The ordered table that says which kind of traffic an arrival is: the first row that claims it wins. The same table
/// judges links while they are built.
/// </summary>
/// <param name="Rows">The rows, in order.</param>
public sealed record ChannelTable(IReadOnlyList<Channel> Rows)
{
    /// <summary>What nothing claims.</summary>
    public const string Unsorted = "Unsorted";

    /// <summary>The channel that claims an arrival; null when none does.</summary>
    public Channel? ClaimOf(ChannelFacts facts) => Rows.FirstOrDefault(r => r.Claims(facts));

    /// <summary>
    /// Rows that can never claim anything, each with the earlier row that takes everything it would: one whose every
    /// condition it fulfils by its own.
    /// </summary>
    public IReadOnlyList<(Channel Row, Channel TakenBy)> NeverReached()
    {
        var shadowed = new List<(Channel, Channel)>();
        for (int i = 0; i < Rows.Count; i++)
        {
            var row = Rows[i];
            if (
                Rows.Take(i).FirstOrDefault(earlier => earlier.Conditions.All(c => row.Conditions.Any(own => Implies(own, c)))) is { } taken
            )
            {
                shadowed.Add((row, taken));
            }
        }

        return shadowed;
    }

    /// <summary>
    /// Rows that share something with an earlier row without being taken whole by it: what both would claim counts for
    /// the earlier one. Named by the words they share.
    /// </summary>
    public IReadOnlyList<ChannelOverlap> Overlaps()
    {
        var never = NeverReached().Select(n => n.Row).ToHashSet();
        var overlaps = new List<ChannelOverlap>();
        for (int i = 0; i < Rows.Count; i++)
        {
            for (int j = 0; j < i && !never.Contains(Rows[i]); j++)
            {
                if (!never.Contains(Rows[j]) && Shared(Rows[j], Rows[i]) is { Count: > 0 } shared)
                {
                    overlaps.Add(new ChannelOverlap(Rows[i].Name, Rows[j].Name, shared));
                }
            }
        }

        return overlaps;
    }

    /// <summary>Words that let two rows claim the same; none when they can't, or when nothing names what they share.</summary>
    private static List<string> Shared(Channel one, Channel other)
    {
        var shared = new List<string>();
        foreach (var condition in one.Conditions)
        {
            foreach (var theirs in other.Conditions.Where(c => c.Subject == condition.Subject))
            {
                if (condition.Test == ChannelTest.Empty && theirs.Test == ChannelTest.Empty)
                {
                    continue;
                }

                List<string> both =
                [
                    .. condition
                        .Values.Where(theirs.Accepts)
                        .Concat(theirs.Values.Where(condition.Accepts))
                        .Distinct(StringComparer.OrdinalIgnoreCase),
                ];
                bool open = condition.Test == ChannelTest.Contains && theirs.Test == ChannelTest.Contains;
                if (both.Count == 0 && !open)
                {
                    return [];
                }

                // That both are tagged, or both are not, says nothing about what they share.
                shared.AddRange(condition.Subject is ChannelSubject.Tagged or ChannelSubject.Printed ? [] : both);
            }
        }

        return shared;
    }

    /// <summary>True when whatever meets one condition meets the other too.</summary>
    private static bool Implies(ChannelCondition one, ChannelCondition other)
    {
        if (one.Subject != other.Subject)
        {
            return false;
        }

        return (one.Test, other.Test) switch
        {
            (ChannelTest.Empty, ChannelTest.Empty) => true,
            (ChannelTest.Is, ChannelTest.Is) => one.Values.All(v => other.Values.Contains(v, StringComparer.OrdinalIgnoreCase)),
            (ChannelTest.Is or ChannelTest.Contains, ChannelTest.Contains) => one.Values.All(v =>
                other.Values.Any(o => v.Contains(o, StringComparison.OrdinalIgnoreCase))
            ),
            _ => false,
        };
    }
}

/// <summary>A channel that shares some of its arrivals with an earlier one.</summary>
/// <param name="Channel">The later channel.</param>
/// <param name="Earlier">The earlier one, which gets what they share.</param>
/// <param name="Words">The words both would claim by.</param>
public sealed record ChannelOverlap(string Channel, string Earlier, IReadOnlyList<string> Words);
