using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;

namespace PreciseBeacon.CoreTests.Conventions;

public sealed class WordPasteTests
{
    private static readonly FieldDocument Source = new()
    {
        Key = "utm_source",
        Label = "Source",
        List = ListKind.Open,
        Words =
        [
            new()
            {
                Written = "the_trellis",
                Label = "The Trellis",
                Aliases = ["trellis"],
            },
            new() { Written = "nattervine" },
            new() { Written = "cpc" },
        ],
    };

    [Theory]
    [InlineData("Skeinly", PastedVerdict.Fresh, null)]
    [InlineData("The Trellis", PastedVerdict.Already, "the_trellis")]
    [InlineData("TRELLIS", PastedVerdict.Alias, "the_trellis")]
    [InlineData("the-trellis", PastedVerdict.SameLetters, "the_trellis")]
    [InlineData("natter vine", PastedVerdict.SameLetters, "nattervine")]
    [InlineData("nattervnie", PastedVerdict.Near, "nattervine")]
    [InlineData("ppc", PastedVerdict.Fresh, null)] // short words are not each other's misspelling
    [InlineData("\u200B", PastedVerdict.Unusable, null)]
    public void Pasted_words_are_told_apart(string pasted, PastedVerdict verdict, string? like)
    {
        var looked = Assert.Single(WordPaste.Look(Source, pasted));
        Assert.Equal((verdict, like), (looked.Verdict, looked.Like));
    }

    [Fact]
    public void A_sheet_gives_labels_and_other_names_and_doubles_are_seen()
    {
        var looked = WordPaste.Look(Source, "Gate Poster\tPoster at the gate\tgate\tposter gate\r\n\n gate_poster \ngate-poster");
        Assert.Equal([PastedVerdict.Fresh, PastedVerdict.Already, PastedVerdict.SameLetters], looked.Select(l => l.Verdict));
        Assert.Equal(
            ("gate_poster", "Poster at the gate", "gate,poster gate"),
            (looked[0].Word.Written, looked[0].Word.Label, string.Join(',', looked[0].Word.Aliases))
        );
    }

    /// <summary>
    /// Distances as published: F. J. Damerau, “A technique for computer detection and correction of spelling errors”
    /// (1964) counts an omission, an insertion, a wrong letter and a swap of neighbours as one slip each; V. I.
    /// Levenshtein (1966) has kitten and sitting three apart.
    /// </summary>
    [Theory]
    [InlineData("sitting", "kitten", false)]
    [InlineData("garden", "gaden", true)] // one omitted
    [InlineData("garden", "gardeen", true)] // one too many
    [InlineData("garden", "gerden", true)] // one wrong
    [InlineData("garden", "gadren", true)] // two swapped
    [InlineData("garden", "gadern", false)] // two slips are too many for six letters
    [InlineData("gardens", "gadresn", true)] // and allowed from seven
    [InlineData("mail", "mali", true)]
    [InlineData("sms", "mss", false)]
    public void A_slip_is_counted_as_published(string word, string typed, bool near) =>
        Assert.Equal(near ? word : null, new WordList([new Word(word)], new ValueRules()).Match(typed).Word?.Written);

    [Fact]
    public void A_word_is_found_among_ten_thousand()
    {
        var list = new WordList([.. Enumerable.Range(0, 10_000).Select(i => new Word($"word_{i:00000}"))], new ValueRules());
        Assert.Equal("word_07777", list.Match("Word 07777").Word!.Written);
        Assert.Equal("word_07777", list.Match("wrod-07777").Word!.Written);
    }
}
