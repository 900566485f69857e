namespace PreciseBeacon.Core.Codes;

/// <summary>How much of a code may be spoilt: 7, 15, 25 or 30 % of its codewords (ISO/IEC 18004).</summary>
public enum CorrectionLevel
{
    L,
    M,
    Q,
    H,
}
