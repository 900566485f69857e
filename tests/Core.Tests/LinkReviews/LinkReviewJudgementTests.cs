using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.LinkReviews;
using PreciseBeacon.Core.Links;
using PreciseBeacon.CoreTests.Conventions;

namespace PreciseBeacon.CoreTests.LinkReviews;

public sealed class LinkReviewJudgementTests
{
    private const string Right =
        "https://marrowmere.example/visit?utm_source=the_trellis&utm_medium=email&utm_campaign=2026-10_all_lantern-nights&utm_starts=2026-10-01&utm_brand=mmr";
    private static readonly LinkFacts Facts = LinkFacts.None(new DateOnly(2026, 11, 20)) with
    {
        OwnHosts = new Dictionary<string, TagStyle> { ["marrowmere.example"] = TagStyle.Query },
    };

    private static LinkReviewJudgement Judge(string url)
    {
        var inspected = LinkInspector.Inspect(SampleFiles.Garden, url, Facts);
        string? mended = LinkReviewJudgement.MendedOf(url, inspected);
        return LinkReviewJudgement.Of(url, inspected, mended is null ? null : LinkInspector.Inspect(SampleFiles.Garden, mended, Facts));
    }

    [Theory]
    [InlineData("", "", LinkReviewState.Right)]
    [InlineData("utm_source", "UTM_Source", LinkReviewState.Mended)]
    [InlineData("utm_medium=email", "utm_medium=Email", LinkReviewState.Mended)]
    [InlineData("&utm_medium", "&amp;utm_medium", LinkReviewState.Mended)]
    [InlineData("utm_source=the_trellis", "utm_source=someone_new", LinkReviewState.Stuck)]
    [InlineData("utm_medium=email", "utm_medium=pigeon", LinkReviewState.Stuck)]
    [InlineData("/visit?", "/vi\u200bsit?", LinkReviewState.Stuck)]
    [InlineData("https://marrowmere.example", "https://elsewhere.example", LinkReviewState.Stuck)]
    [InlineData("https:", "mailto:", LinkReviewState.Stuck)]
    public void Mended_is_only_what_nothing_is_said_about_any_more(string from, string to, LinkReviewState state)
    {
        string url = from.Length == 0 ? Right : Right.Replace(from, to, StringComparison.Ordinal);
        var judgement = Judge(url);
        Assert.True(judgement.State == state, string.Join(' ', judgement.Notices.Select(n => n.Message)));
        Assert.Equal(state == LinkReviewState.Right, judgement.Notices.Count == 0);
        if (state == LinkReviewState.Mended)
        {
            Assert.Equal(Right, judgement.MendedUrl);
        }
    }

    [Fact]
    public void Every_old_link_is_judged_and_what_is_mended_is_right()
    {
        var states = SampleFiles.OldLinks().Select(l => (l.Link, Judgement: Judge(l.Link))).ToList();
        Assert.All(states.Where(s => s.Judgement.State == LinkReviewState.Mended), s =>
            Assert.Equal(LinkReviewState.Right, Judge(s.Judgement.MendedUrl!).State)
        );
        Assert.All(Enum.GetValues<LinkReviewState>(), state => Assert.Contains(states, s => s.Judgement.State == state));
    }

    [Fact]
    public void A_plain_list_has_no_headings_and_a_sheet_gives_its_column_of_links()
    {
        Assert.Equal(
            [new("https://m.example/?a=1,2;3", null), new("m.example/x", "Poster")],
            LinkList.OfText("https://m.example/?a=1,2;3\r\n\r\n m.example/x\tPoster\n")!
        );
        Assert.Null(LinkList.OfText("Link,Stands on\r\nhttps://m.example/,Poster\r\n"));
        var sheet = TableText.Read("Note,Link,Stands on\r\nx,https://m.example/a,Poster\r\ny,,\r\nz,https://m.example/b,\r\n", ',');
        Assert.Equal(
            [new("https://m.example/a", "Poster"), new("https://m.example/b", null)],
            LinkList.OfTable(sheet, SampleFiles.Garden)!
        );
        Assert.Null(LinkList.OfTable(TableText.Read("Note\r\nx\r\n", ','), SampleFiles.Garden));
    }
}
