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
