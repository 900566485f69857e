using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.CoreTests.Conventions;

public sealed class WordListTests
{
    private static readonly WordList List = new(
        [
            new Word("email", "Mail", ["e-mail", "newsletter"]),
            new Word("cpc"),
            new Word("brackenford_herald"),
            new Word("fax", "Fax", [], Retired: true, Successor: "email"),
        ],
        new ValueRules()
    );

    [Theory]
    [InlineData("email", WordMatchKind.Known, "email")]
    [InlineData("EMAIL ", WordMatchKind.Known, "email")]
    [InlineData("E-Mail", WordMatchKind.Alias, "email")]
    [InlineData("Newsletter", WordMatchKind.Alias, "email")]
    [InlineData("fax", WordMatchKind.Retired, "fax")]
    [InlineData("emial", WordMatchKind.Unknown, "email")]
    [InlineData("brackenfordherald", WordMatchKind.Unknown, "brackenford_herald")]
    [InlineData("brakenfrod herald", WordMatchKind.Unknown, "brackenford_herald")]
    [InlineData("ppc", WordMatchKind.Unknown, null)]
    [InlineData("banner", WordMatchKind.Unknown, null)]
    public void Values_are_known_resolved_or_the_nearest_word_is_offered(string typed, WordMatchKind kind, string? word) =>
        Assert.Equal((kind, word), (List.Match(typed).Kind, List.Match(typed).Word?.Written));

    [Fact]
    public void A_word_must_be_its_own_written_form() =>
        Assert.Throws<ArgumentException>(() => new WordList([new Word("E Mail")], new ValueRules()));
}
