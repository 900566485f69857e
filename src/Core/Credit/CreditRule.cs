using System.Globalization;

namespace PreciseBeacon.Core.Credit;

/// <summary>A model with its settings. Written as its name, where it has settings followed by them: <c>first</c>, <c>ends:40-30</c>, <c>fading:7</c>.</summary>
/// <param name="Model">The model.</param>
public sealed record CreditRule(CreditModel Model)
{
    /// <summary>The longest half-life, in days: as long as touches are looked at, at most.</summary>
    public const int MostHalfLife = CreditChoice.MostDays;

    private const double SecondsADay = 86_400;

    /// <summary>Weights of fading are whole numbers of this part, so that they are shared out exactly.</summary>
    private const double FadingUnit = 1L << 30;

    private const int Whole = 100;

    /// <summary>Per cent of the first touch, for <see cref="CreditModel.Ends"/>; at least 1.</summary>
    public int FirstShare { get; init; } = 35;

    /// <summary>Per cent of the last touch, likewise; both together at most 100.</summary>
    public int LastShare { get; init; } = 35;

    /// <summary>Days after which a touch weighs half, for <see cref="CreditModel.Fading"/>; 1 to <see cref="MostHalfLife"/>.</summary>
    public int HalfLifeDays { get; init; } = 10;

    /// <summary>Reads one, whatever the case; null for anything else.</summary>
    public static CreditRule? Parse(string text)
    {
        int colon = text.IndexOf(':', StringComparison.Ordinal);
        string name = colon < 0 ? text : text[..colon];
        if (!name.All(char.IsAsciiLetter) || !Enum.TryParse<CreditModel>(name, ignoreCase: true, out var model))
        {
            return null;
        }

        var rule = new CreditRule(model);
        if (colon < 0)
        {
            return rule;
        }

        int[]? numbers = NumbersOf(text[(colon + 1)..]);
        return (model, numbers) switch
        {
            (CreditModel.Ends, [var first, var last]) when first >= 1 && last >= 1 && first + last <= Whole => rule with
            {
                FirstShare = first,
                LastShare = last,
            },
            (CreditModel.Fading, [var days]) when days is >= 1 and <= MostHalfLife => rule with { HalfLifeDays = days },
            _ => null,
        };
    }

    public override string ToString() =>
        Model switch
        {
            CreditModel.LastTagged => "lastTagged",
            CreditModel.Ends => string.Create(CultureInfo.InvariantCulture, $"ends:{FirstShare}-{LastShare}"),
            CreditModel.Fading => string.Create(CultureInfo.InvariantCulture, $"fading:{HalfLifeDays}"),
            _ => Model.ToString().ToLowerInvariant(),
        };

    /// <summary>How much each touch counts beside the others.</summary>
    /// <param name="touches">In the order they happened, at least one; the last is the converting visit.</param>
    /// <param name="isTagged">Whether a source is a link or has tags.</param>
    /// <param name="weights">As many as there are touches: whole numbers from 0, at least one above it.</param>
    public void Weigh(ReadOnlySpan<Touch> touches, Func<int, bool> isTagged, Span<long> weights)
    {
        weights.Clear();
        int last = touches.Length - 1;
        switch (Model)
        {
            case CreditModel.First:
                weights[0] = 1;
                break;
            case CreditModel.LastTagged:
                int tagged = last;
                while (tagged >= 0 && !isTagged(touches[tagged].SourceId))
                {
                    tagged--;
                }

                weights[tagged < 0 ? last : tagged] = 1;
                break;
            case CreditModel.Equal:
                weights.Fill(1);
                break;
            case CreditModel.Ends when last > 0:
                // Two share by their ends; of more, those between share what is left, so ends are weighed by how many these are.
                int between = last - 1;
                weights.Fill(Whole - FirstShare - LastShare);
                weights[0] = (long)FirstShare * Math.Max(1, between);
                weights[last] = (long)LastShare * Math.Max(1, between);
                break;
            case CreditModel.Fading:
                for (int i = 0; i <= last; i++)
                {
                    double days = (touches[last].At - touches[i].At) / SecondsADay;
                    weights[i] = Math.Max(1, (long)Math.Round(FadingUnit * Math.Pow(2, -days / HalfLifeDays)));
                }

                break;
            default:
                weights[last] = 1;
                break;
        }
    }

    private static int[]? NumbersOf(string text)
    {
        string[] parts = text.Split('-');
        int[] numbers = new int[parts.Length];
        for (int i = 0; i < parts.Length; i++)
        {
            if (!int.TryParse(parts[i], NumberStyles.None, CultureInfo.InvariantCulture, out numbers[i]))
            {
                return null;
            }
        }

        return numbers;
    }
}
