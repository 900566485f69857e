using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class VisitorHashTests
{
    private static readonly byte[] Salt = [.. Enumerable.Range(0, 16).Select(i => (byte)i)];
    private static readonly byte[] Address = [192, 0, 2, 1];
    private static readonly Guid Workspace = Guid.NewGuid();

    [Fact]
    public void One_person_is_one_hash_for_as_long_as_the_salt_lives()
    {
        var hash = VisitorHash.OfAddress(Salt, Workspace, Address, "Fernleaf");
        Assert.Equal(hash, VisitorHash.OfAddress(Salt, Workspace, Address, "Fernleaf"));
        Assert.NotEqual(hash, VisitorHash.OfAddress([.. Salt.Reverse()], Workspace, Address, "Fernleaf"));
        Assert.NotEqual(hash, VisitorHash.OfAddress(Salt, Guid.NewGuid(), Address, "Fernleaf"));
        Assert.NotEqual(hash, VisitorHash.OfAddress(Salt, Workspace, [192, 0, 2, 2], "Fernleaf"));
        Assert.NotEqual(hash, VisitorHash.OfAddress(Salt, Workspace, Address, "Other"));
    }

    /// <summary>RFC 4231, test case 2: HMAC-SHA-256 of “what do ya want for nothing?” under the key “Jefe”.</summary>
    [Fact]
    public void The_hash_of_a_sites_own_id_is_hmac_sha_256_cut_to_128_bits() =>
        Assert.Equal(
            Convert.FromHexString("5bdcc146bf60754e6a042426089575c7"),
            VisitorHash.OfSiteId("Jefe"u8, "what do ya want for nothing?").ToByteArray()
        );

    /// <summary>The first vectors of SipHash's reference implementation (128 bits; key 00 to 0f, text of so many octets from 00), from memory.</summary>
    [Theory]
    [InlineData(0, "a3817f04ba25a8e66df67214c7550293")]
    [InlineData(1, "da87c1d86b99af44347659119b22fc45")]
    public void SipHash_gives_the_vectors_of_its_authors(int length, string vector)
    {
        var hash = new byte[16];
        SipHash.Hash(Salt, [.. Enumerable.Range(0, length).Select(i => (byte)i)], hash);
        Assert.Equal(vector, Convert.ToHexStringLower(hash));
    }

    [Fact]
    public void Event_ids_sort_as_the_events_came()
    {
        var ids = new EventIds(42);
        var at = new DateTimeOffset(2026, 11, 25, 12, 0, 0, TimeSpan.Zero);
        var made = Enumerable.Range(0, 5_000).Select(i => ids.Next(at.AddMilliseconds(i / 100))).ToList();
        Assert.Equal(made, made.OrderBy(id => id.ToString(), StringComparer.Ordinal));
        Assert.Equal(made.Count, made.Distinct().Count());
        Assert.All(made, id => Assert.Equal((7, true), (id.Version, id.Variant is >= 8 and <= 11)));
    }

    [Theory]
    [InlineData("Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1", Device.Phone)]
    [InlineData("Mozilla/5.0 (Tablet) Fernleaf/12.1", Device.Tablet)]
    [InlineData("Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1", Device.Computer)]
    public void Devices_are_told_by_the_words_in_the_user_agent(string userAgent, string device) =>
        Assert.Equal(device, Device.Of(userAgent));

    [Fact]
    public void An_id_tells_when_its_event_came_and_one_of_another_kind_does_not()
    {
        var at = new DateTimeOffset(2026, 11, 29, 14, 0, 0, 123, TimeSpan.Zero);
        Assert.Equal(at, EventIds.TimeOf(new EventIds(5).Next(at)));
        Assert.Equal(at, EventIds.TimeOf(Guid.CreateVersion7(at)));
        Assert.Null(EventIds.TimeOf(Guid.Empty));
        Assert.Null(EventIds.TimeOf(Guid.Parse("ffffffff-ffff-7fff-bfff-ffffffffffff")));
    }
}
