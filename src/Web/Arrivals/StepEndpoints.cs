using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Steps;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>How far visits get on a way through the site.</summary>
public static class StepEndpoints
{
    public static void MapSteps(this IEndpointRouteBuilder app) =>
        app.MapGet("/api/v1/arrivals/steps", ReadAsync)
            .WithName("ReadSteps")
            .WithSummary("Reports how many visits reach each step of a way, and what the others did instead.")
            .WithTags("Arrivals")
            .For(Caller.Readers);

    private static async Task<Outcome<StepsAnswer>> ReadAsync(
        BeaconDb db,
        ConventionReader conventions,
        StepReader reader,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null,
        [FromQuery] string[]? step = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        if (step is not { Length: >= Step.Fewest and <= Step.Most })
        {
            return Refusal.Invalid(
                "steps-count",
                $"A way has {Step.Fewest} to {Step.Most} steps, such as page:/shop and conversion:ticket."
            );
        }

        var steps = new List<Step>();
        foreach (string text in step)
        {
            var (read, problem) = Step.Parse(text);
            if (read is null)
            {
                return Refusal.Invalid("step-refused", $"Step {steps.Count + 1}: {problem}");
            }

            steps.Add(read);
        }

        var figures = await reader.ReadAsync(request, await conventions.ReadAsync(cancel), steps, cancel);
        return new StepsAnswer(
            request.From,
            request.To,
            figures.Visits,
            [
                .. figures.Steps.Select(
                    (s, i) =>
                        new StepAnswer(
                            steps[i].ToString(),
                            s.Visits,
                            RateOf(s.Visits, i == 0 ? figures.Visits : figures.Steps[i - 1].Visits),
                            RateOf(s.Visits, figures.Visits),
                            [.. s.Instead.Select(p => new InsteadAnswer(p.Page, p.Visits))]
                        )
                ),
            ],
            workspace.RawFrom is { } raw && request.From < raw ? raw : null
        );
    }

    private static decimal? RateOf(long part, long whole) => whole == 0 ? null : (decimal)part / whole;
}

/// <summary>How far visits got.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Visits">All visits there were.</param>
/// <param name="Steps">The steps in their order.</param>
/// <param name="RawFrom">The first day visits are kept one by one where the range begins earlier; ways of the days before are not known any more. Null else.</param>
public sealed record StepsAnswer(DateOnly From, DateOnly To, long Visits, IReadOnlyList<StepAnswer> Steps, DateOnly? RawFrom);

/// <summary>A step of a way.</summary>
/// <param name="Step">As it was asked for.</param>
/// <param name="Visits">Visits that reached it, and every step before it in this order.</param>
/// <param name="RateOfBefore">Of those that reached the step before it, for the first one of all visits; null where there are none.</param>
/// <param name="RateOfAll">Of all visits; null where there are none.</param>
/// <param name="Instead">What those who did not reach the next step saw after this one, the commonest first, at most five; empty for the last step.</param>
public sealed record StepAnswer(string Step, long Visits, decimal? RateOfBefore, decimal? RateOfAll, IReadOnlyList<InsteadAnswer> Instead);

/// <summary>What visits did instead of the next step.</summary>
/// <param name="Page">The page they saw next; null for those who saw none.</param>
/// <param name="Visits">How many.</param>
public sealed record InsteadAnswer(string? Page, long Visits);
