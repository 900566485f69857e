namespace PreciseBeacon.Core.Outcomes;

/// <summary>In which way something was refused.</summary>
public enum RefusalKind
{
    /// <summary>What was sent can't be read as asked for.</summary>
    Invalid,

    /// <summary>The right is missing.</summary>
    Forbidden,

    /// <summary>There is no such thing.</summary>
    Missing,

    /// <summary>It clashes with what is there, or with what somebody else did meanwhile.</summary>
    Conflict,

    /// <summary>It has more bytes than are read.</summary>
    TooLarge,

    /// <summary>It could be read, but a rule forbids it.</summary>
    Unacceptable,

    /// <summary>It came too often.</summary>
    TooOften,

    /// <summary>Another server did not answer as it should.</summary>
    OutsideFailed,
}

/// <summary>Why something somebody asked for was not done: a value, not an exception.</summary>
/// <param name="Kind">In which way.</param>
/// <param name="Rule">Machine word in lower case with hyphens.</param>
/// <param name="Message">One sentence: what is wrong and what to do.</param>
public sealed record Refusal(RefusalKind Kind, string Rule, string Message)
{
    /// <summary>What goes with it by name, such as a repair or the version somebody else saved; null for nothing.</summary>
    public IReadOnlyDictionary<string, object?>? More { get; init; }

    public static Refusal Invalid(string rule, string message) => new(RefusalKind.Invalid, rule, message);

    public static Refusal Forbidden(string rule, string message) => new(RefusalKind.Forbidden, rule, message);

    public static Refusal Conflict(string rule, string message) => new(RefusalKind.Conflict, rule, message);

    public static Refusal TooLarge(string rule, string message) => new(RefusalKind.TooLarge, rule, message);

    public static Refusal Unacceptable(string rule, string message) => new(RefusalKind.Unacceptable, rule, message);

    public static Refusal TooOften(string rule, string message) => new(RefusalKind.TooOften, rule, message);

    public static Refusal OutsideFailed(string rule, string message) => new(RefusalKind.OutsideFailed, rule, message);

    /// <summary>There is no such thing in this workspace.</summary>
    /// <param name="what">What is missing, as in “campaign”.</param>
    public static Refusal NotFound(string what) =>
        new(
            RefusalKind.Missing,
            "not-found",
            $"There is no such {what} in this workspace; it may have been removed, or the address is mistyped."
        );

    /// <summary>Somebody else changed the same thing since it was looked at (a stale edit).</summary>
    /// <param name="what">What was changed, as in “this campaign”.</param>
    public static Refusal ChangedMeanwhile(string what = "this") =>
        Conflict("changed-meanwhile", $"Somebody else changed {what} meanwhile. Review their version, then make your change again.");

    /// <summary>The same, with who did it and what they saved.</summary>
    /// <param name="by">Their name; null when it isn't known.</param>
    /// <param name="what">What was changed, as in “this text”.</param>
    /// <param name="theirs">Their version, as calls answer it.</param>
    public static Refusal ChangedBy(string? by, string what, object? theirs) =>
        Conflict("changed-meanwhile", $"{by ?? "Somebody"} changed {what} meanwhile. Review their version, then save yours again.") with
        {
            More = new Dictionary<string, object?> { ["theirs"] = theirs },
        };
}
