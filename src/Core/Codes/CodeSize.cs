namespace PreciseBeacon.Core.Codes;

/// <summary>The true size of a raster code: a whole number of dots per module.</summary>
/// <param name="DotsPerModule">At least 1.</param>
/// <param name="Dots">Dots on a side.</param>
/// <param name="Millimetres">The side at the asked resolution.</param>
public sealed record CodeSize(int DotsPerModule, int Dots, decimal Millimetres)
{
    private const decimal MillimetresPerInch = 25.4m;

    /// <summary>The size nearest to the one asked for.</summary>
    /// <param name="modules">Modules on a side, quiet zone included.</param>
    /// <param name="millimetres">The side asked for.</param>
    /// <param name="dotsPerInch">The printer's or screen's resolution.</param>
    public static CodeSize Of(int modules, decimal millimetres, int dotsPerInch)
    {
        int perModule = Math.Max(1, (int)Math.Round(millimetres / MillimetresPerInch * dotsPerInch / modules));
        int dots = perModule * modules;
        return new CodeSize(perModule, dots, Math.Round(dots * MillimetresPerInch / dotsPerInch, 2));
    }
}
