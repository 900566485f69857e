using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Core.Traffic.UserAgents;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Proofs;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Trials of links.</summary>
public static class TrialEndpoints
{
    private const int MostListed = 100;

    public static void MapTrials(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/trials").WithTags("Proof");
        group.MapGet("", ListAsync).WithName("ListTrials").WithSummary("Lists trials of links, the newest first.").For(Caller.Readers);
        group
            .MapPost("", StartAsync)
            .WithName("StartTrial")
            .WithSummary("Fetches a link's page with and without tags, and gives out an address to open on any device.")
            .For(Caller.Builders);
        group.MapGet("/{id:guid}", ReadAsync).WithName("ReadTrial").WithSummary("Tells how far a trial has come.").For(Caller.Readers);
        group
            .MapGet("/{id:guid}/code.svg", DrawAsync)
            .WithName("DrawTrialCode")
            .WithSummary("Draws the code of a trial's address.")
            .Produces(StatusCodes.Status200OK, contentType: CodeFile.TypeOf(CodeFormat.Svg))
            .For(Caller.Readers);
    }

    private static async Task<IResult> DrawAsync(Guid id, TrialStore trials, CancellationToken cancel)
    {
        var (trial, refusal) = await trials.ReadAsync(id, cancel);
        return trial is null
            ? refusal!.ToResult()
            : Results.Text(CodeSvg.Draw(CodeDrawing.Of(trial.Address, new CodeStyle())), CodeFile.TypeOf(CodeFormat.Svg));
    }

    private static async Task<Outcome<List<TrialRunAnswer>>> ListAsync(
        TrialStore trials,
        CancellationToken cancel,
        Guid? link = null,
        int size = MostListed
    ) =>
        size is < 1 or > MostListed
            ? Refusal.Invalid("size-refused", $"A list has 1 to {MostListed} trials.")
            : await trials.ListAsync(link, size, cancel);

    private static async Task<Outcome<TrialRunAnswer>> StartAsync(TrialRequest request, TrialStore trials, CancellationToken cancel) =>
        await trials.StartAsync(request.LinkId, cancel);

    private static async Task<Outcome<TrialRunAnswer>> ReadAsync(Guid id, TrialStore trials, CancellationToken cancel) =>
        await trials.ReadAsync(id, cancel);
}

/// <summary>A trial to begin.</summary>
/// <param name="LinkId">The link to try.</param>
public sealed record TrialRequest(Guid? LinkId);

/// <summary>A trial of a link.</summary>
/// <param name="Id">Its id.</param>
/// <param name="LinkId">The link.</param>
/// <param name="Title">The link's title; null without one.</param>
/// <param name="Url">The link's whole address.</param>
/// <param name="Address">The address to open, on any device; it works until <paramref name="EndsAt"/>.</param>
/// <param name="StartedAt">When it began.</param>
/// <param name="StartedBy">Who began it.</param>
/// <param name="EndsAt">When its address ends, half an hour later.</param>
/// <param name="Verdict">What came of it so far.</param>
/// <param name="Says">The verdict in a sentence.</param>
/// <param name="Steps">The four steps in their order.</param>
/// <param name="Findings">What was found, the gravest first.</param>
/// <param name="Hops">The requests on the way to the page with tags, as the server fetched it.</param>
/// <param name="PlainHops">The same without tags; empty where that was not fetched.</param>
/// <param name="PageTitle">Title of the page found; null where none was.</param>
/// <param name="Click">The opening the steps are told of; null before the first by a person.</param>
/// <param name="OtherOpenings">Openings by crawlers, previews and scanners, which use nothing up.</param>
/// <param name="Visit">What arrived; null while nothing has.</param>
public sealed record TrialRunAnswer(
    Guid Id,
    Guid LinkId,
    string? Title,
    string Url,
    string Address,
    DateTimeOffset StartedAt,
    string StartedBy,
    DateTimeOffset EndsAt,
    TrialVerdict Verdict,
    string Says,
    IReadOnlyList<TrialStep> Steps,
    IReadOnlyList<FindingAnswer> Findings,
    IReadOnlyList<TraceHop> Hops,
    IReadOnlyList<TraceHop> PlainHops,
    string? PageTitle,
    TrialClickAnswer? Click,
    int OtherOpenings,
    TrialVisitAnswer? Visit
)
{
    internal static TrialRunAnswer Of(Trial trial, Link link, TrialProgress progress, int others, DateTimeOffset now) =>
        new(
            trial.Id,
            trial.LinkId,
            link.Title,
            link.Url,
            trial.Address,
            trial.StartedAt,
            trial.StartedBy,
            trial.EndsAt,
            progress.VerdictAt(now, trial.EndsAt),
            progress.SaysAt(now, trial.EndsAt),
            progress.Steps,
            [.. progress.Findings.Select(f => new FindingAnswer(f.Rule, f.Severity, f.Message, f.Hop))],
            trial.Trace.Tagged.Hops,
            trial.Trace.Plain?.Hops ?? [],
            trial.Trace.Tagged.Page?.Title,
            progress.Click is { } click ? TrialClickAnswer.Of(click) : null,
            others,
            progress.Visit is { } visit
                ? new TrialVisitAnswer(
                    visit.StartedAt,
                    visit.Page,
                    visit.Tags.Values,
                    visit.Channel,
                    visit.Source,
                    visit.Medium,
                    visit.Campaign,
                    visit.Placement
                )
                : null
        );
}

/// <summary>Something that was found.</summary>
/// <param name="Rule">Machine word of the rule it comes from.</param>
/// <param name="Severity">How grave it is.</param>
/// <param name="Message">What happened, its likely cause and what to do.</param>
/// <param name="Hop">Number of the request it happened at, from 1; null where it has none.</param>
public sealed record FindingAnswer(string Rule, Severity Severity, string Message, int? Hop);

/// <summary>A person's opening of a trial's address.</summary>
/// <param name="At">When.</param>
/// <param name="Device">Kind of device: phone, tablet or computer.</param>
/// <param name="System">Its operating system; null where it is not known, as is the browser.</param>
/// <param name="Browser">Its browser.</param>
public sealed record TrialClickAnswer(DateTimeOffset At, string Device, string? System, string? Browser)
{
    internal static TrialClickAnswer Of(TrialClick click)
    {
        var said = UserAgentReader.Of(click.UserAgent);
        return new TrialClickAnswer(click.At, said.Kind, Known(said.System), Known(said.Browser));
    }

    private static string? Known(string text) => text.Length == 0 ? null : text;
}

/// <summary>What arrived in a trial.</summary>
/// <param name="StartedAt">When.</param>
/// <param name="Page">The page, host and path.</param>
/// <param name="Tags">The tags it arrived with, by key.</param>
/// <param name="Channel">The channel it is sorted into.</param>
/// <param name="Source">Its source; null where its tags say none, as is the medium.</param>
/// <param name="Medium">Its medium.</param>
/// <param name="Campaign">Its campaign; null for none.</param>
/// <param name="Placement">Its placement; null for none.</param>
public sealed record TrialVisitAnswer(
    DateTimeOffset StartedAt,
    string Page,
    IReadOnlyDictionary<string, string> Tags,
    string Channel,
    string? Source,
    string? Medium,
    string? Campaign,
    string? Placement
);
