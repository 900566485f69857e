using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Single visits.</summary>
public static class VisitEndpoints
{
    private const int MostOnPage = 500;

    public static void MapVisits(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/visits").WithTags("Arrivals");
        group.MapGet("", ListAsync).WithName("ListVisits").WithSummary("Lists single visits, the newest first.").For(Caller.Readers);
        group
            .MapGet("/{id:guid}", GetAsync)
            .WithName("ReadVisit")
            .WithSummary("Reads one visit with its pages, events and conversions.")
            .For(Caller.Readers);
    }

    private static async Task<Outcome<VisitListAnswer>> ListAsync(
        BeaconDb db,
        ConventionReader conventions,
        VisitReader visits,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null,
        string? after = null,
        int size = 50
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        (DateTimeOffset, Guid)? last = null;
        if ((after is not null && (last = Cursor(after)) is null) || size is < 1 or > MostOnPage)
        {
            return Refusal.Invalid(
                "page-refused",
                $"A page has 1 to {MostOnPage} visits; the next one begins after what the last one gave as next."
            );
        }

        var rows = await visits.ListAsync(request, await conventions.ReadAsync(cancel), last, size, cancel);
        return new VisitListAnswer(
            [.. rows.Select(VisitAnswer.Of)],
            rows.Count == size ? $"{rows[^1].StartedAt.UtcTicks.ToString(CultureInfo.InvariantCulture)}_{rows[^1].Id:N}" : null,
            workspace.RawFrom is { } raw && request.From < raw ? raw : null
        );
    }

    private static async Task<Outcome<VisitDetail>> GetAsync(
        Guid id,
        BeaconDb db,
        ConventionReader conventions,
        VisitReader visits,
        CancellationToken cancel
    ) =>
        await visits.FindAsync(db.CurrentWorkspaceId!.Value, id, await conventions.ReadAsync(cancel), cancel) is { } found
            ? new VisitDetail(
                VisitAnswer.Of(found.Visit),
                [
                    .. found.Steps.Select(s => new VisitStepAnswer(
                        s.At,
                        s.Kind,
                        s.Name,
                        s.OrderId,
                        s is { Value: { } value, Currency: { } currency } ? Money.Of(value, currency) : null
                    )),
                ]
            )
            : Refusal.NotFound("visit");

    private static (DateTimeOffset, Guid)? Cursor(string text) =>
        text.Split('_') is [var ticks, var id]
        && long.TryParse(ticks, NumberStyles.None, CultureInfo.InvariantCulture, out long at)
        && at <= DateTime.MaxValue.Ticks
        && Guid.TryParseExact(id, "N", out var last)
            ? (new DateTimeOffset(at, TimeSpan.Zero), last)
            : null;
}

/// <summary>A page of visits.</summary>
/// <param name="Visits">The visits, the newest first.</param>
/// <param name="Next">What the next page comes after; null on the last one.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; reports still have those before it. Null else.</param>
public sealed record VisitListAnswer(IReadOnlyList<VisitAnswer> Visits, string? Next, DateOnly? RawFrom);

/// <summary>One visit.</summary>
/// <param name="Id">Its id.</param>
/// <param name="StartedAt">Its first event.</param>
/// <param name="Seconds">From its first event to its last.</param>
/// <param name="Channel">The channel it is sorted into.</param>
/// <param name="Campaign">Written value of its campaign; null without one.</param>
/// <param name="Placement">Name of its placement; null where none is known.</param>
/// <param name="Source">Its source; null where its tags say none.</param>
/// <param name="Medium">Its medium; null where its tags say none.</param>
/// <param name="Content">Its content; null without one.</param>
/// <param name="Tags">The tag-like parameters of its landing address as they stood there, by key.</param>
/// <param name="Referrer">Host of the outside referrer; null without one.</param>
/// <param name="LinkId">The link it came by; null where none is known.</param>
/// <param name="HitId">The hit on a short link it came from; null where none is known.</param>
/// <param name="Printed">It came through a printed code.</param>
/// <param name="LandingPage">Host and path of its first page.</param>
/// <param name="LastPage">Host and path of its last page.</param>
/// <param name="Country">ISO 3166-1 alpha-2; null where it is not known.</param>
/// <param name="Region">The largest part of the country; null where it is not known.</param>
/// <param name="Town">The town; null where it is not known.</param>
/// <param name="Device">Kind of device: phone, tablet or computer.</param>
/// <param name="Model">The device's model; null where it is not known, as are system and browser.</param>
/// <param name="System">The operating system, without its version.</param>
/// <param name="Browser">The browser, without its version.</param>
/// <param name="Language">The browser's language, BCP 47 primary subtag; null where it is not known.</param>
/// <param name="PageViews">Pages seen.</param>
/// <param name="Events">Events pages named.</param>
/// <param name="Conversions">Conversions that count.</param>
/// <param name="Bounced">Exactly one page view and no conversion.</param>
/// <param name="HasId">Its visitor is known by an id of the site's own.</param>
public sealed record VisitAnswer(
    Guid Id,
    DateTimeOffset StartedAt,
    int Seconds,
    string Channel,
    string? Campaign,
    string? Placement,
    string? Source,
    string? Medium,
    string? Content,
    IReadOnlyDictionary<string, string> Tags,
    string? Referrer,
    Guid? LinkId,
    Guid? HitId,
    bool Printed,
    string LandingPage,
    string LastPage,
    string? Country,
    string? Region,
    string? Town,
    string Device,
    string? Model,
    string? System,
    string? Browser,
    string? Language,
    int PageViews,
    int Events,
    int Conversions,
    bool Bounced,
    bool HasId
)
{
    public static VisitAnswer Of(VisitRow v) =>
        new(
            v.Id,
            v.StartedAt,
            (int)(v.EndedAt - v.StartedAt).TotalSeconds,
            v.Source.KeyOf(new RowField(RowKind.Channel))!,
            v.Source.KeyOf(new RowField(RowKind.Campaign)),
            v.Source.KeyOf(new RowField(RowKind.Placement)),
            v.Source.KeyOf(new RowField(RowKind.Source)),
            v.Source.KeyOf(new RowField(RowKind.Medium)),
            v.Source.KeyOf(new RowField(RowKind.Content)),
            v.Source.Source.Tags.Values,
            Known(v.Source.Source.ReferrerHost),
            v.Source.Source.LinkId,
            v.HitId,
            v.Source.Source.Printed,
            v.LandingPage,
            v.LastPage,
            Known(v.Country),
            Known(v.Region),
            Known(v.Town),
            v.Device,
            Known(v.Model),
            Known(v.System),
            Known(v.Browser),
            Known(v.Language),
            v.PageViews,
            v.Events,
            v.Conversions,
            v.Bounced,
            v.HasId
        );

    private static string? Known(string text) => text.Length == 0 ? null : text;
}

/// <summary>One visit and what happened during it.</summary>
/// <param name="Visit">The visit.</param>
/// <param name="Steps">What happened, in order.</param>
public sealed record VisitDetail(VisitAnswer Visit, IReadOnlyList<VisitStepAnswer> Steps);

/// <summary>One thing that happened during a visit.</summary>
/// <param name="At">When.</param>
/// <param name="Kind"><c>page</c>, <c>event</c> or <c>conversion</c>.</param>
/// <param name="Name">Host and path of the page, or the name of the event or conversion.</param>
/// <param name="OrderId">The order of a conversion; null where it names none.</param>
/// <param name="Value">What it was worth; null where it had no value.</param>
public sealed record VisitStepAnswer(DateTimeOffset At, string Kind, string Name, string? OrderId, Money? Value);
