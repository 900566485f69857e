using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.CoreTests.Codes;

public sealed class LogoPlaceTests
{
    [Fact]
    public void A_logo_never_lies_on_a_pattern_and_lies_in_the_middle_where_it_can()
    {
        foreach (int version in Enumerable.Range(1, 15))
        {
            var layout = CodeLayout.Of(version);
            foreach (decimal share in new[] { 0.1m, 0.2m, 0.3m, 0.4m })
            {
                if (LogoPlace.Of(version, CorrectionLevel.H, share) is not { } place)
                {
                    continue;
                }

                for (int row = 0; row < place.Side; row++)
                {
                    for (int column = 0; column < place.Side; column++)
                    {
                        Assert.NotEqual(
                            CodeLayout.Pattern,
                            layout[row + place.Row - CodeMatrix.QuietZone, column + place.Column - CodeMatrix.QuietZone]
                        );
                    }
                }

                Assert.True(version > 6 || place.Row == place.Column, $"{version} at {share}");
            }
        }
    }

    [Fact]
    public void A_larger_logo_costs_more_and_a_pattern_in_the_way_is_said()
    {
        var costs = new[] { 0.1m, 0.2m, 0.3m }.Select(s => LogoPlace.Of(3, CorrectionLevel.H, s)!.Lost).ToList();
        Assert.Equal(costs.Order(), costs);
        Assert.True(costs[^1] > costs[0]);
        Assert.Null(LogoPlace.Of(2, CorrectionLevel.H, 0.5m)); // finders, timing and the alignment pattern leave no square of 13
    }

    [Theory]
    [InlineData("#000000", "#FFFFFF", 21)]
    [InlineData("#777777", "#FFFFFF", 4.48)] // WCAG 2.2, a grey that just fails 4.5 to 1
    [InlineData("#FF0000", "#FFFFFF", 4.0)] // from memory
    public void Contrast_is_as_the_guidelines_define_it(string dark, string light, double contrast) =>
        Assert.Equal(contrast, CodeColours.Contrast(CodeColours.Read(dark)!.Value, CodeColours.Read(light)!.Value), 0.01);

    [Theory]
    [InlineData("#123")]
    [InlineData("red")]
    [InlineData("#GGGGGG")]
    [InlineData("# 12345")]
    [InlineData("")]
    public void What_is_no_colour_is_told_so(string text) => Assert.Null(CodeColours.Read(text));

    [Theory]
    [InlineData("#000000", "#FFFFFF", 30, null)]
    [InlineData("#FFFFFF", "#000000", 30, "code-inverted")]
    [InlineData("#BBBBBB", "#FFFFFF", 30, "code-contrast")]
    [InlineData("#000000", "#FFFFFF", 15, "code-small")]
    [InlineData("#000000", "#FFFFFF", 30, "code-dots", 60)]
    [InlineData("#000000", "#FFFFFF", 30, null, 300, "Große Fuchsie, 3 €")]
    [InlineData("#000000", "#FFFFFF", 30, "caption-signs", 300, "蘭")]
    public void A_code_is_judged_before_it_is_printed(
        string dark,
        string light,
        int mm,
        string? rule,
        int dpi = 300,
        string? caption = null
    )
    {
        const string Url = "https://mmr.example/abcdef";
        var facts = CodeJudge.Judge(CodeDrawing.Of(Url, new CodeStyle(mm, dpi, Dark: dark, Light: light, Caption: caption)), Url);
        Assert.Equal(rule, facts.Notices.SingleOrDefault()?.Rule);
        Assert.Equal(facts.TrueMillimetres * 10, facts.ReadingMillimetres);
    }

    /// <summary>Alphanumeric mode needs 5.5 bits a sign, octets 8 (ISO/IEC 18004, table 3): a version is saved only where that passes a step.</summary>
    [Theory]
    [InlineData("https://mmr.example/bcdf23", CorrectionLevel.M, 25, false)]
    [InlineData("https://mmr.example/open-day-families", CorrectionLevel.M, 25, true)]
    public void Capitals_are_offered_only_where_they_make_the_code_smaller(string url, CorrectionLevel level, int side, bool saves)
    {
        Assert.Equal(saves, CompactForm.Saves(url, level));
        Assert.Equal(side, CodeMatrix.Of(saves ? CompactForm.Of(url) : url, level).Side - 8);
    }
}
