using System.Text;
using FsCheck.Xunit;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

/// <summary>What is kept of a landing address: every parameter that may say where the visitor came from, raw (reports, section 1).</summary>
public sealed class RawTagsTests
{
    private static readonly TagVocabulary Vocabulary = new(["utm_source", "utm_medium", "region", "src", "ref"]);

    private static RawTags Of(string query) =>
        RawTags.Of(DestinationReader.Read("https://marrowmere.example/visit" + query).Destination!, Vocabulary.IsTagLike);

    [Theory]
    [InlineData("?utm_source=a&id=7", """{"utm_source":"a"}""")]
    [InlineData("?UTM_Source=A%20b", """{"utm_source":"A b"}""")]
    [InlineData("?utm_source=a&utm_source=b", """{"utm_source":"a"}""")]
    [InlineData("?utm_source=&utm_medium=m", """{"utm_medium":"m"}""")]
    [InlineData("?utm_colour=green", """{"utm_colour":"green"}""")] // of the family, though no field
    [InlineData("?utm_soruce=a", """{"utm_soruce":"a"}""")] // a slip away
    [InlineData("?utm-source=a", """{"utm-source":"a"}""")]
    [InlineData("?regoin=n", "{}")] // a slip away, but too short to tell
    [InlineData("?Re_gion=n", """{"re_gion":"n"}""")] // the same letters
    [InlineData("?re=x", "{}")]
    [InlineData("?ref=x#utm_source=a", """{"ref":"x","utm_source":"a"}""")]
    [InlineData("?utm_source=a%00b", "{\"utm_source\":\"a\uFFFDb\"}")]
    [InlineData("?page=2?utm_source=a&utm_medium=m", """{"page":"2?utm_source=a","utm_medium":"m"}""")] // swallowed
    [InlineData("?to=%2Fshop%3Futm_source%3Da", "{}")] // an address, and its own affair
    [InlineData("?q=what?&n=1?n=2", "{}")]
    [InlineData("", "{}")]
    public void Tag_like_parameters_are_kept_and_no_others(string query, string json) => Assert.Equal(json, Of(query).Json);

    [Fact]
    public void At_most_two_kilobytes_are_kept_and_no_character_is_halved()
    {
        var tags = Of($"?utm_source={Uri.EscapeDataString(new string('é', 3_000))}&utm_medium=late");
        int bytes = tags.Values.Sum(v => Encoding.UTF8.GetByteCount(v.Key) + Encoding.UTF8.GetByteCount(v.Value));
        Assert.InRange(bytes, RawTags.MostBytes - 1, RawTags.MostBytes);
        Assert.DoesNotContain('\uFFFD', tags.Values["utm_source"]);
        Assert.DoesNotContain("utm_medium", tags.Values.Keys);
    }

    [Fact]
    public void They_are_read_through_the_tags_of_today_a_fields_own_key_first()
    {
        var tags = Of("?src=b&utm_source=a&utm_medium=m");
        Assert.Equal("a", tags.ValueOf(new Tag("utm_source", "", ["src"])));
        Assert.Equal("b", tags.ValueOf(new Tag("src", "", ["utm_source"])));
        Assert.Equal("b", tags.ValueOf(new Tag("origin", "", ["SRC"])));
        Assert.Equal([KeyValuePair.Create("utm_medium", "m")], tags.Read([new Tag("utm_medium", ""), new Tag("utm_term", "")]));
    }

    /// <summary>What is stored is what is read again, whatever somebody typed.</summary>
    [Property]
    public void What_is_written_is_read_again(string?[] values)
    {
        var tags = Of("?" + string.Join('&', values.Select((v, i) => $"utm_{i}={Uri.EscapeDataString(Clean(v))}")));
        var again = RawTags.Parse(tags.Json);
        Assert.Equal(tags, again);
        Assert.Equal(tags.GetHashCode(), again.GetHashCode());
        Assert.Equal(tags.Values.OrderBy(v => v.Key), again.Values.OrderBy(v => v.Key));
        Assert.DoesNotContain('\0', tags.Json);

        // Half a surrogate pair can't be put into an address.
        static string Clean(string? text) => string.Concat((text ?? "").EnumerateRunes());
    }
}
