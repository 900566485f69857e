using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.CoreTests.Codes;

public sealed class CodeMatrixTests
{
    /// <summary>ISO/IEC 18004, table 7: capacities of version 1 and of 40-L.</summary>
    [Theory]
    [InlineData(CorrectionLevel.L, 41, 17)]
    [InlineData(CorrectionLevel.M, 34, 14)]
    [InlineData(CorrectionLevel.Q, 27, 11)]
    [InlineData(CorrectionLevel.H, 17, 7)]
    public void Version_1_holds_what_the_standard_says(CorrectionLevel level, int digits, int octets)
    {
        Assert.Equal(
            (1, 2),
            (CodeMatrix.Of(new string('7', digits), level).Version, CodeMatrix.Of(new string('7', digits + 1), level).Version)
        );
        Assert.Equal(
            (1, 2),
            (CodeMatrix.Of(new string('x', octets), level).Version, CodeMatrix.Of(new string('x', octets + 1), level).Version)
        );
    }

    [Theory]
    [InlineData('7', 7_089)]
    [InlineData('A', 4_296)]
    [InlineData('x', 2_953)]
    public void Version_40_L_holds_what_the_standard_says_and_no_more(char character, int count)
    {
        var full = CodeMatrix.Of(new string(character, count), CorrectionLevel.L);
        Assert.Equal((40, 17 + (4 * 40) + 8), (full.Version, full.Side));
        Assert.Throws<CodeTooLongException>(() => CodeMatrix.Of(new string(character, count + 1), CorrectionLevel.L));
    }

    [Fact]
    public void The_quiet_zone_is_four_modules_on_each_side()
    {
        var matrix = CodeMatrix.Of("http://mmr.example/tm9947", CorrectionLevel.M);
        for (int i = 0; i < matrix.Side; i++)
        {
            for (int q = 0; q < CodeMatrix.QuietZone; q++)
            {
                Assert.False(matrix[q, i] || matrix[i, q] || matrix[matrix.Side - 1 - q, i] || matrix[i, matrix.Side - 1 - q]);
            }
        }

        Assert.True(matrix[CodeMatrix.QuietZone, CodeMatrix.QuietZone]);
    }

    /// <summary>300 dpi with a whole number of dots per module (common practice): 30 mm are 354.33 dots.</summary>
    [Fact]
    public void A_raster_code_has_a_whole_number_of_dots_per_module()
    {
        var size = CodeSize.Of(33, 30m, 300);
        Assert.Equal((11, 363, 30.73m), (size.DotsPerModule, size.Dots, size.Millimetres));
    }
}
