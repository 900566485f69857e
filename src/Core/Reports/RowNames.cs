using System.Globalization;

namespace PreciseBeacon.Core.Reports;

/// <summary>What rows are called where their keys are codes, numbers or days; the interface calls them alike (one table tests both).</summary>
public static class RowNames
{
    private static readonly CultureInfo English = CultureInfo.GetCultureInfo("en-IE");

    /// <summary>What fields are called, as heads of columns have them, and visits without a value of them.</summary>
    private static readonly Dictionary<RowKind, (string Label, string None)> Words = new()
    {
        [RowKind.Channel] = ("channel", "Unsorted"),
        [RowKind.Group] = ("group", "Unsorted"),
        [RowKind.Campaign] = ("campaign", "No campaign"),
        [RowKind.Placement] = ("placement", "No placement"),
        [RowKind.Set] = ("set of placements", "No set"),
        [RowKind.Publisher] = ("publisher", "No publisher"),
        [RowKind.Link] = ("link", "No link in the Ledger"),
        [RowKind.Source] = ("source", "No source"),
        [RowKind.Medium] = ("medium", "No medium"),
        [RowKind.SourceMedium] = ("source and medium", "No source and medium"),
        [RowKind.Content] = ("content", "No content"),
        [RowKind.Term] = ("term", "No term"),
        [RowKind.Id] = ("id", "No id"),
        [RowKind.Typed] = ("typed behind the link", "Nothing typed"),
        [RowKind.Referrer] = ("referrer", "No referrer"),
        [RowKind.Site] = ("site", "No site"),
        [RowKind.LandingPage] = ("landing page", "No page"),
        [RowKind.LastPage] = ("last page", "No page"),
        [RowKind.Country] = ("country", "Unknown country"),
        [RowKind.Region] = ("region", "Unknown region"),
        [RowKind.Town] = ("town", "Unknown town"),
        [RowKind.Device] = ("device", "No device"),
        [RowKind.Model] = ("model", "Unknown model"),
        [RowKind.System] = ("system", "Unknown system"),
        [RowKind.Browser] = ("browser", "Unknown browser"),
        [RowKind.Language] = ("language", "Unknown language"),
        [RowKind.VisitorKind] = ("new or returning", "Visitors without an id"),
        [RowKind.Hour] = ("hour", "No hour"),
        [RowKind.Weekday] = ("weekday", "No weekday"),
        [RowKind.Day] = ("day", "No day"),
        [RowKind.Week] = ("week", "No week"),
        [RowKind.Month] = ("month", "No month"),
    };

    /// <summary>What a field is called.</summary>
    public static string LabelOf(RowField field) =>
        $"{(field.IsFirst ? "first " : "")}{(Words.TryGetValue(field.Kind, out var words) ? words.Label : field.Name)}";

    /// <summary>What a row is called.</summary>
    /// <param name="field">What rows are made by.</param>
    /// <param name="key">The row's key; null where visits have no such value.</param>
    /// <param name="name">What the key is called where that is known, such as a campaign's name.</param>
    public static string Of(RowField field, string? key, string? name = null) =>
        key == AmountRows.NotBrokenDown ? "Not broken down"
        : key is null && field.IsFirst ? $"{Of(field with { IsFirst = false }, null)}, or no visitor id"
        : key is null
            ? Words.TryGetValue(field.Kind, out var words) ? words.None
                : $"No {field.Name.Replace('_', ' ')}"
        : field.Kind switch
        {
            RowKind.Country => CountryOf(key),
            RowKind.Language => LanguageOf(key),
            RowKind.VisitorKind => key == "new" ? "New visitors" : "Returning visitors",
            RowKind.Hour => $"{key.PadLeft(2, '0')}:00",
            RowKind.Weekday when int.TryParse(key, NumberStyles.None, CultureInfo.InvariantCulture, out int day) && day is >= 1 and <= 7 =>
                English.DateTimeFormat.DayNames[day % 7],
            RowKind.Day when DayOf(key) is { } day => Shown(day),
            RowKind.Week when DayOf(key) is { } day => $"week of {Shown(day)}",
            RowKind.Month when DayOf(key) is { } day => day.ToString("MMMM yyyy", CultureInfo.InvariantCulture),
            _ => name ?? key,
        };

    /// <summary>A day as it is written everywhere.</summary>
    public static string Shown(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    private static DateOnly? DayOf(string key) =>
        DateOnly.TryParseExact(key, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;

    /// <summary>A country's English name by its code (ISO 3166-1, names of CLDR); a code that is none stays.</summary>
    private static string CountryOf(string code)
    {
        if (code.Length != 2 || !code.All(char.IsAsciiLetter))
        {
            return code;
        }

        try
        {
            return new RegionInfo(code).EnglishName;
        }
        catch (ArgumentException)
        {
            return code;
        }
    }

    /// <summary>A language's English name by its code (ISO 639, names of CLDR); a code that is none stays.</summary>
    private static string LanguageOf(string code)
    {
        try
        {
            string name = CultureInfo.GetCultureInfo(code, predefinedOnly: true).EnglishName;
            return name.StartsWith("Unknown", StringComparison.Ordinal) ? code : name;
        }
        catch (CultureNotFoundException)
        {
            return code;
        }
    }
}
