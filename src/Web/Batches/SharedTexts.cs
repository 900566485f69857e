using System.Buffers;
using System.Text;
using System.Xml;
using DocumentFormat.OpenXml.Packaging;

namespace PreciseBeacon.Web.Batches;

/// <summary>The strings cells share, as UTF-8 in one piece: ten million short ones take what they say and four octets each.</summary>
internal sealed class SharedTexts
{
    private readonly ArrayBufferWriter<byte> _texts = new();
    private readonly List<int> _ends = [];

    /// <summary>A string by its number; empty for one there is not.</summary>
    public string At(int index)
    {
        if (index < 0 || index >= _ends.Count)
        {
            return "";
        }

        int from = index == 0 ? 0 : _ends[index - 1];
        return Encoding.UTF8.GetString(_texts.WrittenSpan[from.._ends[index]]);
    }

    /// <summary>Reads the part of the strings; null for a workbook that has none.</summary>
    public static SharedTexts Read(SharedStringTablePart? part)
    {
        var texts = new SharedTexts();
        if (part is null)
        {
            return texts;
        }

        using var stream = part.GetStream();
        using var reader = XmlReader.Create(stream, WorkbookReader.Settings);
        int aids = 0;
        var one = new StringBuilder();
        while (reader.Read())
        {
            switch (reader.NodeType)
            {
                case XmlNodeType.Element when reader.LocalName == "si" && reader.IsEmptyElement:
                    texts.Add("");
                    break;
                case XmlNodeType.Element when reader.LocalName == "rPh" && !reader.IsEmptyElement:
                    aids++;
                    break;
                case XmlNodeType.EndElement when reader.LocalName == "rPh":
                    aids--;
                    break;
                case XmlNodeType.Element when reader.LocalName == "t" && !reader.IsEmptyElement:
                    string text = WorkbookReader.TextInside(reader);
                    one.Append(aids == 0 ? text : "");
                    break;
                case XmlNodeType.EndElement when reader.LocalName == "si":
                    texts.Add(WorkbookReader.Unescaped(one.ToString()));
                    one.Clear();
                    break;
            }
        }

        return texts;
    }

    private void Add(string text)
    {
        // Half characters have no octets of their own; they become the sign for what can't be read.
        int most = Encoding.UTF8.GetMaxByteCount(text.Length);
        _texts.Advance(Encoding.UTF8.GetBytes(text, _texts.GetSpan(Math.Max(1, most))));
        _ends.Add(_texts.WrittenCount);
    }
}
