namespace PreciseBeacon.Core.Proofs;

/// <summary>What a program saw on its way to a page: every request in order, and the page itself.</summary>
/// <param name="Hops">The requests, the first one first; never empty.</param>
/// <param name="Page">The page that answered in the end; null where none did, or none was read.</param>
/// <param name="Problem">Why it went no further; null where it came to an answer.</param>
/// <param name="Says">The problem in one sentence; null without one.</param>
public sealed record PageTrace(IReadOnlyList<TraceHop> Hops, TracedPage? Page, TraceProblem? Problem = null, string? Says = null)
{
    /// <summary>The address that answered in the end, or was asked last.</summary>
    public string Url => Hops[^1].Url;

    /// <summary>All requests together, in milliseconds.</summary>
    public int Milliseconds => Hops.Sum(h => h.Milliseconds);
}

/// <summary>One request on the way to a page.</summary>
/// <param name="Url">The address asked, as it was sent; with its fragment, which stays with the browser.</param>
/// <param name="Status">The status it answered; null where nothing answered.</param>
/// <param name="Milliseconds">From asking to the head of the answer, and of the last one to its end.</param>
public sealed record TraceHop(string Url, int? Status, int Milliseconds);

/// <summary>What a page said.</summary>
/// <param name="Title">Its title without spaces around it; null without one.</param>
/// <param name="Octets">Length of its body, decompressed; of a longer one as much as was read.</param>
/// <param name="Keys">Measuring keys of the scripts it loads, each once.</param>
/// <param name="Body">A hash of its body, by which two answers are found to be the same (XXH3).</param>
public sealed record TracedPage(string? Title, int Octets, IReadOnlyList<string> Keys, long Body = 0);

/// <summary>Why a page could not be traced to its end.</summary>
public enum TraceProblem
{
    /// <summary>It can't be reached, leads inside, or broke off.</summary>
    Unreachable,

    /// <summary>It took too long.</summary>
    TooSlow,

    /// <summary>It redirects again and again.</summary>
    TooManyRedirects,

    /// <summary>It leads to a short link of this workspace, where a request would be counted.</summary>
    CountedLink,

    /// <summary>It looks as if opening it would unsubscribe somebody.</summary>
    Unsubscribes,
}
