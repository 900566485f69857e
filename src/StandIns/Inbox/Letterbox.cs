using System.Buffers;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace PreciseBeacon.StandIns.Inbox;

/// <summary>Takes mails as any mail server hands them over (RFC 5321), on this machine alone.</summary>
public sealed class Letterbox : MessageStore
{
    private const int MostOctets = 11 << 20;

    /// <summary>Keeps a mail that came.</summary>
    public Func<byte[], CancellationToken, Task<ReceivedMail?>>? Came { get; set; }

    /// <summary>Listens until it is told to stop.</summary>
    /// <param name="port">The port on the loopback address.</param>
    public Task ListenAsync(int port, CancellationToken stopping)
    {
        var options = new SmtpServerOptionsBuilder()
            .ServerName("inbox.localhost")
            .MaxMessageSize(MostOctets, MaxMessageSizeHandling.Strict)
            .Endpoint(endpoint => endpoint.Endpoint(new System.Net.IPEndPoint(System.Net.IPAddress.Loopback, port)))
            .Build();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(this);
        return new SmtpServer.SmtpServer(options, services).StartAsync(stopping);
    }

    /// <inheritdoc />
    public override async Task<SmtpResponse> SaveAsync(
        ISessionContext context,
        IMessageTransaction transaction,
        ReadOnlySequence<byte> buffer,
        CancellationToken cancellationToken
    ) => Came is not null && await Came(buffer.ToArray(), cancellationToken) is not null ? SmtpResponse.Ok : SmtpResponse.TransactionFailed;
}
