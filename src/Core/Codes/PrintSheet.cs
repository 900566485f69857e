using SkiaSharp;

namespace PreciseBeacon.Core.Codes;

/// <summary>Lays codes with their captions out on sheets of paper, as a PDF in outlines.</summary>
public static class PrintSheet
{
    private const float Scale = CodePdf.PointsPerMillimetre;
    private const float MarkLength = 4;
    private const float MarkAway = 1;
    private const float HairLine = 0.15f;
    private const float LabelEdge = 2;

    /// <param name="codes">The codes in their order.</param>
    /// <param name="layout">The sheet.</param>
    /// <param name="skip">Labels at the beginning that are gone already.</param>
    /// <param name="cutMarks">Whether marks say where to cut.</param>
    /// <param name="now">Written into the file.</param>
    /// <param name="cancel">Gives up.</param>
    public static byte[] Draw(
        IReadOnlyList<CodeDrawing> codes,
        SheetLayout layout,
        int skip,
        bool cutMarks,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        using var file = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                file,
                new SKDocumentPdfMetadata
                {
                    Title = "Codes",
                    Creation = now.UtcDateTime,
                    RasterDpi = 600,
                    EncodingQuality = 101,
                }
            )
        )
        {
            int page = -1;
            SKCanvas? canvas = null;
            for (int i = 0; i < codes.Count; i++)
            {
                cancel.ThrowIfCancellationRequested();
                var (on, left, top) = layout.PlaceOf(skip + i);
                if (on != page)
                {
                    if (canvas is not null)
                    {
                        document.EndPage();
                    }

                    page = on;
                    canvas = document.BeginPage((float)layout.PageWidth * Scale, (float)layout.PageHeight * Scale);
                    canvas.Scale(Scale);
                    if (cutMarks)
                    {
                        Marks(canvas, layout);
                    }
                }

                Label(canvas!, codes[i], (float)left, (float)top, layout);
            }

            document.EndPage();
            document.Close();
        }

        return file.ToArray();
    }

    /// <summary>The largest side a code can have on a label, its caption included.</summary>
    public static float SideOn(CodeDrawing code, SheetLayout layout)
    {
        float room = Math.Min((float)layout.Width, ((float)layout.Height) * code.Width / code.Height) - (2 * LabelEdge);
        return Math.Min(room, (float)code.Style.Millimetres);
    }

    private static void Label(SKCanvas canvas, CodeDrawing code, float left, float top, SheetLayout layout)
    {
        float side = SideOn(code, layout);
        float height = side * code.Height / code.Width;
        canvas.Save();
        canvas.Translate(left + (((float)layout.Width - side) / 2), top + (((float)layout.Height - height) / 2));
        canvas.Scale(side / code.Width);
        using var logo = code.Style.Logo is { } png ? SKImage.FromEncodedData(png) : null;
        code.Draw(canvas, logo);
        canvas.Restore();
    }

    /// <summary>Short lines outside the labels, at each edge where the knife goes.</summary>
    private static void Marks(SKCanvas canvas, SheetLayout layout)
    {
        using var ink = new SKPaint
        {
            Color = SKColors.Black,
            IsStroke = true,
            StrokeWidth = HairLine,
        };
        var (right, bottom) = (
            (float)(layout.Left + (layout.Columns * layout.Width) + ((layout.Columns - 1) * layout.GapAcross)),
            (float)(layout.Top + (layout.Rows * layout.Height) + ((layout.Rows - 1) * layout.GapDown))
        );
        var (first, upper) = ((float)layout.Left, (float)layout.Top);
        foreach (float x in Edges(layout.Columns, layout.Left, layout.Width, layout.GapAcross))
        {
            canvas.DrawLine(x, upper - MarkAway - MarkLength, x, upper - MarkAway, ink);
            canvas.DrawLine(x, bottom + MarkAway, x, bottom + MarkAway + MarkLength, ink);
        }

        foreach (float y in Edges(layout.Rows, layout.Top, layout.Height, layout.GapDown))
        {
            canvas.DrawLine(first - MarkAway - MarkLength, y, first - MarkAway, y, ink);
            canvas.DrawLine(right + MarkAway, y, right + MarkAway + MarkLength, y, ink);
        }
    }

    private static IEnumerable<float> Edges(int count, decimal first, decimal size, decimal gap) =>
        Enumerable
            .Range(0, count)
            .SelectMany(i => new[] { first + (i * (size + gap)), first + (i * (size + gap)) + size })
            .Distinct()
            .Select(e => (float)e);
}
