using System.Globalization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Measuring;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Conversions;

/// <summary>Takes conversions and refunds that servers report: reads each, keeps those that can be, and says of each what became of it.</summary>
public sealed class ServerReportBook(BeaconDb db, ServerReports reports, WorkSignal signal, TimeProvider clock)
{
    /// <summary>So many at once.</summary>
    public const int Most = 1_000;

    private const int Longest = 100;
    private const string DefaultKind = "order"; // as the measuring script calls it

    /// <summary>Keeps reports.</summary>
    /// <param name="given">As sent, at most <see cref="Most"/>; null for what can't be read.</param>
    /// <param name="cancel">Gives up; then nothing is kept.</param>
    public async Task<ServerReportsAnswer> KeepAsync(IReadOnlyList<ServerReport?> given, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var sites = await db.Sites.AsNoTracking().Include(s => s.Hosts).Where(s => s.StoppedAt == null).ToListAsync(cancel);
        var now = clock.GetUtcNow();
        var from = KeptSpan.FirstDay(WorkspaceDay.At(now, workspace.TimeZone), workspace.RawMonths);
        var answers = new ServerReportAnswer?[given.Count];
        var conversions = new List<ServerConversion>();
        var refunds = new List<ServerRefund>();
        var places = new Dictionary<string, int>(StringComparer.Ordinal);
        for (int i = 0; i < given.Count; i++)
        {
            var read = given[i] is { } report
                ? Read(report, workspace.TimeZone, from, sites, now)
                : Refusal.Invalid("event-malformed", "An event is a JSON object; a field of this one has a value of the wrong kind.");
            if (read.IsRefused)
            {
                answers[i] = new ServerReportAnswer(given[i]?.EventId, ReportOutcome.Refused, read.Refusal.Rule, read.Refusal.Message);
            }
            else if (!places.TryAdd(read.Value.EventId, i))
            {
                answers[i] = AnswerOf(read.Value.EventId, ServerReportOutcome.Known);
            }
            else if (read.Value.Conversion is { } conversion)
            {
                conversions.Add(conversion);
            }
            else
            {
                refunds.Add(read.Value.Refund!);
            }
        }

        if (places.Count > 0)
        {
            foreach (var (eventId, outcome) in await reports.KeepAsync(workspace.Id, conversions, refunds, now, cancel))
            {
                answers[places[eventId]] = AnswerOf(eventId, outcome);
            }

            signal.Raise();
        }

        return new ServerReportsAnswer([.. answers.Select(a => a!)]);
    }

    private static ServerReportAnswer AnswerOf(string eventId, ServerReportOutcome outcome) =>
        outcome switch
        {
            ServerReportOutcome.Kept => new(eventId, ReportOutcome.Kept),
            ServerReportOutcome.KeptWithoutClick => new(
                eventId,
                ReportOutcome.Kept,
                "click-unknown",
                $"No click of the last {ServerConversion.LongestAfter.Days} days has this id; the conversion counts without a source."
            ),
            ServerReportOutcome.Waiting => new(
                eventId,
                ReportOutcome.Waiting,
                "order-unknown",
                "Nobody has reported this order yet; the refund counts once somebody does."
            ),
            ServerReportOutcome.Known => new(
                eventId,
                ReportOutcome.Known,
                "event-known",
                "An event of this id came before; nothing changed. Give another report another id."
            ),
            ServerReportOutcome.OrderKnown => new(
                eventId,
                ReportOutcome.Known,
                "order-known",
                "A server reported this order before; nothing changed. Report what was paid back as a refund."
            ),
            ServerReportOutcome.RefundTooLarge => new(
                eventId,
                ReportOutcome.Refused,
                "refund-larger",
                "With what was refunded before, this is more than the order’s value; check the amount."
            ),
            _ => new(
                eventId,
                ReportOutcome.Refused,
                "refund-currency",
                "The order was paid in another currency; report the refund in that one."
            ),
        };

    private static Outcome<ReadReport> Read(ServerReport report, string zone, DateOnly from, IReadOnlyList<Site> sites, DateTimeOffset now)
    {
        if (TextOf(report.EventId) is not { } eventId)
        {
            return Refusal.Invalid("event-id", $"Each event has an eventId of its own, of 1 to {Longest} characters.");
        }

        var site = SiteOf(report.Site, sites);
        if (site is null)
        {
            return Refusal.Invalid(
                "site-unknown",
                "No measured site has this id, name or host; name one as “site”, as it stands in the workspace."
            );
        }

        var at = report.At is null ? now : WorkspaceMoment.Read(report.At, zone);
        if (at is null)
        {
            return Refusal.Invalid("at-refused", "“at” is a moment by ISO 8601, such as 2026-12-24T18:00:00Z; leave it out for now.");
        }

        if (at > now + ServerConversion.ClockSkew)
        {
            return Refusal.Unacceptable("at-ahead", "“at” lies in the future; check the server’s clock and its time zone.");
        }

        if (WorkspaceDay.At(at.Value, zone) < from)
        {
            return Refusal.Unacceptable(
                "at-over",
                $"Single visits are kept from {from.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)} on; an earlier conversion finds none."
            );
        }

        decimal? value = report.Value?.Amount;
        if (report.Value is { } money && (money.Amount is null || !Currencies.IsKnown(money.Currency ?? "")))
        {
            return Refusal.Invalid("value-refused", "A value has an amount, such as “12.50”, and a currency by ISO 4217, such as EUR.");
        }

        if (value < 0 || value > site.LargestValue)
        {
            return Refusal.Unacceptable(
                "value-range",
                $"A value is at least 0 and at most {site.LargestValue.ToString("N0", CultureInfo.InvariantCulture)}, which is the site’s own limit; report a refund as “refundOf”."
            );
        }

        string? currency = report.Value?.Currency?.ToUpperInvariant();
        return report.RefundOf is null
            ? Conversion(report, eventId, site, at.Value, value, currency)
            : Refund(report, eventId, site, at.Value, value, currency);
    }

    private static Outcome<ReadReport> Conversion(
        ServerReport report,
        string eventId,
        Site site,
        DateTimeOffset at,
        decimal? value,
        string? currency
    )
    {
        string? order = TextOf(report.OrderId);
        if (report.OrderId is { Length: > 0 } && order is null)
        {
            return Refusal.Invalid("order-id", $"An order id has 1 to {Longest} characters.");
        }

        string? kind = report.Kind is null && order is not null ? DefaultKind : TextOf(report.Kind);
        if (kind is null)
        {
            return Refusal.Invalid("kind-missing", $"Say the kind of conversion, in 1 to {Longest} characters.");
        }

        if (order is null && report.ClickId is null && report.VisitorId is null)
        {
            return Refusal.Invalid("whose-missing", "Name the clickId, the visitorId or the orderId; else nobody can tell whose it is.");
        }

        if (report.VisitorId is not null && !site.KeepsVisitorIds)
        {
            return Refusal.Unacceptable(
                "visitor-ids-off",
                "The site keeps no visitor ids, so none can be found; name the clickId or the orderId instead."
            );
        }

        if (report.VisitorId is { Length: < 8 or > 100 })
        {
            return Refusal.Invalid("visitor-id", "A visitorId has 8 to 100 characters, as the site’s pages hand it over.");
        }

        var (items, fault) = ReportedItem.ReadAll(report.Items, site.LargestValue);
        return fault is not null
            ? Refusal.Invalid("items-refused", fault)
            : new ReadReport(
                eventId,
                new ServerConversion(
                    eventId,
                    site.Id,
                    kind,
                    order,
                    value,
                    currency,
                    items,
                    at,
                    report.ClickId is null ? null
                        : ClickId.TryRead(report.ClickId, out var click) ? click
                        : Guid.Empty, // none of ours: known to nobody
                    report.VisitorId is { } visitor ? VisitorHash.OfSiteId(site.VisitorIdKey, visitor) : null
                ),
                null
            );
    }

    private static Outcome<ReadReport> Refund(
        ServerReport report,
        string eventId,
        Site site,
        DateTimeOffset at,
        decimal? value,
        string? currency
    ) =>
        TextOf(report.RefundOf) is not { } order ? Refusal.Invalid("order-id", $"An order id has 1 to {Longest} characters.")
        : value is null or 0 ? Refusal.Invalid("value-refused", "Say as “value” how much went back; it is above 0.")
        : new ReadReport(eventId, null, new ServerRefund(eventId, site.Id, order, value.Value, currency!, at));

    private static Site? SiteOf(string? named, IReadOnlyList<Site> sites) =>
        string.IsNullOrWhiteSpace(named)
            ? sites.Count == 1
                ? sites[0]
                : null
            : sites.FirstOrDefault(s =>
                s.Name.Equals(named.Trim(), StringComparison.OrdinalIgnoreCase)
                || s.Id.ToString().Equals(named.Trim(), StringComparison.OrdinalIgnoreCase)
                || s.Hosts.Any(h => h.Host.Equals(named.Trim(), StringComparison.OrdinalIgnoreCase))
            );

    /// <summary>What a server called something, as a page's report would be kept; null for nothing, and for too much.</summary>
    private static string? TextOf(string? given) =>
        given is { Length: > 0 and <= Longest } && InvisibleText.Remove(given.Replace('\0', ' ')).Trim() is { Length: > 0 } text
            ? string.Concat(text.EnumerateRunes().Select(r => r.ToString()))
            : null;

    private sealed record ReadReport(string EventId, ServerConversion? Conversion, ServerRefund? Refund);
}
