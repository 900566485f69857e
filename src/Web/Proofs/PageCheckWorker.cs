using System.Text;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outside;

namespace PreciseBeacon.Web.Proofs;

/// <summary>
/// Checks the pages that links lead to, one after another and politely: at most one request a second to any host, and by schedule only
/// what a site's robots.txt lets programs fetch (RFC 9309). A run goes on where it was when its process died.
/// </summary>
public sealed class PageCheckWorker(
    DatabaseSetup setup,
    PageCheckBook book,
    FindingBook findings,
    PageFindingMails mails,
    PageLandings landings,
    TraceFactsReader facts,
    PageTracer tracer,
    OutsideReader outside,
    SlugTable slugs,
    TimeProvider clock,
    ILogger<PageCheckWorker> log
) : StepWorker(setup, new Outage(log, "Pages wait to be checked."), TimeSpan.FromSeconds(2))
{
    /// <summary>The least time between two requests to one host.</summary>
    private static readonly TimeSpan Pace = TimeSpan.FromSeconds(1);

    private const string Agent = "PreciseBeacon";
    private const int LargestRobots = 500 << 10;
    private const int MostHosts = 10_000;

    /// <summary>So far back a page's last visit is looked for.</summary>
    private const int LandingDays = 90;

    private readonly Guid _worker = Guid.NewGuid();
    private readonly Dictionary<string, DateTimeOffset> _asked = [];
    private readonly Dictionary<string, RobotsRules> _robots = [];
    private readonly Dictionary<string, long?> _invented = [];
    private Guid _run;
    private IReadOnlyDictionary<string, DateOnly> _landed = new Dictionary<string, DateOnly>();

    protected override async Task<bool> StepAsync(CancellationToken stopping)
    {
        var now = clock.GetUtcNow();
        await book.StartDueAsync(now, stopping);
        if (await book.TakeAsync(_worker, now, stopping) is not { } run)
        {
            return false;
        }

        if (run.Id != _run || _asked.Count > MostHosts)
        {
            // What sites said is asked anew for each run.
            _run = run.Id;
            _robots.Clear();
            _invented.Clear();
            _asked.Clear();
            var day = DateOnly.FromDateTime(now.UtcDateTime);
            _landed = await landings.LastAsync(run.WorkspaceId, day.AddDays(-LandingDays), day.AddDays(1), stopping);
        }

        if (run.Total is null)
        {
            await book.ListAsync(run, stopping);
            return true;
        }

        if (await book.NextAsync(run, stopping) is not { } next)
        {
            await book.FinishAsync(run, clock.GetUtcNow(), await mails.WriteAsync(run, stopping), stopping);
            mails.Wake();
            await findings.MarkDueAsync(run.WorkspaceId, stopping);
            return true;
        }

        var (trace, found) = await CheckAsync(run, next.Page, next.Url, stopping);
        await book.KeepAsync(run, next.Page, trace, found, clock.GetUtcNow(), stopping);
        return true;
    }

    /// <summary>It waits before each request already.</summary>
    protected override TimeSpan RestAfter(TimeSpan worked) => TimeSpan.Zero;

    private async Task<(PageTrace? Trace, IReadOnlyList<Finding> Findings)> CheckAsync(
        PageCheckRun run,
        string page,
        string url,
        CancellationToken cancel
    )
    {
        if (run.StartedBy is null && !await MayFetchAsync(url, cancel))
        {
            return (
                null,
                [
                    new Finding(
                        FindingRules.RobotsRefuse,
                        Severity.Info,
                        "The site's robots.txt asks programs not to fetch this page, so it is not checked by schedule. Try a link, or start a check by hand."
                    ),
                ]
            );
        }

        var tagged = await tracer.TraceAsync(url, IsCounted, cancel, WaitAsync);
        var plain =
            tagged.Problem is null && Core.Links.DestinationReader.Read(page).Destination is { } untagged
                ? await tracer.TraceAsync(Core.Composing.TagWriter.WriteBare(untagged), IsCounted, cancel, WaitAsync)
                : null;
        var found = TraceFindings.Of(tagged, plain, await facts.ReadAsync(run.WorkspaceId, clock.GetUtcNow(), cancel)).ToList();
        if (
            tagged is { Problem: null, Page: { } looked }
            && tagged.Hops[^1].Status is >= 200 and < 300
            && await InventedAsync(new Uri(tagged.Url), cancel) == looked.Body
        )
        {
            found.Add(
                new Finding(
                    FindingRules.SoftError,
                    Severity.Error,
                    "The page is the same as for an address that does not exist, so it is an error page that says it is none. Check the address."
                )
            );
        }

        if (await SilenceAsync(run.WorkspaceId, page, cancel) is { } silence)
        {
            found.Add(silence);
        }

        // What can only be known while somebody waits for step four is nothing a check can tell.
        return (tagged, [.. found.Where(f => f is not { Rule: FindingRules.ScriptMissing, Severity: Severity.Info })]);
    }

    private async Task<Finding?> SilenceAsync(Guid workspaceId, string page, CancellationToken cancel)
    {
        if (
            Core.Links.DestinationReader.Read(page).Destination is not { } destination
            || !_landed.TryGetValue(destination.Page, out var last)
        )
        {
            return null;
        }

        // The day of the world stands for that of the workspace: with three days at least, an hour or a few change nothing.
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        return today.DayNumber - last.DayNumber < PageSilence.LeastDays
            ? null
            : PageSilence.Of(last, await landings.ClicksAsync(workspaceId, page, last, cancel), today);
    }

    private bool IsCounted(string host) => slugs.Domain(host) is not null;

    private async Task WaitAsync(string host, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        if (_asked.TryGetValue(host, out var last) && last + Pace > now)
        {
            await Task.Delay(last + Pace - now, clock, cancel);
        }

        _asked[host] = clock.GetUtcNow();
    }

    private async Task<bool> MayFetchAsync(string url, CancellationToken cancel)
    {
        if (!Uri.TryCreate(url, UriKind.Absolute, out var page) || IsCounted(page.Authority))
        {
            return true; // the tracer says what is wrong with it
        }

        if (!_robots.TryGetValue(page.Authority, out var rules))
        {
            await WaitAsync(page.Authority, cancel);
            _robots[page.Authority] = rules = await RobotsAsync(new Uri(page, "/robots.txt"), cancel);
        }

        return rules.Allows(page.PathAndQuery);
    }

    private async Task<RobotsRules> RobotsAsync(Uri address, CancellationToken cancel)
    {
        try
        {
            using var answer = await outside.AskAsync(address, cancel);
            if (!answer.IsSuccessStatusCode)
            {
                return (int)answer.StatusCode >= 500 ? RobotsRules.Nothing : RobotsRules.All;
            }

            await using var body = await answer.Content.ReadAsStreamAsync(cancel);
            byte[] text = new byte[LargestRobots];
            int length = await body.ReadAtLeastAsync(text, text.Length, throwOnEndOfStream: false, cancel);
            return RobotsRules.Parse(Encoding.UTF8.GetString(text, 0, length), Agent);
        }
        catch (Exception away)
            when (away is HttpRequestException or IOException or InvalidDataException
                || (away is OperationCanceledException && !cancel.IsCancellationRequested)
            )
        {
            return RobotsRules.Nothing;
        }
    }

    /// <summary>What a site answers for an address nobody made, as a hash of the body; null where it says that there is none.</summary>
    private async Task<long?> InventedAsync(Uri page, CancellationToken cancel)
    {
        if (!_invented.TryGetValue(page.Authority, out long? body))
        {
            var trace = await tracer.TraceAsync(new Uri(page, $"/no-such-page-{_run:N}").AbsoluteUri, IsCounted, cancel, WaitAsync);
            _invented[page.Authority] = body =
                trace is { Problem: null, Page: { } looked } && trace.Hops[^1].Status is >= 200 and < 300 ? looked.Body : null;
        }

        return body;
    }
}
