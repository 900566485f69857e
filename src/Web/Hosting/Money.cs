using System.Globalization;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Web.Hosting;

/// <summary>An amount with its currency (ISO 4217), rounded for showing to the currency's own decimals.</summary>
public sealed record Money(string Amount, string Currency)
{
    public static Money Of(decimal amount, string currency) =>
        new(Figures.Shown(amount, currency).ToString($"F{Currencies.DecimalsOf(currency)}", CultureInfo.InvariantCulture), currency);
}
