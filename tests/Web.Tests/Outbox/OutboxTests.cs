using System.Net;
using System.Text.RegularExpressions;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.Core.Outbox;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Outbox;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Outbox;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Outbox;

/// <summary>Mails go out once: with the mail server there, away and back, and with several processes.</summary>
public sealed partial class OutboxTests
{
    private const string Orla = "orla@marrowmere.example";
    private const string Rowan = "rowan@marrowmere.example";

    [Fact]
    public async Task Somebody_is_invited_by_mail_and_joins_by_its_link()
    {
        await using var server = new MailServer();
        await using var host = await StartAsync(server.Port);
        using var owner = host.As("owner");
        var made = await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = Rowan, role = "editor" });
        Assert.True(made["mailed"]!.GetValue<bool>());

        var mail = Assert.Single(await server.ToAsync(Rowan));
        string link = LinkOf(mail.TextBody!);
        Assert.Equal(made.Text("address"), link);
        Assert.Contains(link, mail.HtmlBody!, StringComparison.Ordinal);
        Assert.DoesNotContain("http", mail.HtmlBody!.Replace(link, "", StringComparison.Ordinal), StringComparison.Ordinal);
        Assert.Equal("Marrowmere links <links@marrowmere.example>", mail.From.ToString().Replace("\"", "", StringComparison.Ordinal));
        Assert.Equal("auto-generated", mail.Headers["Auto-Submitted"]);

        using var wren = await BrowserAsync(host);
        await wren.DoAsync(
            HttpMethod.Post,
            "/api/account/invitation/use",
            new
            {
                secret = link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..],
                name = "Rowan Aske",
                password = "seven ferns on a wall",
            }
        );

        // What opened something is kept nowhere.
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where sent_at is not null") == 1
        );
        Assert.Equal(0, await host.ScalarAsync<long>("select count(*) from outgoing_mail where text is not null or html is not null"));
        var shown = (await owner.DoAsync(HttpMethod.Get, "/api/v1/outgoing-mails"))["mails"]![0]!;
        Assert.Equal(("invitation", Rowan), (shown.Text("kind"), shown.Text("recipient")));
        Assert.NotNull(shown["sentAt"]);
    }

    [Fact]
    public async Task Whoever_forgot_their_password_gets_one_mail_and_strangers_none()
    {
        await using var server = new MailServer();
        await using var host = await StartAsync(server.Port);
        using var browser = await BrowserAsync(host);
        Assert.True((await browser.DoAsync(HttpMethod.Get, "/api/account"))["sendsMail"]!.GetValue<bool>());
        string[] typed = ["nobody@marrowmere.example", Orla, "ORLA@marrowmere.example", Orla];
        foreach (string mail in typed)
        {
            Assert.Equal(
                HttpStatusCode.NoContent,
                (await browser.CallAsync(HttpMethod.Post, "/api/account/forgotten", new { mail })).Status
            );
        }

        Assert.Equal(
            "mail-refused",
            (await browser.CallAsync(HttpMethod.Post, "/api/account/forgotten", new { mail = "nobody" })).Json.Refusal().Rule
        );
        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from outgoing_mail where sent_at is null") == 0);
        var sent = Assert.Single(server.Came);
        Assert.Equal(Orla, sent.To.Mailboxes.Single().Address);

        // Asked again right after, there is no second one.
        await browser.CallAsync(HttpMethod.Post, "/api/account/forgotten", new { mail = Orla });
        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from outgoing_mail where sent_at is null") == 0);
        Assert.Single(server.Came);

        string link = LinkOf(sent.TextBody!);
        await browser.DoAsync(
            HttpMethod.Post,
            "/api/account/invitation/use",
            new { secret = link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..], password = "nine other ferns on it" }
        );
        using var again = await BrowserAsync(host);
        await again.DoAsync(HttpMethod.Post, "/api/account/sign-in", new { mail = Orla, password = "nine other ferns on it" });
    }

    [Fact]
    public async Task Without_a_mail_server_links_are_handed_over_as_before()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        var made = await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = Rowan, role = "viewer" });
        Assert.False(made["mailed"]!.GetValue<bool>());
        Assert.Null((await owner.DoAsync(HttpMethod.Get, "/api/v1/outgoing-mails"))["from"]);
        using var browser = await BrowserAsync(host);
        Assert.Equal(
            "mail-off",
            (await browser.CallAsync(HttpMethod.Post, "/api/account/forgotten", new { mail = Orla })).Json.Refusal().Rule
        );
        Assert.Equal("mail-off", (await owner.CallAsync(HttpMethod.Post, "/api/v1/outgoing-mails/test")).Json.Refusal().Rule);
        Assert.Equal(0, await host.ScalarAsync<long>("select count(*) from outgoing_mail"));
    }

    [Fact]
    public async Task A_mail_is_kept_while_the_mail_server_is_away_and_sent_once_it_is_back()
    {
        int port = DatabaseCluster.FreePort();
        await using var host = await StartAsync(port);
        using var owner = host.As("owner");
        await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = Rowan, role = "viewer" });
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where tries = 1 and answer is not null") == 1
        );
        var waiting = (await owner.DoAsync(HttpMethod.Get, "/api/v1/outgoing-mails"))["mails"]![0]!;
        Assert.Contains($"127.0.0.1:{port}", waiting.Text("answer"), StringComparison.Ordinal);
        Assert.Null(waiting["sentAt"]);
        Assert.NotNull(waiting["nextTryAt"]);

        await using var server = new MailServer(port);
        await RunAsync(host, "update outgoing_mail set due_at = now() - interval '1 second'");
        host.Services.GetRequiredService<OutboxSignal>().Wake();
        Assert.Single(await server.ToAsync(Rowan));
    }

    [Fact]
    public async Task An_address_the_mail_server_refuses_is_given_up_at_once()
    {
        await using var server = new MailServer { Refused = Rowan };
        await using var host = await StartAsync(server.Port);
        using var owner = host.As("owner");
        await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = Rowan, role = "viewer" });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = "fern@marrowmere.example", role = "viewer" });
        Assert.Single(await server.ToAsync("fern@marrowmere.example"));
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where given_up_at is not null and text is null") == 1
        );
        var mails = (await owner.DoAsync(HttpMethod.Get, "/api/v1/outgoing-mails"))["mails"]!.AsArray();
        Assert.StartsWith("5", mails.Single(m => m.Text("recipient") == Rowan).Text("answer"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Three_processes_send_each_mail_once()
    {
        const int Mails = 60;
        await using var server = new MailServer();
        await using var host = await StartAsync(server.Port);
        await using var second = await StartAsync(server.Port, host.Connection);
        await using var third = await StartAsync(server.Port, host.Connection);
        await QueueAsync(host, Mails);
        foreach (var one in new[] { host, second, third })
        {
            one.Services.GetRequiredService<OutboxSignal>().Wake();
        }

        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where sent_at is not null") == Mails
        );
        Assert.Equal(Mails, server.Came.Count);
        Assert.Equal(Mails, server.Came.Select(m => m.To.ToString()).Distinct().Count());
    }

    [Fact]
    public async Task What_a_process_died_over_is_sent_again_with_the_same_id()
    {
        await using var server = new MailServer();
        await using var host = await BeaconHost.StartAsync();
        await QueueAsync(host, 1);
        var queue = new MailQueue(host.Database);
        var claimed = await queue.ClaimAsync(DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.NotNull(claimed);
        Assert.Null(await queue.ClaimAsync(DateTimeOffset.UtcNow, CancellationToken.None));

        // It died; two minutes later somebody else takes it.
        await RunAsync(host, "update outgoing_mail set claimed_until = now() - interval '1 second'");
        await using var next = await StartAsync(server.Port, host.Connection);
        var mail = Assert.Single(await server.ToAsync("guest0@marrowmere.example"));
        Assert.Equal($"{claimed.Id:N}@marrowmere.example", mail.MessageId);
    }

    [Fact]
    public async Task A_mail_that_cannot_be_written_holds_up_no_other()
    {
        await using var server = new MailServer();
        await using var host = await BeaconHost.StartAsync(
            replace: services => services.AddScoped<IForgottenPasswords, Failing>(),
            more: MailServer.Settings(server.Port)
        );
        using var browser = await BrowserAsync(host);
        await browser.CallAsync(HttpMethod.Post, "/api/account/forgotten", new { mail = Orla });
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where tries = 1 and answer is not null and due_at > now()")
            == 1
        );
        using var owner = host.As("owner");
        await owner.DoAsync(HttpMethod.Post, "/api/v1/members/invitations", new { mail = Rowan, role = "viewer" });
        Assert.Single(await server.ToAsync(Rowan));

        // Nor does an address nobody can read.
        await RunAsync(
            host,
            "insert into outgoing_mail (id, kind, recipient, subject, made_at, due_at) values (gen_random_uuid(), 'test', 'nobody at all', '', now(), now())"
        );
        host.Services.GetRequiredService<OutboxSignal>().Wake();
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from outgoing_mail where given_up_at is not null") == 1
        );
    }

    private sealed class Failing : IForgottenPasswords
    {
        public Task<OutgoingMail?> WriteAsync(string recipient, DateTimeOffset askedAt, CancellationToken cancel) =>
            throw new InvalidOperationException("It fails.");
    }

    private static async Task QueueAsync(BeaconHost host, int count)
    {
        await using var scope = host.Services.CreateAsyncScope();
        scope.ServiceProvider.GetRequiredService<CurrentWorkspace>().Id = await host.ScalarAsync<Guid>("select id from workspaces limit 1");
        var db = scope.ServiceProvider.GetRequiredService<BeaconDb>();
        var mail = AccountMails.Test("Marrowmere", "http://localhost");
        for (int i = 0; i < count; i++)
        {
            await MailQueue.AddAsync(db, $"guest{i}@marrowmere.example", mail, DateTimeOffset.UtcNow, CancellationToken.None);
        }
    }

    private static async Task RunAsync(BeaconHost host, string sql)
    {
        await using var command = host.Database.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }

    private static Task<BeaconHost> StartAsync(int port, string? database = null) =>
        BeaconHost.StartAsync(database: database, more: MailServer.Settings(port));

    private static async Task<HttpClient> BrowserAsync(BeaconHost host)
    {
        var browser = new HttpClient(new SocketsHttpHandler { CookieContainer = new CookieContainer(), AllowAutoRedirect = false })
        {
            BaseAddress = new Uri($"http://127.0.0.1:{host.Port}"),
        };
        browser.DefaultRequestHeaders.Add("X-Beacon-Token", (await browser.DoAsync(HttpMethod.Get, "/api/account")).Text("token"));
        return browser;
    }

    private static string LinkOf(string text) => Link().Match(text).Value;

    [GeneratedRegex(@"http://\S+/join#\S+")]
    private static partial Regex Link();
}
