using System.Globalization;

namespace PreciseBeacon.Core.Credit;

/// <summary>How a view gives credit.</summary>
/// <param name="Rule">The model its figures follow.</param>
/// <param name="Beside">Another model each row is compared with; null for none.</param>
/// <param name="Days">How many days before a conversion a touch may lie, 1 to <see cref="MostDays"/>.</param>
public sealed record CreditChoice(CreditRule Rule, CreditRule? Beside = null, int Days = CreditChoice.UsualDays)
{
    /// <summary>Days where none are said (rules, section 7).</summary>
    public const int UsualDays = 45;

    /// <summary>Touches are looked for so far back at most (reports, section 2).</summary>
    public const int MostDays = 90;

    /// <summary>Touches of one conversion at most, the latest (ours): whoever comes more often in three months is no person.</summary>
    public const int MostTouches = 200;

    private const int SecondsADay = 86_400;

    /// <summary>The same in seconds.</summary>
    public long Seconds => (long)Days * SecondsADay;

    /// <summary>Reads what a call or an address asks for.</summary>
    /// <param name="rule">See <see cref="CreditRule.Parse"/>; null or empty leaves conversions with their own visits.</param>
    /// <param name="beside">Another one; null or empty for none.</param>
    /// <param name="days">1 to <see cref="MostDays"/>; null for the usual.</param>
    /// <param name="choice">What was read; null where nothing was asked for.</param>
    /// <returns>False for what can't be read, a second model without a first one too.</returns>
    public static bool TryRead(string? rule, string? beside, int? days, out CreditChoice? choice)
    {
        choice = null;
        if (string.IsNullOrEmpty(rule))
        {
            return string.IsNullOrEmpty(beside);
        }

        var other = string.IsNullOrEmpty(beside) ? null : CreditRule.Parse(beside);
        if (CreditRule.Parse(rule) is not { } read || (!string.IsNullOrEmpty(beside) && other is null) || days is < 1 or > MostDays)
        {
            return false;
        }

        choice = new CreditChoice(read, other, days ?? UsualDays);
        return true;
    }

    /// <summary>What a file says of it.</summary>
    public override string ToString() =>
        string.Create(CultureInfo.InvariantCulture, $"{Rule}{(Beside is null ? "" : $" beside {Beside}")}, {Days} days");
}
