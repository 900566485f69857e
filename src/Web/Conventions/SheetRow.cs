using System.Globalization;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;

namespace PreciseBeacon.Web.Conventions;

/// <summary>One row of a sheet as people keep it, read by its headings.</summary>
/// <param name="Sheet">Name of the sheet.</param>
/// <param name="Number">The row's number as the sheet counts, headings included.</param>
/// <param name="Cells">Cells by heading.</param>
internal sealed record SheetRow(string Sheet, int Number, IReadOnlyDictionary<string, object?> Cells)
{
    /// <summary>What stands between several texts in one cell.</summary>
    public const string Between = "\n";

    /// <summary>The text of a cell; empty when the cell or its column isn't there.</summary>
    public string Text(string heading) => Convert.ToString(Cells.GetValueOrDefault(heading), CultureInfo.InvariantCulture)?.Trim() ?? "";

    public string? TextOrNull(string heading) => Text(heading) is { Length: > 0 } text ? text : null;

    /// <summary>Several texts, one to a line of the cell.</summary>
    public IReadOnlyList<string> Texts(string heading) =>
        Text(heading).Split(['\n', '\r'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    /// <exception cref="ConventionException">The cell says something else than yes or no.</exception>
    public bool Yes(string heading) =>
        Text(heading).ToUpperInvariant() switch
        {
            "YES" or "TRUE" or "1" => true,
            "" or "NO" or "FALSE" or "0" => false,
            _ => throw Wrong(heading, "yes or no"),
        };

    /// <summary>A word of a small set; an empty cell is the usual one.</summary>
    /// <exception cref="ConventionException">The cell has none of the words.</exception>
    public T Word<T>(string heading, T usual)
        where T : struct, Enum =>
        Text(heading) is not { Length: > 0 } text ? usual
        : !char.IsAsciiDigit(text[0]) && Enum.TryParse<T>(text, ignoreCase: true, out var word) ? word
        : throw Wrong(heading, string.Join(", ", Enum.GetNames<T>().Select(Camel)));

    /// <exception cref="ConventionException">The cell has no whole number.</exception>
    public int Whole(string heading, int usual) =>
        Text(heading) is not { Length: > 0 } text ? usual
        : int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out int number) ? number
        : throw Wrong(heading, "a whole number");

    public ConventionException Wrong(string heading, string wanted) =>
        new($"Sheet {Sheet}, row {Number}, {heading}: “{Text(heading)}” isn't allowed there; write {wanted}.");

    public static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
