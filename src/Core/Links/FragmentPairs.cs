namespace PreciseBeacon.Core.Links;

/// <summary>
/// How a fragment can hold pairs: after its first <c>?</c> (<c>#/list?page=2</c>), or as a whole when it reads like
/// pairs (<c>#a=1&amp;b=2</c>). Anything else (<c>#opening-times</c>) holds none yet.
/// </summary>
/// <param name="Lead">What stands before the pairs, with its <c>?</c> where there is one.</param>
/// <param name="Pairs">The pairs as text, or null when the fragment holds none.</param>
internal sealed record FragmentPairs(string Lead, string? Pairs)
{
    public static FragmentPairs Of(string? fragment)
    {
        if (string.IsNullOrEmpty(fragment))
        {
            return new FragmentPairs("", null);
        }

        int mark = fragment.IndexOf('?', StringComparison.Ordinal);
        if (mark >= 0)
        {
            return new FragmentPairs(fragment[..(mark + 1)], fragment[(mark + 1)..]);
        }

        return fragment.Contains('=', StringComparison.Ordinal) ? new FragmentPairs("", fragment) : new FragmentPairs(fragment, null);
    }

    /// <summary>The fragment again, with other pairs; null when nothing is left.</summary>
    public string? With(string? pairs)
    {
        if (string.IsNullOrEmpty(pairs))
        {
            string lead = Lead.EndsWith('?') && pairs is null ? Lead[..^1] : Lead;
            return lead.Length == 0 ? null : lead;
        }

        return Lead.Length == 0 || Lead.EndsWith('?') ? Lead + pairs : $"{Lead}?{pairs}";
    }
}
