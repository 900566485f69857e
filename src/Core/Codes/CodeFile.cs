using System.Text;

namespace PreciseBeacon.Core.Codes;

/// <summary>A code as a file of any format.</summary>
public static class CodeFile
{
    /// <summary>Its media type.</summary>
    public static string TypeOf(CodeFormat format) =>
        format switch
        {
            CodeFormat.Svg => "image/svg+xml; charset=utf-8",
            CodeFormat.Png => "image/png",
            CodeFormat.Jpg => "image/jpeg",
            CodeFormat.Pdf => "application/pdf",
            _ => "application/postscript",
        };

    /// <summary>The ending of its name, with the dot.</summary>
    public static string EndingOf(CodeFormat format) =>
        format switch
        {
            CodeFormat.Svg => ".svg",
            CodeFormat.Png => ".png",
            CodeFormat.Jpg => ".jpg",
            CodeFormat.Pdf => ".pdf",
            _ => ".eps",
        };

    /// <summary>Draws it.</summary>
    /// <param name="drawing">The code.</param>
    /// <param name="format">The format.</param>
    /// <param name="now">Written into formats that say when they were made.</param>
    public static byte[] Draw(CodeDrawing drawing, CodeFormat format, DateTimeOffset now)
    {
        int dots = CodeSize.Of(drawing.Width, drawing.Style.Millimetres, drawing.Style.DotsPerInch).DotsPerModule;
        return format switch
        {
            CodeFormat.Svg => Encoding.UTF8.GetBytes(CodeSvg.Draw(drawing)),
            CodeFormat.Png => CodePicture.Png(drawing, dots),
            CodeFormat.Jpg => CodePicture.Jpeg(drawing, dots),
            CodeFormat.Pdf => CodePdf.Draw(drawing, now),
            _ => Encoding.ASCII.GetBytes(CodeEps.Draw(drawing)),
        };
    }
}

/// <summary>The kind of file a code is written into.</summary>
public enum CodeFormat
{
    Svg,
    Png,
    Jpg,
    Pdf,
    Eps,
}
