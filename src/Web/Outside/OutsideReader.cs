using System.Net;
using System.Net.Sockets;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outside;

/// <summary>
/// Fetches pages from outside. Every connection is judged by the address it is really made to, after every redirect and
/// whatever a name resolved to before; no proxy is used. The stand-ins on this machine are the one exception, by setting.
/// </summary>
public sealed class OutsideReader : IDisposable
{
    private const int MostRedirects = 5;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <summary>Asked for at the first connection: whether this copy runs the demo is settled only once the database was readied.</summary>
    private readonly Lazy<(HashSet<string> Hosts, int? OwnPort)> _standIns;
    private readonly HttpClient _client;

    public OutsideReader(IOptions<BeaconOptions> options, RunMode mode)
    {
        _standIns = new(() =>
            (new(mode.StartData?.Hosts ?? [], StringComparer.OrdinalIgnoreCase), mode.IsDemo ? new Uri(options.Value.PublicUrl).Port : null)
        );
        _client = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseProxy = false,
                UseCookies = false,
                AutomaticDecompression = DecompressionMethods.All,
                ConnectTimeout = Patience,
                PooledConnectionLifetime = TimeSpan.FromMinutes(1),
                ConnectCallback = ConnectAsync,
            }
        )
        {
            Timeout = Patience,
        };
        _client.DefaultRequestHeaders.UserAgent.ParseAdd("PreciseBeacon/1.0 (+page names)");
    }

    /// <summary>Fetches one page, following redirects while <paramref name="mayGoTo"/> allows their hosts.</summary>
    /// <param name="url">Where.</param>
    /// <param name="mayGoTo">Whether a host, with its port where there is one, may be asked.</param>
    /// <param name="mostOctets">Most of the body that is read; what is longer is refused.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>The body.</returns>
    /// <exception cref="OutsideException">It could not be fetched; the message is one sentence.</exception>
    public async Task<OutsidePage> FetchAsync(string url, Func<string, bool> mayGoTo, int mostOctets, CancellationToken cancel)
    {
        try
        {
            for (int hop = 0; hop <= MostRedirects; hop++)
            {
                var target = DestinationReader.Read(url).Destination ?? throw new OutsideException($"“{url}” can't be fetched.");
                if (!mayGoTo(target.HostAndPort))
                {
                    throw new OutsideException($"“{target.HostAndPort}” is not one of this workspace's hosts.");
                }

                string sent = TagWriter.WriteBare(target);
                using var answer = await _client.GetAsync(new Uri(sent), HttpCompletionOption.ResponseHeadersRead, cancel);
                if ((int)answer.StatusCode is >= 300 and < 400 && answer.Headers.Location is { } location)
                {
                    url = new Uri(new Uri(sent), location).AbsoluteUri;
                    continue;
                }

                if (!answer.IsSuccessStatusCode)
                {
                    throw new OutsideException($"“{sent}” answered {(int)answer.StatusCode}.");
                }

                return new OutsidePage(sent, await ReadAsync(answer, mostOctets, cancel), answer.Content.Headers.ContentType?.CharSet);
            }

            throw new OutsideException($"“{url}” redirects more than {MostRedirects} times.");
        }
        catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
        {
            throw new OutsideException($"“{url}” did not answer within {Patience.TotalSeconds:0} seconds.");
        }
        catch (Exception broken) when (broken is HttpRequestException or IOException or UriFormatException or InvalidDataException)
        {
            throw new OutsideException(
                broken.InnerException is OutsideException inner ? inner.Message : $"“{url}” can't be reached.",
                broken
            );
        }
    }

    /// <summary>Asks for one address and follows nothing; the body is still to be read.</summary>
    /// <param name="uri">The address.</param>
    /// <param name="cancel">Gives up.</param>
    /// <exception cref="HttpRequestException">Nothing answered; an inner <see cref="OutsideException"/> says why nothing was asked.</exception>
    public Task<HttpResponseMessage> AskAsync(Uri uri, CancellationToken cancel) =>
        _client.GetAsync(uri, HttpCompletionOption.ResponseHeadersRead, cancel);

    public void Dispose() => _client.Dispose();

    private static async Task<byte[]> ReadAsync(HttpResponseMessage answer, int mostOctets, CancellationToken cancel)
    {
        await using var body = await answer.Content.ReadAsStreamAsync(cancel);
        using var kept = new MemoryStream();
        byte[] buffer = new byte[1 << 15];
        for (int read = await body.ReadAsync(buffer, cancel); read > 0; read = await body.ReadAsync(buffer, cancel))
        {
            kept.Write(buffer, 0, read);
            if (kept.Length > mostOctets)
            {
                throw new OutsideException($"The answer is longer than {mostOctets / 1024:N0} KB.");
            }
        }

        return kept.ToArray();
    }

    private async ValueTask<Stream> ConnectAsync(SocketsHttpConnectionContext context, CancellationToken cancel)
    {
        var target = context.DnsEndPoint;
        var (standIns, ownPort) = _standIns.Value;
        // In the demo, names of this machine at the application's own port are its short domains.
        bool standIn =
            (target.Port == ownPort && target.Host.EndsWith(".localhost", StringComparison.OrdinalIgnoreCase))
            || standIns.Contains($"{target.Host}:{target.Port}")
            || (target.Port == 80 && standIns.Contains(target.Host));
        var addresses = standIn ? [IPAddress.Loopback] : await ResolveAsync(target.Host, cancel);
        var open = standIn ? addresses : [.. addresses.Where(PublicAddress.Is)];
        if (open.Length == 0)
        {
            throw new OutsideException($"“{target.Host}” leads to this server or a private network, which is never fetched.");
        }

        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(open, target.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    private static async Task<IPAddress[]> ResolveAsync(string host, CancellationToken cancel)
    {
        try
        {
            return await Dns.GetHostAddressesAsync(host, cancel);
        }
        catch (SocketException unknown)
        {
            throw new OutsideException($"Unknown host “{host}”.", unknown);
        }
    }
}

/// <summary>A page as it was fetched.</summary>
/// <param name="Url">Where it was found in the end.</param>
/// <param name="Body">Its octets, decompressed.</param>
/// <param name="Charset">The encoding its header names, or null.</param>
public sealed record OutsidePage(string Url, byte[] Body, string? Charset);

/// <summary>Something outside could not be fetched; the message is one sentence for the person who asked.</summary>
public sealed class OutsideException : Exception
{
    public OutsideException() { }

    public OutsideException(string message)
        : base(message) { }

    public OutsideException(string message, Exception inner)
        : base(message, inner) { }
}
