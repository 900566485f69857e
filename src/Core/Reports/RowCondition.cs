namespace PreciseBeacon.Core.Reports;

/// <summary>One condition that visits of a report fulfil.</summary>
/// <param name="Field">What it is about.</param>
/// <param name="Test">How values are compared; case does not matter for <see cref="RowTest.Contains"/>.</param>
/// <param name="Values">Values compared with; null stands for visits without one. One value, for <see cref="RowTest.In"/> at least one.</param>
public sealed record RowCondition(RowField Field, RowTest Test, IReadOnlyList<string?> Values)
{
    /// <summary>Reads <c>field:is:value</c>, <c>field:not:value</c>, <c>field:contains:text</c> or <c>field:in:value</c>; null for anything else.</summary>
    /// <param name="text">The condition; an empty value stands for visits without one, and a value may hold colons.</param>
    public static RowCondition? Parse(string text)
    {
        if (
            text.Split(':', 3) is not [var name, var test, var value]
            || RowField.Parse(name) is not { } field
            || test.Length == 0
            || !test.All(char.IsAsciiLetter)
            || !Enum.TryParse<RowTest>(test, ignoreCase: true, out var found)
        )
        {
            return null;
        }

        return new RowCondition(field, found, [value.Length == 0 && found != RowTest.Contains ? null : value]);
    }

    /// <summary>The conditions with those of one field that may be one of several values put together.</summary>
    public static IReadOnlyList<RowCondition> Gathered(IEnumerable<RowCondition> conditions) =>
        [
            .. conditions
                .GroupBy(c => (c.Field, c.Test, Single: c.Test == RowTest.In ? null : c))
                .Select(g => new RowCondition(g.Key.Field, g.Key.Test, [.. g.SelectMany(c => c.Values).Distinct()])),
        ];

    /// <summary>Whether a value fulfils it.</summary>
    public bool Holds(string? value) =>
        Test switch
        {
            RowTest.Not => value != Values[0],
            RowTest.Contains => value?.Contains(Values[0] ?? "", StringComparison.OrdinalIgnoreCase) == true,
            _ => Values.Contains(value),
        };
}

/// <summary>How a value is compared.</summary>
public enum RowTest
{
    Is,
    Not,
    Contains,
    In,
}
