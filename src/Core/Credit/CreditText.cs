namespace PreciseBeacon.Core.Credit;

/// <summary>What a view with a model of credit says of it; the interface says it alike (one table tests both).</summary>
public static class CreditText
{
    /// <summary>The sentence at the head of such a view.</summary>
    public static string Of(CreditChoice choice) =>
        $"Conversions and revenue by {NameOf(choice.Rule)}, visits up to {DaysOf(choice.Days)} before each count"
        + (choice.Beside is { } beside ? $"; gained by {NameOf(beside)}" : "");

    /// <summary>What a model is called, with its settings.</summary>
    public static string NameOf(CreditRule rule) =>
        rule.Model switch
        {
            CreditModel.Last => "last touch",
            CreditModel.LastTagged => "last tagged touch",
            CreditModel.First => "first touch",
            CreditModel.Equal => "equal parts",
            CreditModel.Ends => $"ends ({rule.FirstShare} % first, {rule.LastShare} % last)",
            _ => $"fading (half each {DaysOf(rule.HalfLifeDays)})",
        };

    private static string DaysOf(int days) => days == 1 ? "1 day" : $"{days} days";
}
