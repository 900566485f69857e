using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>What calls ask of credit.</summary>
internal static class CreditQuery
{
    /// <summary>Reads what is asked for.</summary>
    /// <returns>The choice, null where conversions stand with their own visits; or why it can't be read.</returns>
    public static (CreditChoice? Choice, Refusal? Refusal) Read(string? credit, string? beside, int? days) =>
        CreditChoice.TryRead(credit, beside, days, out var choice)
            ? (choice, null)
            : (
                null,
                Refusal.Invalid(
                    "credit-refused",
                    $"Credit is last, lastTagged, first, equal, ends such as ends:35-35, or fading such as fading:10, over 1 to {CreditChoice.MostDays} days."
                )
            );
}
