using PreciseBeacon.Core.Links;

namespace PreciseBeacon.CoreTests.Links;

public sealed class HostNameTests
{
    /// <summary>
    /// UTS #46, non-transitional processing; the sharp s and the final sigma are the standard's own deviation
    /// characters (section 4, table 1).
    /// </summary>
    [Theory]
    [InlineData("faß.example", "xn--fa-hia.example")]
    [InlineData("βόλος.example", "xn--nxasmm1c.example")]
    [InlineData("Bücher.example", "xn--bcher-kva.example")]
    [InlineData("ｍarrow.example", "marrow.example")]
    [InlineData("marrow。example", "marrow.example")]
    public void Hosts_are_mapped(string typed, string ascii) => Assert.Equal(ascii, HostName.Read(typed, out _)?.Ascii);
}
