using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Outside;

/// <summary>Hosts that nothing may lead to: each with all of its ports and with every host below it (ours).</summary>
public static class RefusedHosts
{
    /// <summary>The entry of a list that a host falls under; null for none.</summary>
    /// <param name="refused">Hosts, ASCII, lower case, without a port.</param>
    /// <param name="host">A host, with its port where there is one.</param>
    public static string? Find(IReadOnlySet<string> refused, string host)
    {
        if (refused.Count == 0)
        {
            return null;
        }

        for (string name = Bare(host); name.Length > 0; name = name[(name.IndexOf('.', StringComparison.Ordinal) + 1)..])
        {
            if (refused.Contains(name))
            {
                return name;
            }

            if (!name.Contains('.', StringComparison.Ordinal))
            {
                break;
            }
        }

        return null;
    }

    /// <summary>What somebody typed as an entry of the list: a host, or an address whose host is meant.</summary>
    /// <returns>The host as it is listed, or why it can't be.</returns>
    public static (string? Host, string? Problem) Read(string typed)
    {
        var reading = DestinationReader.Read(typed);
        return reading.Destination is { } page
            ? (Bare(page.HostAndPort), null)
            : (null, reading.Notices is [var first, ..] ? first.Message : $"“{typed}” isn't a host; write it like refused.example.");
    }

    private static string Bare(string host)
    {
        string plain = host.TrimEnd('.');
        int port = plain.LastIndexOf(':');
        return (port > plain.LastIndexOf(']') ? plain[..port] : plain).TrimEnd('.');
    }
}
