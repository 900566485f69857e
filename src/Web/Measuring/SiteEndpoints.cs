using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>The workspace's measured sites, and what their pages may report.</summary>
public static class SiteEndpoints
{
    public static void MapSites(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/sites").WithTags("Sites");
        group.MapGet("", ListAsync).WithName("ListSites").WithSummary("Lists the workspace's sites.").For(Caller.Readers);
        group.MapPost("", AddAsync).WithName("AddSite").WithSummary("Adds a site.").For(Caller.Owner);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeSite").WithSummary("Changes a site.").For(Caller.Owner);
        group
            .MapPost("/{id:guid}/key", RenewKeyAsync)
            .WithName("RenewMeasuringKey")
            .WithSummary("Gives a site another measuring key; the old one ends.")
            .For(Caller.Owner);
        group
            .MapDelete("/{id:guid}", RemoveAsync)
            .WithName("RemoveSite")
            .WithSummary("Removes a site that nothing was measured on.")
            .For(Caller.Owner);
    }

    private static async Task<Ok<List<MeasuredSiteAnswer>>> ListAsync(SiteStore sites, CancellationToken cancel) =>
        TypedResults.Ok(await sites.ListAsync(cancel));

    private static async Task<Outcome<MeasuredSiteAnswer>> AddAsync(SiteChange site, SiteStore sites, CancellationToken cancel) =>
        await sites.AddAsync(site, cancel);

    private static async Task<Outcome<MeasuredSiteAnswer>> ChangeAsync(
        Guid id,
        SiteChange change,
        SiteStore sites,
        CancellationToken cancel
    ) => await sites.ChangeAsync(id, change, cancel);

    private static async Task<Outcome<MeasuredSiteAnswer>> RenewKeyAsync(Guid id, SiteStore sites, CancellationToken cancel) =>
        await sites.RenewKeyAsync(id, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, SiteStore sites, CancellationToken cancel) =>
        await sites.RemoveAsync(id, cancel);
}

/// <summary>A measured site.</summary>
/// <param name="MeasuringKey">What its pages say in every report; anybody can read it there.</param>
/// <param name="Hosts">Its hosts, with their ports where they have one.</param>
/// <param name="PlainHosts">Those of them that are reached by http only.</param>
/// <param name="LargestValue">Most a conversion its pages report may be worth, in the conversion's currency.</param>
/// <param name="KeepsVisitorIds">Its pages hand over an id that the visitor's browser keeps.</param>
/// <param name="HonoursOptOut">Visitors whose browser sends Do Not Track or Global Privacy Control are not measured.</param>
/// <param name="SourceFields">Keys of the fields its pages may learn of where their visitor came from.</param>
/// <param name="Style">Where links to it carry their tags: the query or the fragment.</param>
/// <param name="StoppedAt">Since when it is not measured any more; null while it is.</param>
/// <param name="LastMeasuredAt">When one of its pages reported last; null before the first report.</param>
/// <param name="LastMeasuredPage">The address of that page, without its query.</param>
/// <param name="ForeignHost">A host that is none of the site's and used its key last; null for none.</param>
/// <param name="ForeignAt">When it did.</param>
/// <param name="Snippet">The tag its pages need; it loads the newest script.</param>
/// <param name="PinnedSnippet">The same with one version of the script and its hash, so that a browser runs nothing else.</param>
/// <param name="PictureSnippet">What measures a view where no script runs; the page's server writes the page's own address into it.</param>
public sealed record MeasuredSiteAnswer(
    Guid Id,
    string Name,
    string MeasuringKey,
    IReadOnlyList<string> Hosts,
    IReadOnlyList<string> PlainHosts,
    decimal LargestValue,
    bool KeepsVisitorIds,
    bool HonoursOptOut,
    IReadOnlyList<string> SourceFields,
    TagStyle Style,
    DateTimeOffset? StoppedAt,
    DateTimeOffset? LastMeasuredAt,
    string? LastMeasuredPage,
    string? ForeignHost,
    DateTimeOffset? ForeignAt,
    string Snippet,
    string PinnedSnippet,
    string PictureSnippet
);

/// <summary>A site to be added, or what changes of one; what is left out stays.</summary>
/// <param name="Name">What it is called; its first host where a new one has no name.</param>
/// <param name="Hosts">All of its hosts, or addresses on them; http:// in front for one that has no https.</param>
/// <param name="LargestValue">Most a conversion its pages report may be worth.</param>
/// <param name="KeepsVisitorIds">Whether ids that pages hand over are taken.</param>
/// <param name="HonoursOptOut">Whether visitors whose browser asks not to be followed are left out.</param>
/// <param name="Style">Where links to it carry their tags.</param>
/// <param name="SourceFields">Keys of fields of the convention that its pages may learn of where their visitor came from; none for an empty list.</param>
/// <param name="IsMeasured">False to stop measuring it, true to go on.</param>
public sealed record SiteChange(
    string? Name = null,
    IReadOnlyList<string?>? Hosts = null,
    decimal? LargestValue = null,
    bool? KeepsVisitorIds = null,
    bool? HonoursOptOut = null,
    TagStyle? Style = null,
    bool? IsMeasured = null,
    IReadOnlyList<string?>? SourceFields = null
);
