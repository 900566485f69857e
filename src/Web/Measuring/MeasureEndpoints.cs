using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Measuring;

/// <summary>The doors through which pages report views, events, spots and conversions.</summary>
public static class MeasureEndpoints
{
    private const int LongestReport = 16 * 1024;

    /// <summary>A host name has at most 253 characters (RFC 1035, section 2.3.4), and a port.</summary>
    private const int LongestHost = 260;

    private const int LongestPage = 200;

    private const string WithoutAddress = " (a picture that doesn’t say its page’s address, so visits have no tags)";

    /// <summary>One transparent dot (GIF89a).</summary>
    private static readonly byte[] Picture = Convert.FromBase64String("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7");

    public static void MapMeasuring(this IEndpointRouteBuilder app)
    {
        app.MapPost("/measure", MeasureAsync)
            .WithName("MeasurePage")
            .WithSummary("Takes what a page of a site reports: a view, how long it was read, or a conversion.")
            .For(Caller.Anybody)
            .WithTags("Measuring")
            .WithMetadata(new OpenToAllSites(), new OnEveryHost())
            .Accepts<PageReport>("application/json", "text/plain")
            .Produces(StatusCodes.Status204NoContent)
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status429TooManyRequests)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        app.MapGet("/measure/fields", FieldsAsync)
            .WithName("SourceFields")
            .WithSummary(
                "Says which fields a site's pages may learn of where their visitor came from, each with the keys it is read under."
            )
            .For(Caller.Anybody)
            .WithTags("Measuring")
            .WithMetadata(new OpenToAllSites(), new OnEveryHost())
            .Produces<IReadOnlyDictionary<string, IReadOnlyList<string>>>()
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        app.MapGet("/measure.gif", PictureAsync)
            .WithName("MeasurePageByPicture")
            .WithSummary("Takes a page view where no script runs, and answers with a picture of one transparent dot.")
            .For(Caller.Anybody)
            .WithTags("Measuring")
            .WithMetadata(new OnEveryHost())
            .Produces(StatusCodes.Status200OK, contentType: "image/gif")
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status429TooManyRequests)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        app.MapMethods("/measure", ["OPTIONS"], Preflight)
            .For(Caller.Anybody)
            .WithMetadata(new OpenToAllSites(), new OnEveryHost())
            .ExcludeFromDescription();
    }

    private static async Task<IResult> MeasureAsync(
        HttpContext context,
        SiteTable sites,
        EventRecorder keeper,
        ReportThrottle throttle,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (await ReadBodyAsync(context.Request, cancel) is not { } body)
        {
            return Refusal.TooLarge("report-too-large", $"A report has at most {LongestReport:N0} bytes.").ToResult();
        }

        PageReport? report;
        try
        {
            report = JsonSerializer.Deserialize<PageReport>(body.Span, JsonSerializerOptions.Web);
        }
        catch (Exception broken) when (broken is JsonException or InvalidOperationException)
        {
            report = null;
        }

        if (report?.Key is null)
        {
            return Refusal.Invalid("report-malformed", "The report isn't a JSON object with a measuring key (k).").ToResult();
        }

        var (site, refused) = await SiteOfAsync(context, sites, report.Key);
        if (site is null)
        {
            return refused!;
        }

        string origin = context.Request.Headers.Origin.ToString();
        if (!IsOf(site, origin, sites, clock))
        {
            return ForeignOrigin();
        }

        AllowOrigin(context, origin);
        Guid? visitor =
            site.KeepsVisitorIds && report.Visitor is { Length: >= 8 and <= 100 } id ? VisitorHash.OfSiteId(site.VisitorIdKey, id) : null;
        return await KeepAsync(context, site, report, visitor, "", sites, keeper, throttle, clock) ?? Results.NoContent();
    }

    /// <summary>No address comes along: the page reads its own, so nobody is recognised here.</summary>
    private static async Task<IResult> FieldsAsync(HttpContext context, SiteTable sites, string? k = null)
    {
        context.Response.Headers.AccessControlAllowOrigin = "*";
        var (site, refused) = await SiteOfAsync(context, sites, k ?? "");
        if (site is null)
        {
            return refused!;
        }

        context.Response.Headers.CacheControl = "public, max-age=600";
        return TypedResults.Ok(site.SourceFields);
    }

    /// <summary>
    /// A view where no script runs. The page's own address comes last and is read to the end of the line where it was not encoded; a
    /// picture without it says no more than the site the page is on, so the visit has no tags.
    /// </summary>
    private static async Task<IResult> PictureAsync(
        HttpContext context,
        SiteTable sites,
        EventRecorder keeper,
        ReportThrottle throttle,
        TimeProvider clock,
        string? k = null,
        string? u = null
    )
    {
        var (site, refused) = await SiteOfAsync(context, sites, k ?? "");
        if (site is null)
        {
            return refused!;
        }

        string from = context.Request.Headers.Referer.ToString();
        string address = u is { Length: > 0 } ? WholeAddress(context.Request.QueryString.Value ?? "", u) : from;
        if (!IsOf(site, from.Length > 0 ? from : address, sites, clock))
        {
            return ForeignOrigin();
        }

        var view = new PageReport(k, address, null, null, null, null, null, null, null, null);
        context.Response.Headers.CacheControl = "no-store";
        return await KeepAsync(context, site, view, null, u is null ? WithoutAddress : "", sites, keeper, throttle, clock)
            ?? Results.Bytes(Picture, "image/gif");
    }

    /// <summary>The address as it was written: its own parameters are no others of ours.</summary>
    private static string WholeAddress(string query, string read) =>
        query.IndexOf("&u=http://", StringComparison.Ordinal) is var plain
        && (plain >= 0 ? plain : query.IndexOf("&u=https://", StringComparison.Ordinal)) is >= 0 and var at
            ? query[(at + "&u=".Length)..]
            : read;

    private static async Task<(MeasuredSite? Site, IResult? Refused)> SiteOfAsync(HttpContext context, SiteTable sites, string key)
    {
        if (sites.Find(key) is { } site)
        {
            return (site, null);
        }

        if (sites.IsFilled)
        {
            return (null, Refusal.Forbidden("key-unknown", "No site has this measuring key; copy the script tag again.").ToResult());
        }

        context.Response.Headers.RetryAfter = StartGate.RetrySeconds;
        await Refusals.WriteAsync(
            context,
            StatusCodes.Status503ServiceUnavailable,
            "starting",
            "Precise Beacon is just starting; try again in a few seconds."
        );
        return (null, Results.Empty);
    }

    /// <summary>Whether an address is on one of the site's hosts; one that is not is told of in the workspace.</summary>
    private static bool IsOf(MeasuredSite site, string address, SiteTable sites, TimeProvider clock)
    {
        if (Uri.TryCreate(address, UriKind.Absolute, out var from) && site.Hosts.Contains(from.Authority))
        {
            return true;
        }

        if (from is { Authority: { Length: > 0 and <= LongestHost } host })
        {
            sites.Note(new LastReport(site.SiteId, clock.GetUtcNow(), host, OfSite: false));
        }

        return false;
    }

    private static ProblemHttpResult ForeignOrigin() =>
        Refusal.Forbidden("origin-foreign", "The report doesn't come from a page of the site; add the page's host to the site.").ToResult();

    /// <summary>Keeps what a page of a site reports.</summary>
    /// <returns>Why it was not kept; null when it was, or its visitor wants to be left out.</returns>
    private static async Task<IResult?> KeepAsync(
        HttpContext context,
        MeasuredSite site,
        PageReport report,
        Guid? visitor,
        string hint,
        SiteTable sites,
        EventRecorder keeper,
        ReportThrottle throttle,
        TimeProvider clock
    )
    {
        if (!throttle.MayReport(site.SiteId, context.Connection.RemoteIpAddress))
        {
            context.Response.Headers.RetryAfter = "1";
            return Refusal.TooOften("too-many-reports", "Too many reports at once; they are not stored.").ToResult();
        }

        var (item, why) = report.Read(site, Crawlers.Cut(context.Request.Headers.UserAgent.ToString()));
        if (item is null)
        {
            return Refusal.Invalid("report-refused", why!).ToResult();
        }

        string page = item.Url.Split('?', '#')[0];
        page = (page.Length > LongestPage ? page[..LongestPage] : page) + hint;
        sites.Note(new LastReport(site.SiteId, clock.GetUtcNow(), page, OfSite: true));
        if (!site.HonoursOptOut || !OptOut.Asks(context.Request.Headers))
        {
            item = item with { Language = BrowserLanguage.Of(context.Request.Headers.AcceptLanguage.ToString()) };
            await keeper.KeepPageEventAsync(item, context.Connection.RemoteIpAddress, visitor);
        }

        return null;
    }

    private static IResult Preflight(HttpContext context)
    {
        AllowOrigin(context, context.Request.Headers.Origin.ToString());
        context.Response.Headers.AccessControlAllowMethods = "POST";
        context.Response.Headers.AccessControlAllowHeaders = "Content-Type";
        context.Response.Headers.AccessControlMaxAge = "86400";
        return Results.NoContent();
    }

    /// <summary>No cookie goes along, so letting an origin read the answer gives nothing away.</summary>
    private static void AllowOrigin(HttpContext context, string origin)
    {
        context.Response.Headers.AccessControlAllowOrigin = origin;
        context.Response.Headers.Vary = "Origin";
    }

    private static async Task<ReadOnlyMemory<byte>?> ReadBodyAsync(HttpRequest request, CancellationToken cancel)
    {
        if (request.ContentLength > LongestReport)
        {
            return null;
        }

        byte[] buffer = new byte[LongestReport + 1];
        int length = await request.Body.ReadAtLeastAsync(buffer, buffer.Length, throwOnEndOfStream: false, cancel);
        if (length > LongestReport)
        {
            // Said apart: null in a choice between two would become an empty memory here.
            return null;
        }

        return buffer.AsMemory(0, length);
    }
}
