using System.Diagnostics.CodeAnalysis;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// The id of a click that a link sends along where its owner has switched that on: random, never the click's own id, so that nothing can
/// be read off it. A server that reports a conversion names it.
/// </summary>
public static class ClickId
{
    /// <summary>How long an id finds its click.</summary>
    public static readonly TimeSpan UsefulFor = TimeSpan.FromDays(90);

    /// <summary>An id from 16 random octets.</summary>
    public static Guid Of(ReadOnlySpan<byte> random) => new(random);

    /// <summary>How it is sent along: 32 hexadecimal digits.</summary>
    public static string Text(Guid id) => id.ToString("N");

    /// <summary>Reads what a server sent.</summary>
    public static bool TryRead([NotNullWhen(true)] string? text, out Guid id) => Guid.TryParseExact(text?.Trim(), "N", out id);
}
