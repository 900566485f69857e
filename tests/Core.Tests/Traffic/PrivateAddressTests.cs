using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>Nobody's mail address or phone number is kept with a visit.</summary>
public sealed class PrivateAddressTests
{
    [Theory]
    [InlineData(
        "https://marrowmere.example/a?utm_source=x&utm_content=orla@fenwick.example",
        "https://marrowmere.example/a?utm_source=x&utm_content=%28removed%29"
    )]
    [InlineData("https://marrowmere.example/a?mail=orla%40fenwick.example&b=1", "https://marrowmere.example/a?mail=%28removed%29&b=1")]
    [InlineData(
        "https://marrowmere.example/?t=%2B353861234567#utm_term=orla%40fenwick.example&c=2",
        "https://marrowmere.example/?t=%28removed%29#utm_term=%28removed%29&c=2"
    )]
    [InlineData("https://marrowmere.example/#orla@fenwick.example", "https://marrowmere.example/#%28removed%29")]
    [InlineData("https://marrowmere.example/?orla@fenwick.example", "https://marrowmere.example/?%28removed%29")]
    [InlineData("https://marrowmere.example/a?utm_id=123456789012&gad=9988776655443322", null)] // ids stay
    [InlineData("https://marrowmere.example/@orla/2026-11-29-123456?a=@orla", null)] // only values, and only whole addresses
    [InlineData("https://marrowmere.example/2026112912345678", null)]
    [InlineData("", null)]
    [InlineData("?", null)]
    [InlineData("#@#@%40", null)]
    public void Values_that_look_like_somebodys_are_taken_out(string address, string? without) =>
        Assert.Equal(without ?? address, PrivateAddress.Of(address));
}
