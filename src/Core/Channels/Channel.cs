namespace PreciseBeacon.Core.Channels;

/// <summary>One row of the channels table.</summary>
/// <param name="Name">What the channel is called.</param>
/// <param name="Group">The group it is gathered in, such as paid, own, printed or found.</param>
/// <param name="Conditions">All of them must be met; none claims everything.</param>
public sealed record Channel(string Name, string Group, IReadOnlyList<ChannelCondition> Conditions)
{
    public bool Claims(ChannelFacts facts)
    {
        foreach (var condition in Conditions)
        {
            if (!condition.IsMetBy(facts))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>The row's conditions in words.</summary>
    public string InWords() => Conditions.Count == 0 ? "everything else" : string.Join(" and ", Conditions.Select(c => c.InWords()));
}
