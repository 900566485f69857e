using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Notices;

/// <summary>What a rule says about a link.</summary>
/// <param name="Rule">The rule's name, one of <see cref="NoticeRules"/>.</param>
/// <param name="Severity">How grave it is.</param>
/// <param name="Field">Key of the field it is about, or null when it is about the whole link.</param>
/// <param name="Message">One sentence: what is wrong and what to do.</param>
/// <param name="Repair">A change that mends it, where there is one.</param>
public sealed record Notice(string Rule, Severity Severity, string? Field, string Message, Repair? Repair = null)
{
    public static Notice Of(NoticeRule rule, string? field, string message, Repair? repair = null) =>
        new(rule.Name, rule.Severity, field, message, repair);
}

/// <summary>A change that mends what a notice is about.</summary>
/// <param name="Field">Key of the field to change, or null for the destination.</param>
/// <param name="Value">The value to put there; an empty text clears it.</param>
/// <param name="Says">What the button says, as an order of a few words.</param>
public sealed record Repair(string? Field, string Value, string Says);

/// <summary>How grave a notice is, gravest last.</summary>
public enum Severity
{
    /// <summary>Worth knowing; nothing has to be done.</summary>
    Info,

    /// <summary>Probably wrong; the link is made all the same.</summary>
    Warning,

    /// <summary>Certainly wrong; the link is not saved.</summary>
    Error,
}
