using Microsoft.AspNetCore.Http.HttpResults;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conversions;

/// <summary>What the owner counts as a conversion.</summary>
public static class ConversionKindEndpoints
{
    public static void MapConversionKinds(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1/conversion-kinds").WithTags("Conversions");
        group.MapGet("", ListAsync).WithName("ListConversionKinds").WithSummary("Lists what counts as a conversion.").For(Caller.Readers);
        group
            .MapPost("/count", TryAsync)
            .WithName("TryConversionKind")
            .WithSummary("Counts what a definition would have found in the last 30 days.")
            .For(Caller.Owner);
        group.MapPost("", AddAsync).WithName("AddConversionKind").WithSummary("Defines a conversion.").For(Caller.Owner);
        group.MapPut("/{id:guid}", ChangeAsync).WithName("ChangeConversionKind").WithSummary("Changes a definition.").For(Caller.Owner);
        group
            .MapDelete("/{id:guid}", RemoveAsync)
            .WithName("RemoveConversionKind")
            .WithSummary("Removes a definition and its conversions.")
            .For(Caller.Owner);
    }

    private static async Task<Ok<ConversionKindsAnswer>> ListAsync(ConversionKindStore kinds, CancellationToken cancel) =>
        TypedResults.Ok(await kinds.ListAsync(cancel));

    private static async Task<Outcome<DefinitionTrial>> TryAsync(
        ConversionKindRequest kind,
        ConversionKindStore kinds,
        CancellationToken cancel
    ) => await kinds.TryAsync(kind, cancel);

    private static async Task<Outcome<ConversionKindAnswer>> AddAsync(
        ConversionKindRequest kind,
        ConversionKindStore kinds,
        CancellationToken cancel
    ) => await kinds.AddAsync(kind, cancel);

    private static async Task<Outcome<ConversionKindAnswer>> ChangeAsync(
        Guid id,
        ConversionKindRequest kind,
        ConversionKindStore kinds,
        CancellationToken cancel
    ) => await kinds.ChangeAsync(id, kind, cancel);

    private static async Task<Refusal?> RemoveAsync(Guid id, ConversionKindStore kinds, CancellationToken cancel) =>
        await kinds.RemoveAsync(id, cancel);
}

/// <summary>What counts as a conversion.</summary>
/// <param name="Kinds">The defined ones, by name.</param>
/// <param name="Reported">Those that pages or servers report themselves, in the last 30 days, the most first.</param>
/// <param name="Waiting">Months of past visits that are still to be looked through after a change.</param>
/// <param name="Currency">What fixed values are in, ISO 4217.</param>
/// <param name="WaitingRefunds">How many refunds wait for an order that nobody has reported; they are in no figure.</param>
/// <param name="Refunds">The newest of them, at most ten.</param>
public sealed record ConversionKindsAnswer(
    IReadOnlyList<ConversionKindAnswer> Kinds,
    IReadOnlyList<ReportedKind> Reported,
    int Waiting,
    string Currency,
    long WaitingRefunds,
    IReadOnlyList<WaitingRefundAnswer> Refunds
);

/// <summary>A refund that waits for its order.</summary>
/// <param name="OrderId">As the server names it.</param>
/// <param name="Day">When the money went back.</param>
/// <param name="Value">How much.</param>
public sealed record WaitingRefundAnswer(string OrderId, DateOnly Day, Money Value);

/// <summary>A kind of conversion that the owner defined.</summary>
/// <param name="Test">What is looked at.</param>
/// <param name="Text">The page's path, or host and path; the event's name.</param>
/// <param name="Value">What each is worth; null for nothing, or where the event says it.</param>
/// <param name="TakesValue">The value is what the event brings.</param>
/// <param name="CountsEach">Every time counts; else once in a visit.</param>
/// <param name="Conversions">In the last 30 days.</param>
public sealed record ConversionKindAnswer(
    Guid Id,
    string Name,
    ConversionTest Test,
    string Text,
    Money? Value,
    bool TakesValue,
    bool CountsEach,
    long Conversions,
    string MadeBy,
    DateTimeOffset MadeAt
);

/// <summary>A kind of conversion that pages or servers report themselves.</summary>
/// <param name="Conversions">In the last 30 days.</param>
public sealed record ReportedKind(string Name, long Conversions);

/// <summary>A definition.</summary>
/// <param name="Name">The kind of conversion it makes.</param>
/// <param name="Test">What is looked at; one page where left out.</param>
/// <param name="Text">The page's path, such as <c>/thanks</c>, or an address with its host; the event's name.</param>
/// <param name="Value">What each is worth, in the workspace's currency.</param>
/// <param name="TakesValue">Whether the value is what the event brings.</param>
/// <param name="CountsEach">Whether every time counts; else once in a visit.</param>
public sealed record ConversionKindRequest(
    string? Name,
    ConversionTest? Test,
    string? Text,
    decimal? Value = null,
    bool? TakesValue = null,
    bool? CountsEach = null
);
