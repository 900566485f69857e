using System.IO.Compression;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;
using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Web.Conventions;

/// <summary>A convention as an XLSX workbook for people: a sheet for each kind of thing, several texts in a cell on lines of their own.</summary>
public static class ConventionSheet
{
    public const string ContentType = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    /// <summary>Most octets a workbook may unfold to; a small file that holds more is no convention.</summary>
    private const long LargestUnfolded = 64L << 20;

    private static readonly OpenXmlConfiguration Configuration = new() { AutoFilter = false, FreezeRowCount = 1 };

    /// <summary>The workbook; every cell is text or a number, never a formula.</summary>
    public static byte[] Write(ConventionDocument document)
    {
        var sheets = new Dictionary<string, object>
        {
            ["Settings"] = new[] { Row(("Style", Word(document.Style)), ("Sealed key", document.SealedKey ?? "")) },
            ["Fields"] = document
                .Fields.Select(f =>
                    Row(
                        ("Key", f.Key),
                        ("Label", f.Label),
                        ("Means", Word(f.Means)),
                        ("Kind", Word(f.Kind)),
                        ("Presence", Word(f.Presence)),
                        ("Presence by channel", Lines(f.PresenceIn.Select(p => $"{p.Key}: {Word(p.Value)}"))),
                        ("List", Word(f.List)),
                        ("Date form", Word(f.DateForm)),
                        ("Fixed value", f.Fixed ?? ""),
                        ("Case", Word(f.Case)),
                        ("Space", Word(f.Space)),
                        ("Characters", Word(f.Characters)),
                        ("Other characters", Word(f.Outside)),
                        ("Plain letters", YesNo(f.Transliterate)),
                        ("Longest value", f.LongestValue),
                        ("Holds numbers", YesNo(f.HoldsNumbers)),
                        ("Also read from", Lines(f.AlsoRead)),
                        ("Hint", f.Hint ?? ""),
                        ("Example", f.Example ?? "")
                    )
                )
                .ToList(),
            ["Parts"] = document
                .Fields.Where(f => f.Pattern is not null)
                .SelectMany(f =>
                    f.Pattern!.Parts.Select(p =>
                        Row(
                            ("Field", f.Key),
                            ("Separator", f.Pattern.Separator),
                            ("Part", Word(p.Kind)),
                            ("Of", p.Of),
                            ("Date form", Word(p.Form)),
                            ("If missing", p.Filler ?? "")
                        )
                    )
                )
                .ToList(),
            ["Words"] = document
                .Fields.SelectMany(f =>
                    f.Words.Select(w =>
                        Row(
                            ("Field", f.Key),
                            ("Word", w.Written),
                            ("Label", w.Label),
                            ("Other names", Lines(w.Aliases)),
                            ("Retired", YesNo(w.Retired)),
                            ("Use instead", w.Successor ?? "")
                        )
                    )
                )
                .ToList(),
            ["Choices"] = document
                .Choices.Select(c => Row(("Field", c.Field), ("Word", c.Word), ("Narrows", c.Narrows), ("To", Lines(c.To))))
                .ToList(),
            ["Channels"] = document
                .Channels.SelectMany(c =>
                    c.Conditions.DefaultIfEmpty()
                        .Select(k =>
                            Row(
                                ("Channel", c.Name),
                                ("Group", c.Group),
                                ("Subject", k is null ? "" : Word(k.Subject)),
                                ("Test", k is null ? "" : Word(k.Test)),
                                ("Values", k is null ? "" : Lines(k.Values))
                            )
                        )
                )
                .ToList(),
            ["Sites"] = document.Referrers.Select(r => Row(("Host", r.Host), ("Kind", Word(r.Kind)))).ToList(),
            ["Rules"] = document.Severities.Select(s => Row(("Rule", s.Key), ("Severity", Word(s.Value)))).ToList(),
            ["Reading systems"] = document.ReadBy.Select(r => Row(("Name", r.Name), ("Keys", Lines(r.Keys)))).ToList(),
        };
        using var workbook = new MemoryStream();
        workbook.SaveAs(sheets, configuration: Configuration);
        return workbook.ToArray();
    }

    /// <summary>Reads a workbook.</summary>
    /// <exception cref="ConventionException">It is no such workbook; the message names sheet, row and column.</exception>
    public static ConventionDocument Read(Stream workbook)
    {
        ThrowIfNoWorkbook(workbook);
        try
        {
            var names = workbook.GetSheetNames();
            var settings = Rows("Settings").FirstOrDefault();
            var parts = Rows("Parts").ToLookup(p => p.Text("Field"), StringComparer.Ordinal);
            var words = Rows("Words").ToLookup(w => w.Text("Field"), StringComparer.Ordinal);
            var fields = Rows("Fields").Select(r => FieldOf(r, parts[r.Text("Key")].ToList(), words[r.Text("Key")])).ToList();
            ThrowIfOrphaned(fields, parts.SelectMany(p => p).Concat(words.SelectMany(w => w)));
            return new ConventionDocument
            {
                Style = settings?.Word("Style", TagStyle.Query) ?? TagStyle.Query,
                SealedKey = settings?.TextOrNull("Sealed key"),
                Fields = fields,
                Choices =
                [
                    .. Rows("Choices")
                        .Select(r => new ChoiceDocument
                        {
                            Field = r.Text("Field"),
                            Word = r.Text("Word"),
                            Narrows = r.Text("Narrows"),
                            To = r.Texts("To"),
                        }),
                ],
                Channels = [.. Rows("Channels").GroupBy(r => r.Text("Channel")).Select(ChannelOf)],
                Referrers =
                [
                    .. Rows("Sites")
                        .Select(r => new ReferrerDocument { Host = r.Text("Host"), Kind = r.Word("Kind", ReferrerKind.OtherSite) }),
                ],
                Severities = Rows("Rules")
                    .DistinctBy(r => r.Text("Rule"))
                    .ToDictionary(r => r.Text("Rule"), r => r.Word("Severity", Severity.Warning)),
                ReadBy =
                [
                    .. Rows("Reading systems").Select(r => new ReadingSystemDocument { Name = r.Text("Name"), Keys = r.Texts("Keys") }),
                ],
            };

            List<SheetRow> Rows(string sheet) =>
                !names.Contains(sheet)
                    ? []
                    :
                    [
                        .. workbook
                            .Query(useHeaderRow: true, sheetName: sheet)
                            .Cast<IDictionary<string, object?>>()
                            .Select((cells, i) => new SheetRow(sheet, i + 2, cells.AsReadOnly()))
                            .Where(r => r.Cells.Values.Any(c => c is not null and not "")),
                    ];
        }
        catch (Exception broken) when (broken is not ConventionException and not OutOfMemoryException)
        {
            throw new ConventionException("The workbook can't be read; save it again as XLSX.", broken);
        }
    }

    private static FieldDocument FieldOf(SheetRow r, List<SheetRow> parts, IEnumerable<SheetRow> words) =>
        new()
        {
            Key = r.Text("Key"),
            Label = r.Text("Label"),
            Means = r.Word("Means", FieldMeaning.ByKey),
            Kind = r.Word("Kind", FieldKind.Text),
            Presence = r.Word("Presence", Presence.Offered),
            PresenceIn = r.Texts("Presence by channel")
                .ToDictionary(
                    t => t[..Math.Max(0, t.LastIndexOf(':'))].Trim(),
                    t =>
                        Enum.TryParse<Presence>(t[(t.LastIndexOf(':') + 1)..].Trim(), ignoreCase: true, out var presence)
                            ? presence
                            : throw r.Wrong("Presence by channel", "lines such as “Banners: required”")
                ),
            List = r.Word("List", ListKind.None),
            DateForm = r.Word("Date form", DateForm.Month),
            Fixed = r.TextOrNull("Fixed value"),
            Pattern =
                parts.Count == 0
                    ? null
                    : new PatternDocument
                    {
                        Separator = parts[0].Text("Separator"),
                        Parts =
                        [
                            .. parts.Select(p => new NamePart
                            {
                                Kind = p.Word("Part", NamePartKind.Field),
                                Of = p.Text("Of"),
                                Form = p.Word("Date form", DateForm.Month),
                                Filler = p.TextOrNull("If missing"),
                            }),
                        ],
                    },
            Case = r.Word("Case", LetterCase.Lower),
            Space = r.Word("Space", SpaceRule.Underscore),
            Characters = r.Word("Characters", CharacterSet.Anything),
            Outside = r.Word("Other characters", OutsideSet.Remove),
            Transliterate = r.Yes("Plain letters"),
            LongestValue = r.Whole("Longest value", 200),
            HoldsNumbers = r.Yes("Holds numbers"),
            AlsoRead = r.Texts("Also read from"),
            Hint = r.TextOrNull("Hint"),
            Example = r.TextOrNull("Example"),
            Words =
            [
                .. words.Select(w => new WordDocument
                {
                    Written = w.Text("Word"),
                    Label = w.Text("Label"),
                    Aliases = w.Texts("Other names"),
                    Retired = w.Yes("Retired"),
                    Successor = w.TextOrNull("Use instead"),
                }),
            ],
        };

    private static ChannelDocument ChannelOf(IGrouping<string, SheetRow> rows) =>
        new()
        {
            Name = rows.Key,
            Group = rows.First().Text("Group"),
            Conditions =
            [
                .. rows.Where(r => r.Text("Subject").Length > 0)
                    .Select(r => new ConditionDocument
                    {
                        Subject = r.Word("Subject", ChannelSubject.Medium),
                        Test = r.Word("Test", ChannelTest.Is),
                        Values = r.Texts("Values"),
                    }),
            ],
        };

    /// <summary>Nothing is silently dropped: a word or part of a field that isn't there is named.</summary>
    private static void ThrowIfOrphaned(List<FieldDocument> fields, IEnumerable<SheetRow> rows)
    {
        if (rows.FirstOrDefault(r => fields.All(f => f.Key != r.Text("Field"))) is { } orphan)
        {
            throw orphan.Wrong("Field", "the key of one of the fields");
        }
    }

    private static void ThrowIfNoWorkbook(Stream workbook)
    {
        try
        {
            using var zip = new ZipArchive(workbook, ZipArchiveMode.Read, leaveOpen: true);
            if (zip.GetEntry("xl/workbook.xml") is null)
            {
                throw new ConventionException("The file isn't an XLSX workbook, although its name says so.");
            }

            // The sizes told by the file may lie, so what is really there is counted.
            byte[] buffer = new byte[1 << 16];
            long unfolded = 0;
            foreach (var entry in zip.Entries)
            {
                using var content = entry.Open();
                for (int read = content.Read(buffer); read > 0; read = content.Read(buffer))
                {
                    unfolded += read;
                    if (unfolded > LargestUnfolded)
                    {
                        throw new ConventionException("The workbook unpacks to more than 64 MB; no convention is that large.");
                    }
                }
            }
        }
        catch (InvalidDataException broken)
        {
            throw new ConventionException("The file isn't an XLSX workbook, although its name says so.", broken);
        }

        workbook.Position = 0;
    }

    private static Dictionary<string, object> Row(params (string Heading, object Value)[] cells) =>
        cells.ToDictionary(c => c.Heading, c => c.Value);

    private static string Word<T>(T word)
        where T : struct, Enum => SheetRow.Camel(word.ToString());

    private static string Lines(IEnumerable<string> texts) => string.Join(SheetRow.Between, texts);

    private static string YesNo(bool yes) => yes ? "yes" : "no";
}
