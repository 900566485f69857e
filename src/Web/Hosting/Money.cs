using System.Globalization;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Web.Hosting;

/// <summary>An amount with its currency (ISO 4217), rounded for showing.</summary>
public sealed record Money(string Amount, string Currency)
{
    public static Money Of(decimal amount, string currency) => new(Figures.Shown(amount).ToString("0.00", CultureInfo.InvariantCulture), currency);
}
