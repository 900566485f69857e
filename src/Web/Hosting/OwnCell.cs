using System.Globalization;

namespace PreciseBeacon.Web.Hosting;

/// <summary>What a cell of a table of our own holds.</summary>
public enum OwnCellKind
{
    Text,

    /// <summary>A whole number.</summary>
    Count,

    /// <summary>An amount of money with two decimals; its currency stands in a column of its own.</summary>
    Amount,

    /// <summary>A share of 1, shown in per cent.</summary>
    Rate,

    /// <summary>A number with decimals.</summary>
    Number,
}

/// <summary>A cell of a table of our own.</summary>
/// <param name="Text">As it stands in text files; numbers in digits with a decimal point, empty where there is no figure.</param>
/// <param name="Kind">What it is in a workbook.</param>
public readonly record struct OwnCell(string Text, OwnCellKind Kind = OwnCellKind.Text)
{
    public static OwnCell Of(long number) => new(number.ToString(CultureInfo.InvariantCulture), OwnCellKind.Count);

    /// <summary>A whole number; empty where there is none.</summary>
    public static OwnCell Of(long? number) => number is { } known ? Of(known) : new("");

    /// <summary>A share of 1; empty where there is none.</summary>
    public static OwnCell OfRate(decimal? rate) => new(rate?.ToString("0.######", CultureInfo.InvariantCulture) ?? "", OwnCellKind.Rate);

    /// <summary>A number with decimals; empty where there is none.</summary>
    public static OwnCell OfNumber(decimal? number) =>
        new(number?.ToString("0.######", CultureInfo.InvariantCulture) ?? "", OwnCellKind.Number);

    public static OwnCell Of(Money? money) => new(money?.Amount ?? "", OwnCellKind.Amount);

    public static implicit operator OwnCell(string? text) => new(text ?? "");
}
