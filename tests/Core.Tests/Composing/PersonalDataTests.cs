using PreciseBeacon.Core.Composing;

namespace PreciseBeacon.CoreTests.Composing;

public sealed class PersonalDataTests
{
    [Theory]
    [InlineData("orla@marrowmere.example", "personal-data")]
    [InlineData("to_orla.f@mail.marrowmere.example", "personal-data")]
    [InlineData("+353 1 496 0000", "personal-data")]
    [InlineData("01 496 0000 12", "personal-data")]
    [InlineData("order_1234567890", "long-number")]
    [InlineData("2026-10_lantern_nights", null)]
    [InlineData("20260301", null)]
    [InlineData("@home", null)]
    public void Addresses_and_numbers_of_people_are_noticed(string value, string? rule) =>
        Assert.Equal(rule, PersonalData.Find(value)?.Rule.Name);
}
