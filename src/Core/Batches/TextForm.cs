namespace PreciseBeacon.Core.Batches;

/// <summary>How separated text is written (RFC 4180 and its kin), so that what was uploaded goes back in its own form.</summary>
/// <param name="Separator">What stands between cells.</param>
/// <param name="LineEnd">What ends a row: CR LF, or LF alone.</param>
/// <param name="AllQuoted">Every cell is quoted, not only those that must be.</param>
public sealed record TextForm(char Separator, string LineEnd = "\r\n", bool AllQuoted = false);
