using System.Globalization;
using System.Text;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Spreadsheet;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// The sheet to fill as an XLSX workbook (ECMA-376): word lists as drop-downs, lists that follow another choice, required
/// cells marked, hints as comments at the headings. Only the drop-downs have formulas; no cell has.
/// </summary>
public static class WorkbookToFill
{
    private const int LastRow = 2_001;
    private const string LinksName = "Links";
    private const string WordsName = "Words";

    /// <summary>Columns the lists take on the sheet of words, so far.</summary>
    private sealed class Words
    {
        public List<List<string>> Columns { get; } = [];

        /// <summary>Puts a list there and says where it stands.</summary>
        public string Add(string heading, IReadOnlyList<string> words)
        {
            Columns.Add([heading, .. words]);
            return $"{WordsName}!${Letter(Columns.Count - 1)}$2:${Letter(Columns.Count - 1)}${Math.Max(2, words.Count + 1)}";
        }
    }

    /// <summary>Writes the workbook.</summary>
    public static byte[] Write(IReadOnlyList<FillColumn> columns)
    {
        using var file = new MemoryStream();
        using (var document = SpreadsheetDocument.Create(file, SpreadsheetDocumentType.Workbook))
        {
            var workbook = document.AddWorkbookPart();
            workbook.AddNewPart<WorkbookStylesPart>().Stylesheet = Styles();
            var words = new Words();
            var links = workbook.AddNewPart<WorksheetPart>();
            var validations = columns.Select((c, i) => Validation(columns, c, i, words)).OfType<DataValidation>().ToList();
            links.Worksheet = new Worksheet(
                new SheetViews(
                    new SheetView(
                        new Pane
                        {
                            VerticalSplit = 1,
                            TopLeftCell = "A2",
                            ActivePane = PaneValues.BottomLeft,
                            State = PaneStateValues.Frozen,
                        }
                    )
                    {
                        WorkbookViewId = 0,
                        TabSelected = true,
                    }
                ),
                new Columns(
                    columns.Select(
                        (c, i) =>
                            new Column
                            {
                                Min = (uint)i + 1,
                                Max = (uint)i + 1,
                                Width = i == 0 ? 48 : 22,
                                CustomWidth = true,
                            }
                    )
                ),
                new SheetData(new Row(columns.Select((c, i) => Text(Letter(i) + "1", c.Heading, c.IsRequired ? 2u : 1u))) { RowIndex = 1 })
            );
            foreach (var (column, i) in columns.Select((c, i) => (c, i)).Where(c => c.c.IsRequired))
            {
                links.Worksheet.Append(MarkEmpty(columns.Count, i));
            }

            if (validations.Count > 0)
            {
                links.Worksheet.Append(new DataValidations(validations) { Count = (uint)validations.Count });
            }

            AddComments(links, columns);
            var lists = workbook.AddNewPart<WorksheetPart>();
            lists.Worksheet = new Worksheet(
                new SheetData(
                    Enumerable
                        .Range(0, words.Columns.Select(c => c.Count).DefaultIfEmpty(0).Max())
                        .Select(r => new Row(
                            words
                                .Columns.Select((c, i) => (Cells: c, i))
                                .Where(c => r < c.Cells.Count)
                                .Select(c => Text($"{Letter(c.i)}{r + 1}", c.Cells[r], r == 0 ? 1u : 0u))
                        )
                        {
                            RowIndex = (uint)r + 1,
                        })
                )
            );
            workbook.Workbook = new Workbook(
                new Sheets(
                    new Sheet
                    {
                        Name = LinksName,
                        SheetId = 1,
                        Id = workbook.GetIdOfPart(links),
                    },
                    new Sheet
                    {
                        Name = WordsName,
                        SheetId = 2,
                        Id = workbook.GetIdOfPart(lists),
                    }
                )
            );
        }

        return file.ToArray();
    }

    private static DataValidation? Validation(IReadOnlyList<FillColumn> columns, FillColumn column, int at, Words words)
    {
        if (column.Words is not { Count: > 0 } all)
        {
            return null;
        }

        string list = words.Add(column.Heading, all);
        int by = columns.ToList().FindIndex(c => c.Target == column.NarrowedBy);
        if (by >= 0 && column.Narrowed.Count > 0)
        {
            // Pairs of choice and word, each choice's words together, so that a stretch of them can be found.
            var pairs = column.Narrowed.SelectMany(n => n.Value.Select(w => (n.Key, Word: w))).ToList();
            string keys = words.Add($"{columns[by].Heading} →", [.. pairs.Select(p => p.Key)]);
            string narrowed = words.Add($"→ {column.Heading}", [.. pairs.Select(p => p.Word)]);
            string choice = $"${Letter(by)}2";
            string first = narrowed[..narrowed.IndexOf(':', StringComparison.Ordinal)];
            list = $"IF(COUNTIF({keys},{choice})=0,{list},OFFSET({first},MATCH({choice},{keys},0)-1,0,COUNTIF({keys},{choice}),1))";
        }

        string place = $"{Letter(at)}2:{Letter(at)}{LastRow}";
        return new DataValidation(new Formula1(list))
        {
            Type = DataValidationValues.List,
            AllowBlank = true,
            ShowErrorMessage = true,
            ErrorStyle = column.IsClosed ? DataValidationErrorStyleValues.Stop : DataValidationErrorStyleValues.Warning,
            ErrorTitle = Short(column.Heading, 32),
            Error = column.IsClosed
                ? "Choose a word of the list; others are not allowed."
                : "This is not in the list. You can keep it; the link gets a warning.",
            SequenceOfReferences = new ListValue<StringValue> { InnerText = place },
        };
    }

    /// <summary>In rows that were begun, a required cell that is still empty is coloured.</summary>
    private static ConditionalFormatting MarkEmpty(int columns, int at) =>
        new(
            new ConditionalFormattingRule(new Formula($"AND(COUNTA($A2:${Letter(columns - 1)}2)>0,LEN(TRIM({Letter(at)}2))=0)"))
            {
                Type = ConditionalFormatValues.Expression,
                FormatId = 0,
                Priority = at + 1,
            }
        )
        {
            SequenceOfReferences = new ListValue<StringValue> { InnerText = $"{Letter(at)}2:{Letter(at)}{LastRow}" },
        };

    private static void AddComments(WorksheetPart sheet, IReadOnlyList<FillColumn> columns)
    {
        var hints = columns.Select((c, i) => (c.Hint, Column: i)).Where(h => h.Hint.Length > 0).ToList();
        sheet.AddNewPart<WorksheetCommentsPart>().Comments = new Comments(
            new Authors(new Author("Precise Beacon")),
            new CommentList(
                hints.Select(h => new Comment(new CommentText(new DocumentFormat.OpenXml.Spreadsheet.Text(PlainWorkbook.Printable(h.Hint))))
                {
                    Reference = $"{Letter(h.Column)}1",
                    AuthorId = 0,
                })
            )
        );

        // Comments need their boxes in the older drawing language (ECMA-376 part 4, 19).
        var boxes = new StringBuilder(
            "<xml xmlns:v=\"urn:schemas-microsoft-com:vml\" xmlns:o=\"urn:schemas-microsoft-com:office:office\" xmlns:x=\"urn:schemas-microsoft-com:office:excel\">"
        ).Append(
            "<v:shapetype id=\"note\" coordsize=\"21600,21600\" o:spt=\"202\" path=\"m,l,21600r21600,l21600,xe\"><v:stroke joinstyle=\"miter\"/><v:path gradientshapeok=\"t\" o:connecttype=\"rect\"/></v:shapetype>"
        );
        foreach (var (_, column) in hints)
        {
            boxes
                .Append(
                    CultureInfo.InvariantCulture,
                    $"<v:shape id=\"note{column}\" type=\"#note\" style=\"position:absolute;visibility:hidden\" fillcolor=\"#f6f4ef\" o:insetmode=\"auto\"><v:fill color2=\"#f6f4ef\"/><x:ClientData ObjectType=\"Note\"><x:MoveWithCells/><x:SizeWithCells/>"
                )
                .Append(
                    CultureInfo.InvariantCulture,
                    $"<x:Anchor>{column + 1},15,0,10,{column + 3},15,5,4</x:Anchor><x:AutoFill>False</x:AutoFill><x:Row>0</x:Row><x:Column>{column}</x:Column></x:ClientData></v:shape>"
                );
        }

        var drawing = sheet.AddNewPart<VmlDrawingPart>();
        using (var content = new MemoryStream(Encoding.UTF8.GetBytes(boxes.Append("</xml>").ToString())))
        {
            drawing.FeedData(content);
        }

        sheet.Worksheet!.Append(new LegacyDrawing { Id = sheet.GetIdOfPart(drawing) });
    }

    private static Stylesheet Styles() =>
        new(
            new Fonts(new Font(), new Font(new Bold())),
            new Fills(
                new Fill(new PatternFill { PatternType = PatternValues.None }),
                new Fill(new PatternFill { PatternType = PatternValues.Gray125 }),
                Plain("FFE2DDD3"),
                Plain("FFE3C9D8")
            ),
            new Borders(new Border()),
            new CellStyleFormats(new CellFormat()),
            new CellFormats(
                new CellFormat(),
                new CellFormat
                {
                    FontId = 1,
                    FillId = 2,
                    ApplyFont = true,
                    ApplyFill = true,
                },
                new CellFormat
                {
                    FontId = 1,
                    FillId = 3,
                    ApplyFont = true,
                    ApplyFill = true,
                }
            ),
            new CellStyles(
                new CellStyle
                {
                    Name = "Normal",
                    FormatId = 0,
                    BuiltinId = 0,
                }
            ),
            new DifferentialFormats(new DifferentialFormat(new Fill(new PatternFill(new BackgroundColor { Rgb = "FFE3C9D8" }))))
        );

    private static Fill Plain(string colour) =>
        new(new PatternFill(new ForegroundColor { Rgb = colour }) { PatternType = PatternValues.Solid });

    private static Cell Text(string reference, string text, uint style) =>
        new()
        {
            CellReference = reference,
            StyleIndex = style,
            DataType = CellValues.InlineString,
            InlineString = new InlineString(new Text(PlainWorkbook.Printable(text)) { Space = SpaceProcessingModeValues.Preserve }),
        };

    private static string Short(string text, int most) => text.Length <= most ? text : text[..most];

    private static string Letter(int column) => BatchResult.LetterOf(column);
}
