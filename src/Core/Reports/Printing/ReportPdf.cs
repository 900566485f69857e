using PreciseBeacon.Core.Codes;
using SkiaSharp;

namespace PreciseBeacon.Core.Reports.Printing;

/// <summary>
/// Draws a report as a PDF of one or two pages (ISO 216 A4, lying): the course over time as bars from zero, then the rows as lines of
/// stations, as the board has them. Texts stay texts, and the signs they need go into the file.
/// </summary>
public sealed class ReportPdf : IDisposable
{
    /// <summary>Rows that two pages have room for, that of everything among them.</summary>
    public const int MostRows = 30;

    private const float Width = 297 * CodePdf.PointsPerMillimetre;
    private const float Height = 210 * CodePdf.PointsPerMillimetre;
    private const float Edge = 14 * CodePdf.PointsPerMillimetre;
    private const float RowHeight = 25;
    private const float CourseHeight = 46;
    private const float StationWidth = 78;
    private const float ColumnWidth = 74;
    private const float LargestDot = 5.2f;
    private const float SmallestDot = 1.2f;
    private const float EverythingDot = 2.8f;
    private const float Body = 8;
    private const float Small = 6.2f;
    private const float Large = 15;
    private const int MostNotes = 6;

    private static readonly SKColor Ink = new(0x1E, 0x22, 0x30);
    private static readonly SKColor Quiet = new(0x62, 0x5F, 0x5A);
    private static readonly SKColor Line = new(0xE2, 0xDD, 0xD3);
    private static readonly SKColor Strong = new(0xB9, 0xB2, 0xA4);
    private static readonly SKColor Accent = new(0x6A, 0x2C, 0x55);

    /// <summary>Told apart by their names beside them, not by colour alone.</summary>
    private static readonly SKColor[] Strokes =
    [
        Accent,
        Ink,
        new(0x1F, 0x6F, 0x8B),
        new(0x9A, 0x5B, 0x12),
        new(0x3F, 0x7A, 0x3A),
        new(0x8A, 0x2F, 0x2F),
    ];

    private readonly PrintedReport _report;
    private readonly SKDocument _document;
    private readonly SKPaint _fill = new() { IsAntialias = true };
    private readonly SKPaint _stroke = new()
    {
        IsAntialias = true,
        IsStroke = true,
        StrokeWidth = 0.5f,
    };
    private readonly decimal[] _most;
    private SKCanvas _canvas = null!;
    private float _y;
    private int _page;

    private ReportPdf(PrintedReport report, SKDocument document)
    {
        (_report, _document) = (report, document);

        // Rows compare with each other; everything stands apart.
        _most =
        [
            .. report.Stations.Select(
                (_, i) => report.Rows.Skip(1).SelectMany(r => new[] { r.Stations[i].Size, r.Stations[i].Before }).Max() ?? 0
            ),
        ];
    }

    /// <summary>The report as a file.</summary>
    /// <param name="report">What it says.</param>
    /// <param name="now">Written into the file.</param>
    /// <param name="cancel">Gives up.</param>
    public static byte[] Draw(PrintedReport report, DateTimeOffset now, CancellationToken cancel)
    {
        using var file = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                file,
                new SKDocumentPdfMetadata
                {
                    Title = $"{report.Title} · {report.Workspace}",
                    Creation = now.UtcDateTime,
                    EncodingQuality = 101,
                }
            )
        )
        {
            using var pdf = new ReportPdf(report, document);
            pdf.Draw(cancel);
            document.Close();
        }

        return file.ToArray();
    }

    public void Dispose()
    {
        _fill.Dispose();
        _stroke.Dispose();
    }

    private void Draw(CancellationToken cancel)
    {
        Begin();
        Text(_report.Workspace, Edge, _y += Small, Small, Quiet);
        Text(_report.Title, Edge, _y += Large + 4, Large, Ink, Width - (2 * Edge));
        foreach (string line in _report.Lines.SelectMany(l => CaptionFont.Lines(l, Body, Width - (2 * Edge), 3)))
        {
            Text(line, Edge, _y += Body + 4, Body, Quiet);
        }

        _y += 12;
        if (_report.Courses.Count > 0)
        {
            Courses();
        }
        else
        {
            Course();
        }

        Heads();
        for (int i = 0; i < _report.Rows.Count; i++)
        {
            cancel.ThrowIfCancellationRequested();
            if (_y + RowHeight > Height - Edge - 14)
            {
                End();
                Begin();
                Heads();
            }

            Row(_report.Rows[i], isEverything: i == 0);
        }

        if (_report.More.Length > 0 && _y + 14 < Height - Edge - 10)
        {
            Text(_report.More, Edge, _y += 14, Body, Quiet);
        }

        Notes();
        End();
    }

    private void Begin()
    {
        _canvas = _document.BeginPage(Width, Height);
        _y = Edge;
        _page++;
    }

    private void End()
    {
        Text($"{_report.Foot} · page {_page}", Edge, Height - Edge + 4, Small, Quiet);
        _document.EndPage();
    }

    /// <summary>Visits over time, from zero.</summary>
    private void Course()
    {
        float bottom = _y + CourseHeight;
        long most = Math.Max(1, _report.Course.Select(p => p.Visits).DefaultIfEmpty().Max());
        float step = (Width - (2 * Edge)) / Math.Max(1, _report.Course.Count);
        _fill.Color = Accent;
        for (int i = 0; i < _report.Course.Count; i++)
        {
            float tall = (float)_report.Course[i].Visits / most * (CourseHeight - 10);
            _canvas.DrawRect(Edge + ((i + 0.12f) * step), bottom - tall, Math.Max(0.4f, step * 0.76f), tall, _fill);
        }

        _stroke.Color = Strong;
        _canvas.DrawLine(Edge, bottom, Width - Edge, bottom, _stroke);
        if (_report.Course is [var first, .., var last])
        {
            Text(first.Name, Edge, bottom + 9, Small, Quiet);
            TextTo(last.Name, Width - Edge, bottom + 9, Small, Quiet);
            TextTo($"at most {most:N0} visits", Width - Edge, _y + 5, Small, Quiet);
        }

        _y = bottom + 20;
    }

    /// <summary>Visits of several by their own days, as lines from the same edge, each named at its highest day.</summary>
    private void Courses()
    {
        const float tall = CourseHeight * 2;
        float bottom = _y + tall;
        long most = Math.Max(1, _report.Courses.Max(c => c.Visits.Max()));
        int longest = _report.Courses.Max(c => c.Visits.Count);
        float step = (Width - (2 * Edge)) / Math.Max(1, longest - 1);
        float At(long visits) => bottom - ((float)visits / most * (tall - 14));
        _stroke.Color = Strong;
        _canvas.DrawLine(Edge, bottom, Width - Edge, bottom, _stroke);
        for (int i = 0; i < _report.Courses.Count; i++)
        {
            var course = _report.Courses[i];
            var colour = Strokes[i % Strokes.Length];
            _stroke.Color = colour;
            _stroke.StrokeWidth = 1;
            for (int day = 1; day < course.Visits.Count; day++)
            {
                _canvas.DrawLine(
                    Edge + ((day - 1) * step),
                    At(course.Visits[day - 1]),
                    Edge + (day * step),
                    At(course.Visits[day]),
                    _stroke
                );
            }

            _stroke.StrokeWidth = 0.5f;
            int top = course.Visits.ToList().IndexOf(course.Visits.Max());
            string says = $"{CaptionFont.Cut(course.Name, Small, 160)}: {course.Visits[top]:N0} on day {top + 1}";
            float left = Math.Min(Edge + (top * step) + 3, Width - Edge - CaptionFont.Width(says, Small));
            Text(says, left, At(course.Visits[top]) - 3, Small, colour);
        }

        Text("day 1", Edge, bottom + 9, Small, Quiet);
        TextTo($"day {longest}", Width - Edge, bottom + 9, Small, Quiet);
        _y = bottom + 20;
    }

    private void Heads()
    {
        Text(_report.Head, Edge, _y + Body, Small, Quiet, NameWidth - 8);
        for (int i = 0; i < _report.Stations.Count; i++)
        {
            TextAt(_report.Stations[i], StationAt(i), _y + Body, Small, Quiet);
        }

        for (int i = 0; i < _report.Columns.Count; i++)
        {
            TextTo(CaptionFont.Cut(_report.Columns[i], Small, ColumnWidth - 6), ColumnEnd(i), _y + Body, Small, Quiet);
        }

        _y += Body + 5;
        Rule();
    }

    private void Row(PrintedRow row, bool isEverything)
    {
        float middle = _y + 8,
            number = _y + RowHeight - 5;
        Text(row.Name, Edge, row.Note.Length > 0 ? _y + 11 : _y + 15, Body, Ink, NameWidth - 10);
        if (row.Note.Length > 0)
        {
            Text(row.Note, Edge, _y + 20, Small, Quiet, NameWidth - 10);
        }

        _stroke.Color = Strong;
        if (_report.Stations.Count > 1)
        {
            _canvas.DrawLine(StationAt(0), middle, StationAt(_report.Stations.Count - 1), middle, _stroke);
        }

        for (int i = 0; i < row.Stations.Count; i++)
        {
            var figure = row.Stations[i];
            float x = StationAt(i);
            _fill.Color = isEverything ? Ink : Accent;
            float radius = isEverything ? (figure.Size > 0 ? EverythingDot : 0) : RadiusOf(figure.Size, _most[i]);
            if (radius > 0)
            {
                _canvas.DrawCircle(x, middle, radius, _fill);
            }

            float before = isEverything ? 0 : RadiusOf(figure.Before, _most[i]);
            if (before > 0)
            {
                _stroke.Color = Quiet;
                _canvas.DrawCircle(x, middle, before, _stroke);
            }

            if (figure.Between.Length > 0 && i > 0)
            {
                TextAt(figure.Between, x - (StationWidth / 2), _y + 6, Small, Quiet);
            }

            TextAt(figure.Text, x, number, Body, Ink);
            if (figure.Difference.Length > 0)
            {
                Text(figure.Difference, x + (CaptionFont.Width(figure.Text, Body) / 2) + 3, number, Small - 1, Quiet);
            }
        }

        for (int i = 0; i < row.Columns.Count; i++)
        {
            TextTo(row.Columns[i].Text, ColumnEnd(i), _y + 13, Body, Ink);
            TextTo(row.Columns[i].Difference, ColumnEnd(i), _y + 21, Small - 1, Quiet);
        }

        _y += RowHeight;
        Rule();
    }

    /// <summary>Notes on the days, as many as there is room for.</summary>
    private void Notes()
    {
        if (_report.Notes.Count == 0 || _y + 34 > Height - Edge - 10)
        {
            return;
        }

        Text("Notes on these days", Edge, _y += 20, Body, Ink);
        foreach (string note in _report.Notes.Take(MostNotes))
        {
            if (_y + 12 > Height - Edge - 10)
            {
                return;
            }

            Text(note, Edge, _y += 12, Body, Quiet, Width - (2 * Edge));
        }
    }

    /// <summary>Areas are to each other as the figures are; nothing that is there is drawn smaller than can be seen.</summary>
    private static float RadiusOf(decimal? size, decimal most) =>
        size is { } known && known > 0 && most > 0 ? Math.Max(SmallestDot, LargestDot * (float)Math.Sqrt((double)(known / most))) : 0;

    private float NameWidth => Width - (2 * Edge) - (_report.Stations.Count * StationWidth) - (_report.Columns.Count * ColumnWidth);

    private float StationAt(int i) => Edge + NameWidth + ((i + 0.5f) * StationWidth);

    private float ColumnEnd(int i) => Edge + NameWidth + (_report.Stations.Count * StationWidth) + ((i + 1) * ColumnWidth);

    private void Rule()
    {
        _stroke.Color = Line;
        _canvas.DrawLine(Edge, _y, Width - Edge, _y, _stroke);
    }

    private void Text(string text, float left, float y, float size, SKColor colour, float room = float.MaxValue)
    {
        string shown = room == float.MaxValue ? text : CaptionFont.Cut(text, size, room);
        if (shown.Length > 0)
        {
            _fill.Color = colour;
            CaptionFont.Write(_canvas, shown, left, y, size, _fill);
        }
    }

    private void TextAt(string text, float middle, float y, float size, SKColor colour) =>
        Text(text, middle - (CaptionFont.Width(text, size) / 2), y, size, colour);

    private void TextTo(string text, float end, float y, float size, SKColor colour) =>
        Text(text, end - CaptionFont.Width(text, size), y, size, colour);
}
