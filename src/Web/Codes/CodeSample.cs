using PreciseBeacon.Core.Codes;

namespace PreciseBeacon.Web.Codes;

/// <summary>Codes made in bulk: of each version the first is read by an independent reader, and one in so many of the rest (ours).</summary>
/// <param name="format">The format they are wanted in; null when that is not known yet.</param>
public sealed class CodeSample(CodeFormat? format)
{
    private const int OneOf = 50;

    private readonly HashSet<int> _versions = [];
    private int _seen;

    /// <summary>How many were read.</summary>
    public int Read { get; private set; }

    /// <summary>Looks at the next code, or passes it by.</summary>
    /// <returns>Why it is not handed out; null when it is.</returns>
    public string? WhyNot(CodeDrawing code)
    {
        if (!_versions.Add(code.Matrix.Version) && _seen++ % OneOf != 0)
        {
            return null;
        }

        string? reason = CodeProof.WhyNot(CodeProof.Prove(code, code.Says, format));
        Read += reason is null ? 1 : 0;
        return reason;
    }
}
