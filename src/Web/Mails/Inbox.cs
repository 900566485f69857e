using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using Microsoft.Extensions.Options;
using PreciseBeacon.Data.Start;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Mails;

/// <summary>
/// The place a trial of a mail is sent to: in the demo, the inbox that ships with the stand-ins; elsewhere the address in the
/// settings, or none.
/// </summary>
public sealed class Inbox : IDisposable
{
    private readonly HttpClient _client;

    public Inbox(IOptions<BeaconOptions> options, IServiceProvider services)
    {
        Address = options.Value.InboxUrl ?? (options.Value.Demo ? services.GetService<IStartData>()?.InboxUrl : null);
        _client = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseProxy = false,
                ConnectTimeout = TimeSpan.FromSeconds(3),

                // Names under localhost are this machine (RFC 6761, 6.3), also where the resolver does not know it.
                ConnectCallback = async (context, cancel) =>
                {
                    var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
                    try
                    {
                        await (
                            context.DnsEndPoint.Host.EndsWith(".localhost", StringComparison.OrdinalIgnoreCase)
                                ? socket.ConnectAsync(new IPEndPoint(IPAddress.Loopback, context.DnsEndPoint.Port), cancel)
                                : socket.ConnectAsync(context.DnsEndPoint, cancel)
                        );
                        return new NetworkStream(socket, ownsSocket: true);
                    }
                    catch
                    {
                        socket.Dispose();
                        throw;
                    }
                },
            }
        )
        {
            Timeout = TimeSpan.FromSeconds(10),
        };
    }

    /// <summary>Where its mails are looked at; null when there is none.</summary>
    public string? Address { get; }

    /// <summary>Sends a mail.</summary>
    /// <returns>Where it can be looked at; null when the inbox does not answer.</returns>
    public async Task<string?> SendAsync(byte[] mail, bool isMessage, string subject, CancellationToken cancel)
    {
        using var content = new ByteArrayContent(mail);
        content.Headers.ContentType = new MediaTypeHeaderValue(isMessage ? "message/rfc822" : "text/html");
        try
        {
            using var answer = await _client.PostAsync($"{Address}/received?subject={Uri.EscapeDataString(subject)}", content, cancel);
            return answer.IsSuccessStatusCode ? $"{Address}{await answer.Content.ReadAsStringAsync(cancel)}" : null;
        }
        catch (Exception away) when (away is HttpRequestException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return null;
        }
    }

    public void Dispose() => _client.Dispose();
}
