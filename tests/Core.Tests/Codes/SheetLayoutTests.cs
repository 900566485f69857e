using FsCheck.Fluent;
using FsCheck.Xunit;
using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.CoreTests.Codes;

public sealed class SheetLayoutTests
{
    /// <summary>Whatever the size, labels lie on the paper, none on another, and as many as fit.</summary>
    [Property]
    public FsCheck.Property Labels_lie_on_the_paper_and_never_on_each_other(byte width, byte height, byte gap)
    {
        var (w, h, g) = (15m + (width % 160), 15m + (height % 250), (decimal)(gap % 12));
        var layout = SheetLayout.OnA4(w, h, g);
        var places = Enumerable.Range(0, layout.PerPage).Select(layout.PlaceOf).ToList();
        bool apart = places
            .SelectMany((a, i) => places.Skip(i + 1).Select(b => (a, b)))
            .All(p => Math.Abs(p.a.Left - p.b.Left) >= w || Math.Abs(p.a.Top - p.b.Top) >= h);
        bool more = layout.Left - 8 >= (w + g) / 2 || layout.Top - 8 >= (h + g) / 2;
        return (layout.WhyRefused() is null && apart && !more && places.All(p => p is (0, >= 0, >= 0))).ToProperty();
    }

    [Fact]
    public void Labels_go_on_over_pages_and_begin_where_the_sheet_is_still_whole()
    {
        var layout = SheetLayout.Divided(3, 8);
        Assert.Equal((0, 70m, 37.125m), layout.PlaceOf(4));
        Assert.Equal((1, 0m, 0m), layout.PlaceOf(24));
        Assert.Equal(70m, layout.Width);
    }

    [Theory]
    [InlineData(4, 1, 60, 30, "wider")]
    [InlineData(1, 9, 60, 35, "higher")]
    [InlineData(0, 1, 60, 35, "1 to 100")]
    [InlineData(1, 1, 5, 5, "at least 10")]
    public void What_does_not_fit_is_refused_with_the_reason(int columns, int rows, int width, int height, string reason) =>
        Assert.Contains(reason, new SheetLayout(210, 297, columns, rows, width, height, 0, 0).WhyRefused(), StringComparison.Ordinal);
}
