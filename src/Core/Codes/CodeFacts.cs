using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Codes;

/// <summary>A code in figures.</summary>
/// <param name="Says">The address in it.</param>
/// <param name="Version">1 to 40.</param>
/// <param name="Correction">The correction level.</param>
/// <param name="Modules">Modules on a side, quiet zone included.</param>
/// <param name="ModuleMillimetres">Side of a module on paper.</param>
/// <param name="DotsPerModule">Dots on a module's side.</param>
/// <param name="Dots">Dots on the code's side.</param>
/// <param name="TrueMillimetres">Its side when made of whole dots.</param>
/// <param name="HeightMillimetres">Its height on paper, caption included.</param>
/// <param name="ReadingMillimetres">About how far away it can be read, at its true size.</param>
/// <param name="Contrast">Contrast of its colours, 1 to 21.</param>
/// <param name="CompactSaves">True when capitals make it smaller than small letters do.</param>
/// <param name="LogoLost">Codewords the logo hides in the block that loses most; null without a logo.</param>
/// <param name="LogoRepairable">Codewords that block can put right; null without a logo.</param>
/// <param name="Notices">What to stop or look at.</param>
public sealed record CodeFacts(
    string Says,
    int Version,
    CorrectionLevel Correction,
    int Modules,
    decimal ModuleMillimetres,
    int DotsPerModule,
    int Dots,
    decimal TrueMillimetres,
    decimal HeightMillimetres,
    decimal ReadingMillimetres,
    double Contrast,
    bool CompactSaves,
    int? LogoLost,
    int? LogoRepairable,
    IReadOnlyList<Notice> Notices
);
