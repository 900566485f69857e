using PreciseBeacon.Core.Accounts;

namespace PreciseBeacon.CoreTests.Accounts;

public sealed class PersonNameTests
{
    [Theory]
    [InlineData("Orla Fenwick", "Orla Fenwick")]
    [InlineData("  Orla\u200B Fenwick\u00A0", "Orla Fenwick")]
    [InlineData("Åse Ó Briain", "Åse Ó Briain")]
    [InlineData(" \u200B ", null)]
    [InlineData("", null)]
    [InlineData(null, null)]
    public void Nothing_unseen_is_kept(string? typed, string? name) => Assert.Equal(name, PersonName.Read(typed));

    [Fact]
    public void A_hundred_characters_are_enough()
    {
        Assert.NotNull(PersonName.Read($" {new string('o', PersonName.Longest)} "));
        Assert.Null(PersonName.Read(new string('o', PersonName.Longest + 1)));
    }
}
