using FsCheck;
using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Web.Batches;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>Whatever was in a sheet goes back as it came, for any table and any recipe.</summary>
public sealed class BatchResultTests
{
    public sealed record Case(string[] Headings, string[][] Rows, bool[] Linked, int InPlace, bool Shorten, bool OriginalOnly);

    public static Arbitrary<Case> Cases()
    {
        var cell = Gen.Elements(
            "",
            "a",
            "007",
            "1,5",
            "a;b",
            "say \"it\"",
            "two\r\nlines",
            " outer ",
            "=SUM(A1)",
            "2026-03-01",
            "12345678901234567890",
            "größe",
            "日本",
            "'",
            "https://m.example/?a=1&b=2"
        );
        return (
            from columns in Gen.Choose(1, 5)
            from headings in cell.ArrayOf(columns)
            from count in Gen.Choose(0, 6)
            from rows in (from length in Gen.Choose(0, columns + 2) from cells in cell.ArrayOf(length) select cells).ArrayOf(count)
            from linked in ArbMap.Default.GeneratorFor<bool>().ArrayOf(count)
            from inPlace in Gen.Choose(-1, columns - 1)
            from shorten in ArbMap.Default.GeneratorFor<bool>()
            from originalOnly in ArbMap.Default.GeneratorFor<bool>()
            select new Case(headings, rows, linked, inPlace, shorten, originalOnly)
        ).ToArbitrary();
    }

    [Property(Arbitrary = [typeof(BatchResultTests)], MaxTest = 600, QuietOnSuccess = true)]
    public Property Foreign_cells_are_identical_after_the_round_trip(Case given)
    {
        var names = new Table(given.Headings, []).Names;
        var recipe = new Recipe
        {
            Output = given.InPlace < 0 ? null : new CellSource(Column: names[given.InPlace]),
            Shorten = given.Shorten,
        };
        var links = new Dictionary<Guid, RowLink>();
        var rows = given
            .Rows.Select(
                (cells, i) =>
                {
                    var id = given.Linked[i] ? Guid.NewGuid() : (Guid?)null;
                    if (id is { } link)
                    {
                        links[link] = new RowLink($"https://mmr.example/{i}", $"https://mmr.example/c{i}", DateTimeOffset.UnixEpoch);
                    }

                    return new BatchRow(i + 1, cells, null, "", null, id is null ? null : $"https://m.example/?tagged={i}", id);
                }
            )
            .ToList();

        var sent = rows.Select(r => BatchResult.Cells(given.Headings, recipe, r, r.LinkId is { } id ? links[id] : null, given.OriginalOnly))
            .Prepend(BatchResult.Headings(given.Headings, recipe, given.OriginalOnly))
            .ToList();
        var back = TableText.Read(TableText.Write(sent, ';'), ';');
        int width = given.Headings.Length;
        bool same = back.Headings.Take(width).SequenceEqual(given.Headings) && back.Rows.Count == rows.Count;
        for (int r = 0; same && r < rows.Count; r++)
        {
            for (int c = 0; c < width && same; c++)
            {
                string wanted = given.Linked[r] && c == given.InPlace ? rows[r].Url! : Table.Cell(given.Rows[r], c);
                same = Table.Cell(back.Rows[r], c) == wanted;
            }

            // Cells beyond the last heading are the person's too.
            int extra = back.Headings.Count - width;
            same &= given
                .Rows[r]
                .Skip(width)
                .SequenceEqual(back.Rows[r].Skip(width + extra).Take(Math.Max(0, given.Rows[r].Length - width)));
        }

        return same.Label(TableText.Write(sent, ';'));
    }

    [Fact]
    public void Columns_are_added_only_where_they_were_asked_for()
    {
        var inPlace = new Recipe { Output = new CellSource(Column: "Page") };
        string[] headings = ["Page", "Note"];
        Assert.Equal(["Page", "Note"], BatchResult.Headings(headings, inPlace, originalOnly: true));
        Assert.Equal(["Page", "Note", "Created on"], BatchResult.Headings(headings, inPlace, originalOnly: false));
        Assert.Equal(
            ["Page", "Note", "Tagged link", "Short link", "QR link", "Created on"],
            BatchResult.Headings(headings, new Recipe { Shorten = true }, originalOnly: false)
        );
    }
}
