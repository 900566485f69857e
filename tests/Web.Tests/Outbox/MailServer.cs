using System.Buffers;
using System.Collections.Concurrent;
using System.Net;
using MimeKit;
using PreciseBeacon.WebTests.Hosting;
using SmtpServer;
using SmtpServer.Mail;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace PreciseBeacon.WebTests.Outbox;

/// <summary>A mail server of a test's own, on a port of the loopback address.</summary>
public sealed class MailServer : MessageStore, IMailboxFilter, IAsyncDisposable
{
    private readonly CancellationTokenSource _stop = new();
    private readonly Task _listening;

    /// <summary>Starts listening.</summary>
    /// <param name="port">The port; a free one where it is left out.</param>
    public MailServer(int? port = null)
    {
        Port = port ?? DatabaseCluster.FreePort();
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add((IMessageStore)this);
        services.Add((IMailboxFilter)this);
        _listening = new SmtpServer.SmtpServer(
            new SmtpServerOptionsBuilder()
                .ServerName("mail.test")
                .Endpoint(endpoint => endpoint.Endpoint(new IPEndPoint(IPAddress.Loopback, Port)))
                .Build(),
            services
        ).StartAsync(_stop.Token);
    }

    /// <summary>Starts one on a free port.</summary>
    public static MailServer Start() => new();

    public int Port { get; }

    /// <summary>An address it takes nothing for.</summary>
    public string? Refused { get; init; }

    public ConcurrentQueue<MimeMessage> Came { get; } = new();

    /// <summary>Mails to an address, waited for until there are so many.</summary>
    public async Task<IReadOnlyList<MimeMessage>> ToAsync(string address, int count = 1)
    {
        await Eventually.Async(() => Task.FromResult(To().Count >= count));
        return To();

        List<MimeMessage> To() => [.. Came.Where(m => m.To.Mailboxes.Any(b => b.Address == address))];
    }

    /// <summary>Settings of an application that hands its mails to it.</summary>
    public static string[] Settings(int port) =>
        [
            "--Beacon:Smtp:Host=127.0.0.1",
            $"--Beacon:Smtp:Port={port}",
            "--Beacon:Smtp:Encrypted=false",
            "--Beacon:Smtp:From=Marrowmere links <links@marrowmere.example>",
        ];

    public override async Task<SmtpResponse> SaveAsync(
        ISessionContext context,
        IMessageTransaction transaction,
        ReadOnlySequence<byte> buffer,
        CancellationToken cancellationToken
    )
    {
        using var stream = new MemoryStream(buffer.ToArray());
        Came.Enqueue(await MimeMessage.LoadAsync(stream, cancellationToken));
        return SmtpResponse.Ok;
    }

    public Task<bool> CanAcceptFromAsync(ISessionContext context, IMailbox from, int size, CancellationToken cancellationToken) =>
        Task.FromResult(true);

    public Task<bool> CanDeliverToAsync(ISessionContext context, IMailbox to, IMailbox from, CancellationToken cancellationToken) =>
        Task.FromResult($"{to.User}@{to.Host}" != Refused);

    public async ValueTask DisposeAsync()
    {
        await _stop.CancelAsync();
        await _listening.ContinueWith(_ => { }, TaskScheduler.Default);
        _stop.Dispose();
    }
}
