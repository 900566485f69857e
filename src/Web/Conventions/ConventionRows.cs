using System.Text.Json;
using System.Text.Json.Serialization;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Conventions;

/// <summary>Turns a convention's rows into its document and back.</summary>
public static class ConventionRows
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    public static string Json<T>(IEnumerable<T> documents) => JsonSerializer.Serialize(documents, Options);

    /// <summary>The document of a version whose fields and words were loaded.</summary>
    public static ConventionDocument DocumentOf(ConventionVersion version) => new()
    {
        Fields = [.. version.Fields.OrderBy(f => f.Position).Select(DocumentOf)],
        Channels = JsonSerializer.Deserialize<List<ChannelDocument>>(version.Channels, Options)!,
        Referrers = JsonSerializer.Deserialize<List<ReferrerDocument>>(version.Referrers, Options)!,
    };

    /// <summary>The rows of a document's fields.</summary>
    public static List<FieldRow> RowsOf(ConventionDocument document) => [.. document.Fields.Select((f, i) => new FieldRow
    {
        Position = i,
        Key = f.Key,
        Label = f.Label,
        Presence = f.Presence,
        Case = f.Case,
        Space = f.Space,
        Characters = f.Characters,
        Outside = f.Outside,
        Transliterate = f.Transliterate,
        LongestValue = f.LongestValue,
        HasWordList = f.List != ListKind.None,
        ClosedList = f.List == ListKind.Closed,
        HoldsNumbers = f.HoldsNumbers,
        AlsoRead = [.. f.AlsoRead],
        Hint = f.Hint,
        Example = f.Example,
        Words = [.. f.Words.Select((w, n) => new WordRow { Position = n, Written = w.Written, Label = w.Label, Aliases = [.. w.Aliases], Retired = w.Retired, Successor = w.Successor })],
    })];

    private static FieldDocument DocumentOf(FieldRow row) => new()
    {
        Key = row.Key,
        Label = row.Label,
        Presence = row.Presence,
        List = !row.HasWordList ? ListKind.None : row.ClosedList ? ListKind.Closed : ListKind.Open,
        Case = row.Case,
        Space = row.Space,
        Characters = row.Characters,
        Outside = row.Outside,
        Transliterate = row.Transliterate,
        LongestValue = row.LongestValue,
        HoldsNumbers = row.HoldsNumbers,
        AlsoRead = row.AlsoRead,
        Hint = row.Hint,
        Example = row.Example,
        Words = [.. row.Words.OrderBy(w => w.Position).Select(w => new WordDocument { Written = w.Written, Label = w.Label, Aliases = w.Aliases, Retired = w.Retired, Successor = w.Successor })],
    };
}
