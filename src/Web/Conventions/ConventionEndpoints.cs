using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conventions;

/// <summary>The convention: read by everybody, drafted, tried and published by owners.</summary>
public static class ConventionEndpoints
{
    private const string Yaml = "application/yaml";
    private const int LargestYaml = 4 << 20;

    public static void MapConventions(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/convention").WithTags("Conventions").AddEndpointFilter(RefuseAsync);
        group.MapGet("", GetAsync).Produces<ConventionAnswer>();
        group.MapPut("", PutAsync).Accepts<SaveDraft>("application/json", Yaml).Produces<ConventionAnswer>();
        group.MapGet("/versions", VersionsAsync);
        group.MapPost("/discard", DiscardAsync);
        group.MapPost("/effect", EffectAsync);
        group.MapPost("/publish", PublishAsync);
        group.MapPost("/try", TryAsync);
    }

    private static async ValueTask<object?> RefuseAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        try
        {
            return await next(context);
        }
        catch (RefusedException refused)
        {
            return refused.Refusal;
        }
    }

    /// <summary><c>version</c> is a number, or <c>draft</c>; left out, the one that holds. Asked for as YAML, the file comes.</summary>
    private static async Task<IResult> GetAsync(HttpContext context, ConventionStore store, CancellationToken cancel, string? version = null) =>
        await store.FindAsync(version, cancel) is not { } found
            ? Refusal.NotFound("version of the convention")
            : context.Request.Headers.Accept.ToString().Contains("yaml", StringComparison.OrdinalIgnoreCase)
                ? Results.Text(ConventionYaml.Write(ConventionRows.DocumentOf(found)), Yaml + "; charset=utf-8")
                : TypedResults.Ok(AnswerOf(found));

    /// <summary>Saves the draft: as JSON with the revision it was made from, or as a YAML file, which replaces the draft there is.</summary>
    private static async Task<IResult> PutAsync(HttpContext context, ConventionStore store, CancellationToken cancel)
    {
        string who = BeaconClaims.NameOf(context.User);
        if (!(context.Request.ContentType ?? "").Contains("yaml", StringComparison.OrdinalIgnoreCase))
        {
            var request = await context.Request.ReadFromJsonAsync<SaveDraft>(cancel);
            return request?.Document is null
                ? Refusal.Of(StatusCodes.Status400BadRequest, "document-missing", "There is no convention to save; send it as “document”.")
                : TypedResults.Ok(AnswerOf(await store.SaveDraftAsync(request.Document, request.Revision, who, cancel)));
        }

        if (context.Request.ContentLength > LargestYaml)
        {
            return Refusal.Of(StatusCodes.Status413PayloadTooLarge, "file-too-large", "A convention's file has at most 4 MB.");
        }

        using var text = new StreamReader(context.Request.Body);
        try
        {
            var document = ConventionYaml.Read(await text.ReadToEndAsync(cancel));
            var draft = await store.FindAsync("draft", cancel);
            return TypedResults.Ok(AnswerOf(await store.SaveDraftAsync(document, draft?.Revision, who, cancel)));
        }
        catch (ConventionException broken)
        {
            return Refusal.Of(StatusCodes.Status422UnprocessableEntity, "file-refused", broken.Message);
        }
    }

    private static async Task<Ok<List<VersionAnswer>>> VersionsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(await db.ConventionVersions.OrderByDescending(v => v.Number)
            .Select(v => new VersionAnswer(v.Number, v.PublishedAt == null, v.SavedBy, v.PublishedAt)).ToListAsync(cancel));

    private static async Task<NoContent> DiscardAsync(ConventionStore store, CancellationToken cancel)
    {
        await store.DiscardAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<EffectAnswer>, ProblemHttpResult>> EffectAsync(
        BeaconDb db, ConventionStore store, ConventionReader conventions, ArrivalsReader arrivals, CancellationToken cancel)
    {
        if (await store.FindAsync("draft", cancel) is not { } draft)
        {
            return Refusal.Of(StatusCodes.Status409Conflict, "no-draft", "There is no draft whose effect could be counted; change something first.");
        }

        var effect = new ConventionEffect(await conventions.ReadAsync(cancel), await store.WorkUpAsync(ConventionRows.DocumentOf(draft), cancel));
        var links = db.Links.AsNoTracking().Select(l => new { l.Title, l.Url, l.Values, Channel = l.Placement == null ? null : l.Placement.Channel });
        await foreach (var link in links.AsAsyncEnumerable().WithCancellation(cancel))
        {
            effect.AddLink(link.Title ?? link.Url, link.Values, link.Channel);
        }

        foreach (var (way, visits) in await arrivals.AllWaysAsync(db.CurrentWorkspaceId!.Value, cancel))
        {
            effect.AddArrivals(way, visits);
        }

        return TypedResults.Ok(new EffectAnswer(effect.Links, effect.Affected, effect.Rules, effect.VisitsMoved, effect.Moves));
    }

    private static async Task<Ok<ConventionAnswer>> PublishAsync(Guid revision, HttpContext context, ConventionStore store, CancellationToken cancel)
    {
        await store.PublishAsync(revision, BeaconClaims.NameOf(context.User), cancel);
        return TypedResults.Ok(AnswerOf((await store.FindAsync(null, cancel))!));
    }

    /// <summary>Tries a value of one field, or a whole URL, under a convention that need not be saved.</summary>
    private static async Task<Results<Ok<TryAnswer>, ProblemHttpResult>> TryAsync(TryRequest request, ConventionStore store, LinkWorkshop workshop, CancellationToken cancel)
    {
        if (request.Document is null || request.Text is null)
        {
            return Refusal.Of(StatusCodes.Status400BadRequest, "text-missing", "There is nothing to try; send “document” and “text”.");
        }

        var convention = await store.WorkUpAsync(request.Document, cancel);
        IReadOnlyList<ComposedField> fields;
        IReadOnlyList<Core.Notices.Notice> notices;
        if (request.Field is { Length: > 0 } key)
        {
            if (convention.Find(key) is not { } field)
            {
                return Refusal.NotFound("field");
            }

            var said = new List<Core.Notices.Notice>();
            fields = [FieldComposer.Compose(field, request.Text, ValueOrigin.Typed, said)];
            notices = said;
        }
        else
        {
            var read = await workshop.InspectAsync(convention, request.Text, null, cancel);
            (fields, notices) = (read.Mended?.Fields ?? [], read.Notices);
        }

        string ValueOf(FieldMeaning meaning) => fields.FirstOrDefault(f => f.Key == convention.KeyOf(meaning))?.Value ?? "";
        string host = string.IsNullOrWhiteSpace(request.Referrer) ? "" : DestinationReader.Read(request.Referrer).Destination?.HostAndPort ?? "";
        var kind = ReferrerKinds.Of(host, convention.ReferrerKinds);
        var facts = ChannelFacts.OfLink(ValueOf(FieldMeaning.Source), ValueOf(FieldMeaning.Medium), ValueOf(FieldMeaning.Campaign)) with { ReferrerHost = host, Kind = kind };
        var claim = convention.Channels.ClaimOf(facts);
        return TypedResults.Ok(new TryAnswer(fields, notices, claim?.Name ?? ChannelTable.Unsorted, claim?.InWords() ?? "no row claims it", kind));
    }

    private static ConventionAnswer AnswerOf(ConventionVersion version)
    {
        var document = ConventionRows.DocumentOf(version);
        var table = new ChannelTable([.. document.Channels.Select(c => c.ToChannel())]);
        return new ConventionAnswer(
            version.Number, version.PublishedAt is null, version.Revision, version.SavedBy, version.PublishedAt, document,
            [.. table.NeverReached().Select(n => new NeverReached(n.Row.Name, n.TakenBy.Name))]);
    }
}
