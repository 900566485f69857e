using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Outside;

/// <summary>The hosts of one's own site, as somebody types them.</summary>
public static class SiteHosts
{
    /// <summary>Hosts one site has at most (ours).</summary>
    public const int Most = 50;

    /// <summary>Reads hosts, or addresses of pages on them.</summary>
    /// <param name="typed">Such as <c>www.garden.example</c> or <c>http://localhost:5000/</c>; empty ones are left out.</param>
    /// <returns>Each host once, in the order typed, ASCII, lower case, with a port where there is one; or why one of them can't be.</returns>
    public static (IReadOnlyList<OwnHost> Hosts, string? Problem) Read(IEnumerable<string?> typed)
    {
        var hosts = new List<OwnHost>();
        foreach (string text in typed.Select(t => t?.Trim() ?? "").Where(t => t.Length > 0))
        {
            var reading = DestinationReader.Read(text);
            if (reading.Destination is not { } page)
            {
                return (
                    [],
                    reading.Notices is [var first, ..] ? first.Message : $"“{text}” isn't a host; write it like www.garden.example."
                );
            }

            if (hosts.TrueForAll(h => h.Host != page.HostAndPort))
            {
                hosts.Add(new OwnHost(page.HostAndPort, page.Scheme == "https"));
            }
        }

        return hosts.Count switch
        {
            0 => ([], "A site needs at least one host, such as www.garden.example."),
            > Most => ([], $"A site has at most {Most} hosts."),
            _ => (hosts, null),
        };
    }
}

/// <summary>A host of one's own site.</summary>
/// <param name="Host">ASCII, lower case, with a port where there is one.</param>
/// <param name="AnswersHttps">Its pages are reached by https.</param>
public sealed record OwnHost(string Host, bool AnswersHttps);
