using QRCoder;

namespace PreciseBeacon.Core.Codes;

/// <summary>The modules of a QR code, quiet zone included.</summary>
public sealed class CodeMatrix
{
    /// <summary>Modules of quiet zone on each side (ISO/IEC 18004).</summary>
    public const int QuietZone = 4;

    private readonly bool[] _dark;

    private CodeMatrix(int version, int side, bool[] dark)
    {
        Version = version;
        Side = side;
        _dark = dark;
    }

    /// <summary>1 to 40.</summary>
    public int Version { get; }

    /// <summary>Modules on a side, quiet zone included: 17 + 4 × version + 8.</summary>
    public int Side { get; }

    public bool this[int row, int column] => _dark[(row * Side) + column];

    /// <summary>Lays out a text in the smallest version that holds it.</summary>
    /// <exception cref="CodeTooLongException">No version holds the text at this level.</exception>
    public static CodeMatrix Of(string text, CorrectionLevel correction)
    {
        try
        {
            using var data = QRCodeGenerator.GenerateQrCode(text, (QRCodeGenerator.ECCLevel)correction);
            int side = data.ModuleMatrix.Count;
            var dark = new bool[side * side];
            for (int row = 0; row < side; row++)
            {
                for (int column = 0; column < side; column++)
                {
                    dark[(row * side) + column] = data.ModuleMatrix[row][column];
                }
            }

            return new CodeMatrix(data.Version, side, dark);
        }
        catch (QRCoder.Exceptions.DataTooLongException)
        {
            throw new CodeTooLongException(
                $"The text has {text.Length} characters, more than a code holds at level {correction}; use the short link."
            );
        }
    }
}
