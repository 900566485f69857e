using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Mails;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Trials of all links of a mail, as they are clicked in it.</summary>
public static class MailTrialEndpoints
{
    public static void MapMailTrials(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/mails/{id:guid}/trial").WithTags("Proof");
        group
            .MapPost("", SendAsync)
            .WithName("TryMail")
            .WithSummary("Sends the mail to the test inbox with a trial’s address for each of its links.")
            .For(Caller.Builders);
        group
            .MapGet("", ReadAsync)
            .WithName("ReadMailTrial")
            .WithSummary("Tells which links of a sent mail were tried.")
            .For(Caller.Readers);
    }

    private static async Task<Outcome<MailTrialAnswer>> SendAsync(
        Guid id,
        MailStore mails,
        MailTrialStore trials,
        CancellationToken cancel
    ) => await mails.FindAsync(id, cancel) is { } mail ? await trials.SendAsync(mail, cancel) : Refusal.NotFound("mail");

    private static async Task<Outcome<MailTrialAnswer>> ReadAsync(
        Guid id,
        MailStore mails,
        MailTrialStore trials,
        CancellationToken cancel
    ) => await mails.FindAsync(id, cancel) is { } mail ? await trials.AnswerAsync(mail, null, cancel) : Refusal.NotFound("mail");
}

/// <summary>The trial of a mail's links.</summary>
/// <param name="Inbox">Where the mail can be looked at and clicked; null where there is no test inbox.</param>
/// <param name="StartedAt">When it was sent; null, as the next two, where it never was.</param>
/// <param name="StartedBy">Who sent it.</param>
/// <param name="EndsAt">When its addresses end.</param>
/// <param name="Tried">How many links a person opened.</param>
/// <param name="Failed">How many of these failed.</param>
/// <param name="Left">Written links that can't be tried: they are gone, or wait for their host to be approved.</param>
/// <param name="Links">The links, in the order of the mail.</param>
public sealed record MailTrialAnswer(
    string? Inbox,
    DateTimeOffset? StartedAt,
    string? StartedBy,
    DateTimeOffset? EndsAt,
    int Tried,
    int Failed,
    int Left,
    IReadOnlyList<MailTrialLink> Links
);

/// <summary>A link of a mail that is tried.</summary>
/// <param name="Number">Its number in the mail, from 1.</param>
/// <param name="Text">What it says there.</param>
/// <param name="Trial">How far its trial has come.</param>
public sealed record MailTrialLink(int Number, string Text, TrialRunAnswer Trial);
