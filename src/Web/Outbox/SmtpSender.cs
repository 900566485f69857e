using MailKit;
using MailKit.Net.Smtp;
using MailKit.Security;
using Microsoft.Extensions.Options;
using MimeKit;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outbox;

/// <summary>Hands mails to the mail server in the settings. One connection at a time, by one caller.</summary>
public sealed class SmtpSender(IOptions<BeaconOptions> options) : IAsyncDisposable
{
    private const int ImplicitTlsPort = 465;
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(15);

    // Longer than any server should take over one mail, and shorter than a claim holds.
    private static readonly TimeSpan LongestMail = TimeSpan.FromSeconds(90);

    private readonly SmtpOptions _smtp = options.Value.Smtp;
    private readonly SmtpClient _client = new() { Timeout = (int)LongestWait.TotalMilliseconds };

    /// <summary>Opens the connection, unless it is open.</summary>
    /// <returns>Null when the server is ready; else what is in the way.</returns>
    public async Task<string?> ConnectAsync(CancellationToken cancel)
    {
        if (_client.IsConnected)
        {
            return null;
        }

        try
        {
            await _client.ConnectAsync(
                _smtp.Host!,
                _smtp.Port,
                !_smtp.Encrypted ? SecureSocketOptions.StartTlsWhenAvailable
                    : _smtp.Port == ImplicitTlsPort ? SecureSocketOptions.SslOnConnect
                    : SecureSocketOptions.StartTls,
                cancel
            );
            if (_smtp.User is { Length: > 0 } user)
            {
                await _client.AuthenticateAsync(user, _smtp.Password ?? "", cancel);
            }

            return null;
        }
        catch (Exception failure) when (IsOfServer(failure, cancel))
        {
            await CloseAsync();
            return $"The mail server at {_smtp.Host}:{_smtp.Port} was not ready: {OneLine(failure.Message)}";
        }
    }

    /// <summary>Hands a mail over.</summary>
    /// <returns>What the server said, and what follows from it.</returns>
    public async Task<Delivery> SendAsync(MimeMessage message, CancellationToken cancel)
    {
        using var within = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        within.CancelAfter(LongestMail);
        try
        {
            return new Delivery(Handed.Over, OneLine(await _client.SendAsync(message, within.Token)));
        }
        catch (SmtpCommandException refused)
        {
            string answer = $"{(int)refused.StatusCode} {OneLine(refused.Message)}";
            return new Delivery(DeliverySchedule.IsFinal((int)refused.StatusCode) ? Handed.Refused : Handed.Later, answer);
        }
        catch (Exception failure) when (IsOfServer(failure, cancel))
        {
            await CloseAsync();
            return new Delivery(Handed.Later, OneLine(failure.Message));
        }
    }

    /// <summary>Closes the connection; it is opened again with the next mail.</summary>
    public async Task CloseAsync()
    {
        try
        {
            using var within = new CancellationTokenSource(LongestWait);
            await _client.DisconnectAsync(quit: true, within.Token);
        }
        catch (Exception failure) when (IsOfServer(failure, CancellationToken.None))
        {
            // Nothing is lost with a connection that ends otherwise.
        }
    }

    public ValueTask DisposeAsync()
    {
        _client.Dispose();
        return ValueTask.CompletedTask;
    }

    private static bool IsOfServer(Exception failure, CancellationToken cancel) =>
        failure
            is System.Net.Sockets.SocketException
                or IOException
                or ProtocolException
                or CommandException
                or AuthenticationException
                or SslHandshakeException
                or ServiceNotConnectedException
                or NotSupportedException
                or TimeoutException
        || (failure is OperationCanceledException && !cancel.IsCancellationRequested);

    private static string OneLine(string text) => string.Join(' ', text.Split(default(char[]), StringSplitOptions.RemoveEmptyEntries));
}

/// <summary>What came of handing a mail over.</summary>
/// <param name="Answer">What the server said, on one line.</param>
public sealed record Delivery(Handed What, string Answer);

/// <summary>What came of handing a mail over.</summary>
public enum Handed
{
    /// <summary>The server took it.</summary>
    Over,

    /// <summary>The server never takes it.</summary>
    Refused,

    /// <summary>It may take it later.</summary>
    Later,
}
