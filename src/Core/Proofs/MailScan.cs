namespace PreciseBeacon.Core.Proofs;

/// <summary>An opening of a link of a mail.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Link">The link, one of those of the mail.</param>
/// <param name="Visitor">Who opened it, as far as address and program tell.</param>
/// <param name="At">When, UTC.</param>
public sealed record MailOpening(Guid Id, Guid Link, Guid Visitor, DateTimeOffset At);

/// <summary>
/// Tells openings by programs that follow all links of a mail before it is read, and say they are browsers: nobody opens several links of
/// one mail within seconds (common practice of those who count clicks of mails; the numbers are ours).
/// </summary>
public static class MailScan
{
    /// <summary>So many different links within <see cref="Within"/> are more than a person opens.</summary>
    public const int LeastLinks = 3;

    /// <summary>See <see cref="LeastLinks"/>.</summary>
    public static readonly TimeSpan Within = TimeSpan.FromSeconds(5);

    /// <summary>The openings that are a program's.</summary>
    /// <param name="openings">Openings of the links of one mail, in any order.</param>
    public static IReadOnlySet<Guid> ProgramsIn(IEnumerable<MailOpening> openings)
    {
        var found = new HashSet<Guid>();
        foreach (var ofVisitor in openings.GroupBy(o => o.Visitor))
        {
            var inOrder = ofVisitor.OrderBy(o => o.At).ToList();
            var links = new Dictionary<Guid, int>();
            int first = 0;
            int marked = 0;
            for (int last = 0; last < inOrder.Count; last++)
            {
                links[inOrder[last].Link] = links.GetValueOrDefault(inOrder[last].Link) + 1;
                for (; inOrder[last].At - inOrder[first].At > Within; first++)
                {
                    if (--links[inOrder[first].Link] == 0)
                    {
                        links.Remove(inOrder[first].Link);
                    }
                }

                if (links.Count >= LeastLinks)
                {
                    for (marked = Math.Max(marked, first); marked <= last; marked++)
                    {
                        found.Add(inOrder[marked].Id);
                    }
                }
            }
        }

        return found;
    }
}
