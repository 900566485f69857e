using System.Text;
using CsvHelper;

namespace PreciseBeacon.Core.Batches;

/// <summary>Reads and writes separated text (RFC 4180, and its kin with other separators).</summary>
public static class TableText
{
    private static readonly char[] Separators = [',', ';', '\t', '|'];

    /// <summary>The separator that cuts a text's first lines most evenly into most cells; a comma when none does.</summary>
    public static char SeparatorOf(string text)
    {
        string head = text[..Math.Min(text.Length, 64 * 1024)];
        char best = ',';
        double most = 0;
        foreach (char separator in Separators)
        {
            var counts = Rows(head, separator, whole: false).Take(20).Select(r => r.Count).ToList();
            if (counts.Count > 1 && head.Length < text.Length)
            {
                counts.RemoveAt(counts.Count - 1); // cut off in the middle
            }

            // A line or two of what the file is about may stand above, so the width that most lines have counts.
            double cells = counts
                .Where(c => c > 1)
                .GroupBy(c => c)
                .Where(g => g.Count() * 2 > counts.Count || g.Key == counts[0])
                .Select(g => g.Key * (double)g.Count() / counts.Count)
                .DefaultIfEmpty(0)
                .Max();
            if (cells > most)
            {
                (best, most) = (separator, cells);
            }
        }

        return best;
    }

    /// <summary>How a text writes its rows, told by its first lines: what ends a row, and whether every cell is quoted.</summary>
    public static TextForm FormOf(string text, char separator)
    {
        string head = text[..Math.Min(text.Length, 64 * 1024)];
        bool inside = false,
            begins = true,
            all = true;
        int feeds = 0,
            both = 0,
            cells = 0;
        for (int i = 0; i < head.Length; i++)
        {
            char c = head[i];
            if (begins && (c is not ('\r' or '\n') || (i > 0 && head[i - 1] == separator)))
            {
                all &= c == '"';
                cells++;
            }

            begins = false;
            if (c == '"')
            {
                inside = !inside;
            }
            else if (!inside && c == separator)
            {
                begins = true;
            }
            else if (!inside && c == '\n')
            {
                begins = true;
                feeds++;
                both += i > 0 && head[i - 1] == '\r' ? 1 : 0;
            }
        }

        return new TextForm(separator, feeds > 0 && both * 2 < feeds ? "\n" : "\r\n", all && cells > 0);
    }

    /// <summary>Reads rows one by one, as they are asked for.</summary>
    /// <param name="text">The text; a file's mark is gone already.</param>
    /// <param name="separator">What stands between cells.</param>
    /// <exception cref="FormatException">Quotation marks don't match; the message names the row. Thrown while rows are asked for.</exception>
    public static IEnumerable<IReadOnlyList<string>> Rows(string text, char separator) => Rows(text, separator, whole: true);

    /// <summary>Reads a table.</summary>
    /// <param name="text">The text; a file's mark is gone already.</param>
    /// <param name="separator">What stands between cells.</param>
    /// <param name="headingRow">Row with the headings, counted from 1; rows above it are left out.</param>
    /// <exception cref="FormatException">Quotation marks don't match; the message names the row.</exception>
    public static Table Read(string text, char separator, int headingRow = 1)
    {
        var rows = Rows(text, separator).ToList();
        return new Table(rows.Count < headingRow ? [] : rows[headingRow - 1], [.. rows.Skip(headingRow)]);
    }

    /// <summary>Writes rows; a cell is quoted only where it must be.</summary>
    /// <param name="rows">Headings first.</param>
    /// <param name="separator">What stands between cells.</param>
    public static string Write(IEnumerable<IReadOnlyList<string>> rows, char separator) => Write(rows, new TextForm(separator));

    /// <summary>Writes rows in the form another text has.</summary>
    /// <param name="rows">Headings first.</param>
    /// <param name="form">The form.</param>
    public static string Write(IEnumerable<IReadOnlyList<string>> rows, TextForm form)
    {
        var text = new StringBuilder();
        foreach (var row in rows)
        {
            for (int i = 0; i < row.Count; i++)
            {
                if (i > 0)
                {
                    text.Append(form.Separator);
                }

                Append(text, row[i], form, row.Count == 1);
            }

            text.Append(form.LineEnd);
        }

        return text.ToString();
    }

    private static void Append(StringBuilder text, string cell, TextForm form, bool alone)
    {
        // A line that holds nothing but one empty cell would be no line at all.
        bool quoted =
            form.AllQuoted
            || cell.AsSpan().IndexOfAny('"', '\r', '\n') >= 0
            || cell.Contains(form.Separator, StringComparison.Ordinal)
            || (alone && cell.Length == 0)
            || (cell.Length > 0 && (char.IsWhiteSpace(cell[0]) || char.IsWhiteSpace(cell[^1])));
        if (quoted)
        {
            text.Append('"').Append(cell.Replace("\"", "\"\"", StringComparison.Ordinal)).Append('"');
        }
        else
        {
            text.Append(cell);
        }
    }

    /// <summary>A quotation mark inside a cell stays text; what would change or swallow cells is refused with its place.</summary>
    private static void Refuse(CsvMalformedRecord record)
    {
        if (record.Reason is CsvMalformedReason.UnterminatedQuote)
        {
            throw new FormatException($"Row {record.RecordNumber:N0} opens a quotation mark that is never closed; close or remove it.");
        }

        if (record.Reason is CsvMalformedReason.TextAfterClosingQuote)
        {
            throw new FormatException(
                $"Row {record.RecordNumber:N0} has text after a closing quotation mark; double quotation marks inside a cell."
            );
        }
    }

    private static IEnumerable<List<string>> Rows(string text, char separator, bool whole)
    {
        using var csv = CsvReader.FromText(
            text,
            new CsvReaderOptions
            {
                HasHeader = false,
                Separator = separator,
                DetectSeparatorHint = false,
                OnMalformedRecord = whole ? Refuse : null,
            }
        );
        while (csv.Read())
        {
            var row = new List<string>(csv.FieldCount);
            for (int i = 0; i < csv.FieldCount; i++)
            {
                row.Add(csv.GetString(i));
            }

            yield return row;
        }
    }
}

/// <summary>How separated text is written (RFC 4180 and its kin), so that what was uploaded goes back in its own form.</summary>
/// <param name="Separator">What stands between cells.</param>
/// <param name="LineEnd">What ends a row: CR LF, or LF alone.</param>
/// <param name="AllQuoted">Every cell is quoted, not only those that must be.</param>
public sealed record TextForm(char Separator, string LineEnd = "\r\n", bool AllQuoted = false);
