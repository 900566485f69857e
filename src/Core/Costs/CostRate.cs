using System.Text.Json;
using System.Text.Json.Serialization;

namespace PreciseBeacon.Core.Costs;

/// <summary>What money is paid for.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<CostBasis>))]
public enum CostBasis
{
    /// <summary>From that day on nothing is paid.</summary>
    Nothing,

    /// <summary>Each click of a person; each visit where the link has no short link, so that nobody can count its clicks.</summary>
    Click,

    Visit,
    Conversion,

    /// <summary>A thousand times that another system says it showed something (<see cref="ShownCosts"/>).</summary>
    Shown,

    /// <summary>A span of days, in equal parts for each, beside whatever else is paid.</summary>
    Span,
}

/// <summary>What a placement or a link costs from a day on (reports, section 3).</summary>
/// <param name="From">The first day it holds, in the workspace's zone; null for ever since. A span needs one.</param>
/// <param name="Basis">What is paid for.</param>
/// <param name="Amount">
/// Money in the workspace's currency, at least 0: for each of what is paid for, for a thousand of them where it is shown, or for the whole span.
/// </param>
/// <param name="To">The last day of a span; null for everything else, which holds until another rate does.</param>
public sealed record CostRate(DateOnly? From, CostBasis Basis, decimal Amount, DateOnly? To = null)
{
    /// <summary>How many times something is shown for one price: common practice of those who show it.</summary>
    public const int ShownAtATime = 1_000;

    /// <summary>What some uses cost, not rounded.</summary>
    /// <param name="uses">How many of what the rate is paid for.</param>
    public decimal Of(long uses) => Basis == CostBasis.Shown ? Amount * uses / ShownAtATime : Amount * uses;
}

/// <summary>Which rate holds when: a later one never changes what earlier days cost (rules, section 7).</summary>
public static class CostRates
{
    /// <summary>Most rates of one placement or link.</summary>
    public const int Most = 100;

    /// <summary>The largest amount of a rate.</summary>
    public const decimal LargestAmount = 1_000_000_000;

    /// <summary>Rates as they are stored; null stands for none.</summary>
    public static IReadOnlyList<CostRate> Parse(string? json) =>
        json is null ? [] : JsonSerializer.Deserialize<List<CostRate>>(json, JsonSerializerOptions.Web) ?? [];

    /// <summary>Rates to be stored, in order; null for none.</summary>
    public static string? Write(IReadOnlyList<CostRate> rates) =>
        rates.Count == 0 ? null : JsonSerializer.Serialize(InOrder(rates), JsonSerializerOptions.Web);

    /// <summary>By their first day, spans last.</summary>
    public static IReadOnlyList<CostRate> InOrder(IEnumerable<CostRate> rates) =>
        [.. rates.OrderBy(r => r.Basis == CostBasis.Span).ThenBy(r => r.From ?? DateOnly.MinValue).ThenBy(r => r.To)];

    /// <summary>The rate that holds on a day; null before the first one. Spans hold beside it.</summary>
    public static CostRate? HoldingOn(IEnumerable<CostRate> rates, DateOnly day) =>
        rates.Where(r => r.Basis != CostBasis.Span && (r.From ?? DateOnly.MinValue) <= day).MaxBy(r => r.From ?? DateOnly.MinValue);

    /// <summary>The rate of a link on a day: its own, or else its placement's.</summary>
    public static CostRate? HoldingOn(IEnumerable<CostRate> ofLink, IEnumerable<CostRate> ofPlacement, DateOnly day) =>
        HoldingOn(ofLink, day) ?? HoldingOn(ofPlacement, day);

    /// <summary>Days within a range on which another rate begins to hold than the day before; the first day of the range is none.</summary>
    public static IEnumerable<DateOnly> TurnsIn(IEnumerable<CostRate> rates, DateOnly from, DateOnly to) =>
        rates.Where(r => r.Basis != CostBasis.Span && r.From > from && r.From <= to).Select(r => r.From!.Value).Distinct().Order();

    /// <summary>The first day whose costs may differ between two lists of rates; null where they are the same.</summary>
    public static DateOnly? FirstDifference(IReadOnlyCollection<CostRate> one, IReadOnlyCollection<CostRate> other)
    {
        var differing = one.Except(other).Concat(other.Except(one)).ToList();
        return differing.Count == 0 ? null : differing.Min(r => r.From ?? DateOnly.MinValue);
    }

    /// <summary>The rates once the cost of a click is another one from today on; what earlier days cost stays.</summary>
    /// <param name="rates">The rates until now.</param>
    /// <param name="perClick">Money for a click; null for none.</param>
    /// <param name="today">Today in the workspace's zone; null for what has no past, such as a new placement.</param>
    public static IReadOnlyList<CostRate> WithClickCost(IReadOnlyList<CostRate> rates, decimal? perClick, DateOnly? today)
    {
        if (ClickCostOn(rates, today ?? DateOnly.MinValue) == perClick)
        {
            return rates;
        }

        var kept = rates.Where(r => r.Basis == CostBasis.Span || r.From != today).ToList();
        bool wasPaid = today is { } now && HoldingOn(kept, now) is { Basis: not CostBasis.Nothing };
        if (perClick is { } amount)
        {
            kept.Add(new CostRate(today, CostBasis.Click, amount));
        }
        else if (wasPaid)
        {
            kept.Add(new CostRate(today, CostBasis.Nothing, 0));
        }

        return InOrder(kept);
    }

    /// <summary>What a click costs on a day; null where clicks are not what is paid for.</summary>
    public static decimal? ClickCostOn(IReadOnlyList<CostRate> rates, DateOnly day) =>
        HoldingOn(rates, day) is { Basis: CostBasis.Click, Amount: var amount } ? amount : null;

    /// <summary>Why rates can't be kept, as one sentence; null where they can.</summary>
    public static string? WhyWrong(IReadOnlyList<CostRate> rates)
    {
        if (rates.Count > Most)
        {
            return $"At most {Most} rates can be kept; remove those that never held.";
        }

        if (rates.Any(r => r.Amount is < 0 or > LargestAmount))
        {
            return "A cost is an amount of 0 or more; check its digits.";
        }

        if (rates.Any(r => r.Basis == CostBasis.Span && (r.From is null || r.To is null || r.To < r.From)))
        {
            return "A span needs its first and its last day, in this order.";
        }

        return rates.Where(r => r.Basis != CostBasis.Span).GroupBy(r => r.From).FirstOrDefault(g => g.Count() > 1) is { } twice
            ? $"Two rates begin {(twice.Key is { } day ? $"on {day:yyyy-MM-dd}" : "at the beginning")}; keep one of them."
            : null;
    }
}
