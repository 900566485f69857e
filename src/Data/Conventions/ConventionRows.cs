using System.Text.Json;
using System.Text.Json.Serialization;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Conventions;

/// <summary>Turns a convention's rows into its document and back.</summary>
public static class ConventionRows
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };

    private static string Json<T>(IEnumerable<T> documents) => JsonSerializer.Serialize(documents, Options);

    /// <summary>Writes a document into a version, its fields apart.</summary>
    public static void Write(ConventionDocument document, ConventionVersion version)
    {
        version.Settings = JsonSerializer.Serialize(
            new Settings(document.Style, document.SealedKey, document.Choices, document.Severities, document.ReadBy),
            Options
        );
        version.Channels = Json(document.Channels);
        version.Referrers = Json(document.Referrers);
    }

    /// <summary>The document of a version whose fields and words were loaded.</summary>
    public static ConventionDocument DocumentOf(ConventionVersion version)
    {
        var settings = JsonSerializer.Deserialize<Settings>(version.Settings, Options)!;
        return new ConventionDocument
        {
            Style = settings.Style,
            SealedKey = settings.SealedKey,
            Choices = settings.Choices ?? [],
            Severities = settings.Severities ?? new Dictionary<string, Severity>(),
            ReadBy = settings.ReadBy ?? [],
            Fields = [.. version.Fields.OrderBy(f => f.Position).Select(DocumentOf)],
            Channels = JsonSerializer.Deserialize<List<ChannelDocument>>(version.Channels, Options)!,
            Referrers = JsonSerializer.Deserialize<List<ReferrerDocument>>(version.Referrers, Options)!,
        };
    }

    /// <summary>A published first version with a document's content.</summary>
    public static ConventionVersion FirstVersion(ConventionDocument document, DateTimeOffset now)
    {
        var version = new ConventionVersion
        {
            Number = 1,
            PublishedAt = now,
            Fields = RowsOf(document),
        };
        Write(document, version);
        return version;
    }

    /// <summary>The rows of a document's fields.</summary>
    public static List<FieldRow> RowsOf(ConventionDocument document) =>
        [
            .. document.Fields.Select(
                (f, i) =>
                    new FieldRow
                    {
                        Position = i,
                        Key = f.Key,
                        Label = f.Label,
                        Means = f.Means,
                        Kind = f.Kind,
                        Presence = f.Presence,
                        PresenceIn = JsonSerializer.Serialize(f.PresenceIn, Options),
                        DateForm = f.DateForm,
                        Fixed = f.Fixed,
                        Pattern = f.Pattern is null ? null : JsonSerializer.Serialize(f.Pattern, Options),
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
                        Words =
                        [
                            .. f.Words.Select(
                                (w, n) =>
                                    new WordRow
                                    {
                                        Position = n,
                                        Written = w.Written,
                                        Label = w.Label,
                                        Aliases = [.. w.Aliases],
                                        Retired = w.Retired,
                                        Successor = w.Successor,
                                    }
                            ),
                        ],
                    }
            ),
        ];

    private static FieldDocument DocumentOf(FieldRow row) =>
        new()
        {
            Key = row.Key,
            Label = row.Label,
            Means = row.Means,
            Kind = row.Kind,
            Presence = row.Presence,
            PresenceIn = JsonSerializer.Deserialize<Dictionary<string, Presence>>(row.PresenceIn, Options)!,
            DateForm = row.DateForm,
            Fixed = row.Fixed,
            Pattern = row.Pattern is null ? null : JsonSerializer.Deserialize<PatternDocument>(row.Pattern, Options),
            List =
                !row.HasWordList ? ListKind.None
                : row.ClosedList ? ListKind.Closed
                : ListKind.Open,
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
            Words =
            [
                .. row
                    .Words.OrderBy(w => w.Position)
                    .Select(w => new WordDocument
                    {
                        Written = w.Written,
                        Label = w.Label,
                        Aliases = w.Aliases,
                        Retired = w.Retired,
                        Successor = w.Successor,
                    }),
            ],
        };

    private sealed record Settings(
        TagStyle Style,
        string? SealedKey,
        IReadOnlyList<ChoiceDocument>? Choices,
        IReadOnlyDictionary<string, Severity>? Severities,
        IReadOnlyList<ReadingSystemDocument>? ReadBy
    );
}
