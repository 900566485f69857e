using PreciseBeacon.Core.Accounts;

namespace PreciseBeacon.CoreTests.Accounts;

/// <summary>OWASP ASVS 4.0.3, 2.1: length and lists, no rules about letters. The list is @zxcvbn-ts/language-common (MIT), npm.</summary>
public sealed class PasswordRulesTests
{
    private static readonly string[] Own = ["Orla Fenwick", "orla@marrowmere.example", "Marrowmere Botanic Garden", "mmr.example"];

    [Theory]
    [InlineData("seven ferns on a wall", null)]
    [InlineData("            a", null)] // spaces count, as any other sign does
    [InlineData("elevensigns", PasswordFault.TooShort)]
    [InlineData("1qaz2wsx3edc", PasswordFault.Common)]
    [InlineData("Password2026!!", PasswordFault.Common)]
    [InlineData("!!!dragon2026!!", PasswordFault.Common)]
    [InlineData("abcabcabcabc", PasswordFault.Common)]
    [InlineData("aaaaaaaaaaaaaaa", PasswordFault.Common)]
    [InlineData("orlafenwick26", PasswordFault.OwnWords)]
    [InlineData("Marrowmere-Garden-1", PasswordFault.OwnWords)]
    [InlineData("Marrowmere blooms at dusk", null)] // enough of it is their own
    public void What_is_refused(string password, PasswordFault? fault) => Assert.Equal(fault, PasswordRules.FaultOf(password, Own));

    [Fact]
    public void Very_long_ones_are_refused_and_two_hundred_signs_are_not()
    {
        string words = string.Join(' ', Enumerable.Range(0, 60).Select(i => $"fern{i}"));
        Assert.Null(PasswordRules.FaultOf(words[..200], Own));
        Assert.Equal(PasswordFault.TooLong, PasswordRules.FaultOf(words[..201], Own));
    }
}
