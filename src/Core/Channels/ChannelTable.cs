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
            if (Rows.Take(i).FirstOrDefault(earlier => earlier.Conditions.All(c => row.Conditions.Any(own => Implies(own, c)))) is { } taken)
            {
                shadowed.Add((row, taken));
            }
        }

        return shadowed;
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
            (ChannelTest.Is or ChannelTest.Contains, ChannelTest.Contains) =>
                one.Values.All(v => other.Values.Any(o => v.Contains(o, StringComparison.OrdinalIgnoreCase))),
            _ => false,
        };
    }
}
