using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Conventions;

/// <summary>The convention: read by everybody, drafted, tried and published by owners.</summary>
public static class ConventionEndpoints
{
    private const string Yaml = "application/yaml";
    private const int LargestYaml = 4 << 20;
    private const int LargestPaste = 2 << 20;

    /// <summary>A convention with lists of tens of thousands of words is larger than other requests.</summary>
    private const int LargestRequest = 16 << 20;

    public static void MapConventions(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/convention").WithTags("Conventions").WithMetadata(new RequestSizeLimitAttribute(LargestRequest));
        group
            .MapGet("", GetAsync)
            .WithName("ReadConvention")
            .WithSummary("Reads the convention that holds, or its draft.")
            .For(Caller.Readers)
            .Produces<ConventionAnswer>();
        group
            .MapPut("", PutAsync)
            .WithName("SaveDraft")
            .WithSummary("Saves the draft of the convention.")
            .For(Caller.Owner)
            .Accepts<SaveDraft>("application/json", Yaml)
            .Produces<ConventionAnswer>();
        group
            .MapGet("/versions", VersionsAsync)
            .WithName("ListConventionVersions")
            .WithSummary("Lists the versions of the convention.")
            .For(Caller.Readers);
        group.MapPost("/discard", DiscardAsync).WithName("DiscardDraft").WithSummary("Throws the draft away.").For(Caller.Owner);
        group
            .MapPost("/effect", EffectAsync)
            .WithName("PreviewEffect")
            .WithSummary("Counts what a draft would change in links and plans.")
            .For(Caller.Owner)
            .Produces<EffectProgress>(contentType: JsonLines.ContentType);
        group
            .MapPost("/publish", PublishAsync)
            .WithName("PublishConvention")
            .WithSummary("Makes the draft the next version of the convention.")
            .For(Caller.Owner);
        group
            .MapPost("/try", TryAsync)
            .WithName("TryValue")
            .WithSummary("Tries a value or a whole URL under a draft, step by step.")
            .For(Caller.Readers);
        group
            .MapGet("/rules", Rules)
            .WithName("ListRules")
            .WithSummary("Lists the rules with what they say and how grave they are.")
            .For(Caller.Readers);
        group
            .MapPost("/words/preview", PreviewWords)
            .WithName("PreviewWords")
            .WithSummary("Looks pasted words over before they are added to a list.")
            .For(Caller.Readers);
        ConventionFileEndpoints.MapFiles(group);
    }

    /// <summary><c>version</c> is a number, or <c>draft</c>; left out, the one that holds. Asked for as YAML, the file comes.</summary>
    private static async Task<IResult> GetAsync(
        HttpContext context,
        ConventionStore store,
        CancellationToken cancel,
        string? version = null
    ) =>
        await store.FindAsync(version, cancel) is not { } found ? Refusal.NotFound("version of the convention").ToResult()
        : context.Request.Headers.Accept.ToString().Contains("yaml", StringComparison.OrdinalIgnoreCase)
            ? Results.Text(ConventionYaml.Write(ConventionRows.DocumentOf(found)), Yaml + "; charset=utf-8")
        : TypedResults.Ok(AnswerOf(found));

    /// <summary>Saves the draft: as JSON with the revision it was made from, or as a YAML file, which replaces the draft there is.</summary>
    private static async Task<IResult> PutAsync(HttpContext context, ConventionStore store, CancellationToken cancel)
    {
        string who = BeaconClaims.NameOf(context.User);
        if (!(context.Request.ContentType ?? "").Contains("yaml", StringComparison.OrdinalIgnoreCase))
        {
            var request = context.Request.HasJsonContentType() ? await ReadAsync(context.Request, cancel) : null;
            return request?.Document is null
                ? Refusal.Invalid("document-missing", "There is no convention to save; send it as “document”.").ToResult()
                : Saved(await store.SaveDraftAsync(request.Document, request.Revision, who, cancel));
        }

        if (context.Request.ContentLength > LargestYaml)
        {
            return Refusal.TooLarge("file-too-large", "A convention's file has at most 4 MB.").ToResult();
        }

        using var text = new StreamReader(context.Request.Body);
        try
        {
            var document = ConventionYaml.Read(await text.ReadToEndAsync(cancel));
            var draft = await store.FindAsync("draft", cancel);
            return Saved(await store.SaveDraftAsync(document, draft?.Revision, who, cancel));
        }
        catch (ConventionException broken)
        {
            return Refusal.Unacceptable("file-refused", broken.Message).ToResult();
        }
    }

    private static IResult Saved(Outcome<ConventionVersion> draft) =>
        draft.IsRefused ? draft.Refusal.ToResult() : TypedResults.Ok(AnswerOf(draft.Value));

    private static async Task<SaveDraft?> ReadAsync(HttpRequest request, CancellationToken cancel)
    {
        try
        {
            return await request.ReadFromJsonAsync<SaveDraft>(cancel);
        }
        catch (JsonException broken)
        {
            throw new BadHttpRequestException(broken.Message, broken);
        }
    }

    private static async Task<Ok<List<VersionAnswer>>> VersionsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db
                .ConventionVersions.OrderByDescending(v => v.Number)
                .Select(v => new VersionAnswer(v.Number, v.PublishedAt == null, v.SavedBy, v.PublishedAt))
                .ToListAsync(cancel)
        );

    private static async Task<NoContent> DiscardAsync(ConventionStore store, CancellationToken cancel)
    {
        await store.DiscardAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Lines of JSON: how far the count is, and on the last line what publishing the draft would do.</summary>
    private static async Task<IResult> EffectAsync(
        HttpContext context,
        ConventionStore store,
        EffectCounter counter,
        CancellationToken cancel
    )
    {
        if (await store.FindAsync("draft", cancel) is not { } draft)
        {
            return Refusal.Conflict("no-draft", "There is no draft yet; change something first.").ToResult();
        }

        var convention = await store.WorkUpAsync(ConventionRows.DocumentOf(draft), cancel);
        return convention.IsRefused
            ? convention.Refusal.ToResult()
            : await JsonLines.SendAllAsync(context, counter.CountAsync(convention.Value, cancel), cancel);
    }

    private static Ok<List<RuleAnswer>> Rules() =>
        TypedResults.Ok(NoticeRules.All.Select(r => new RuleAnswer(r.Name, r.Severity, r.About, r.Example, r.Protects)).ToList());

    private static Outcome<IReadOnlyList<PastedWord>> PreviewWords(PreviewWords request) =>
        request.Field?.Words is not { } words
        || words.Any(w => w?.Written is null || w.Aliases is null)
        || request.Pasted is null
        || request.Pasted.Length > LargestPaste
            ? Refusal.Invalid("words-missing", "Paste a column or a sheet of at most 2 MB of text.")
            : Outcome.Of(WordPaste.Look(request.Field, request.Pasted));

    private static async Task<Outcome<ConventionAnswer>> PublishAsync(
        Guid revision,
        HttpContext context,
        ConventionStore store,
        CancellationToken cancel
    ) =>
        (await store.PublishAsync(revision, BeaconClaims.NameOf(context.User), cancel)).Refusal is { } refusal
            ? refusal
            : AnswerOf((await store.FindAsync(null, cancel))!);

    /// <summary>Tries a value of one field, or a whole URL, under a convention that need not be saved.</summary>
    private static async Task<Outcome<TryAnswer>> TryAsync(
        TryRequest request,
        BeaconDb db,
        ConventionStore store,
        LinkComposition composition,
        LinkInputsReader inputs,
        CancellationToken cancel
    )
    {
        if (request.Document is null || request.Text is null)
        {
            return Refusal.Invalid("text-missing", "There is nothing to try; send “document” and “text”.");
        }

        var (convention, wrong) = await store.WorkUpAsync(request.Document, cancel);
        if (convention is null)
        {
            return wrong!;
        }

        IReadOnlyList<ComposedField> fields;
        IReadOnlyList<Notice> notices;
        string? example = null;
        IReadOnlyList<KeyValuePair<string, string>> apart = [];
        if (request.Field is { Length: > 0 } key)
        {
            if (convention.Find(key) is not { } field)
            {
                return Refusal.NotFound("field");
            }

            var said = new List<Notice>();
            fields = [FieldValue.Write(field, new GivenValue(request.Text, ValueOrigin.Typed), said)];
            notices = said;
            if (field.Pattern is not null)
            {
                var facts = await inputs.FactsAsync(cancel);
                example = NameExample.Of(convention, field, await SampleCampaignAsync(db, cancel), facts.Today);
                apart = NameExample.Apart(convention, field, request.Text.Length == 0 ? example : fields[0].Value);
            }
        }
        else
        {
            var read = await composition.InspectAsync(convention, request.Text, cancel);
            (fields, notices) = (read.Mended?.Fields ?? [], read.Notices);
        }

        string ValueOf(FieldMeaning meaning) => fields.FirstOrDefault(f => f.Key == convention.KeyOf(meaning))?.Value ?? "";
        string host = string.IsNullOrWhiteSpace(request.Referrer)
            ? ""
            : DestinationReader.Read(request.Referrer).Destination?.HostAndPort ?? "";
        var kind = ReferrerKinds.Of(host, convention.ReferrerKinds);
        var arrival = ChannelFacts.OfLink(ValueOf(FieldMeaning.Source), ValueOf(FieldMeaning.Medium), ValueOf(FieldMeaning.Campaign)) with
        {
            ReferrerHost = host,
            Kind = kind,
        };
        var claim = convention.Channels.ClaimOf(arrival);
        return new TryAnswer(
            fields,
            notices,
            claim?.Name ?? ChannelTable.Unsorted,
            claim?.InWords() ?? "no channel matches",
            kind,
            example,
            [.. apart.Select(a => new NamePartAnswer(a.Key, a.Value))]
        );
    }

    /// <summary>The newest campaign, so that examples look like the workspace's own.</summary>
    private static async Task<CampaignChoice> SampleCampaignAsync(BeaconDb db, CancellationToken cancel) =>
        await db.Campaigns.AsNoTracking().Where(c => c.StartsOn != null).OrderByDescending(c => c.StartsOn).FirstOrDefaultAsync(cancel)
            is { } campaign
            ? new CampaignChoice(campaign.Name, campaign.Value, campaign.StartsOn, campaign.EndsOn, campaign.Attributes)
            : new CampaignChoice("Lantern Nights", "lantern_nights");

    private static ConventionAnswer AnswerOf(ConventionVersion version)
    {
        var document = ConventionRows.DocumentOf(version);
        var table = new ChannelTable([.. document.Channels.Select(c => c.ToChannel())]);
        return new ConventionAnswer(
            version.Number,
            version.PublishedAt is null,
            version.Revision,
            version.SavedBy,
            version.PublishedAt,
            document,
            [.. table.NeverReached().Select(n => new NeverReached(n.Row.Name, n.TakenBy.Name))],
            table.Overlaps()
        );
    }
}
