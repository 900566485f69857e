using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class RecentAnswersTests
{
    [Fact]
    public void What_is_asked_again_and_again_is_worked_out_once_however_much_else_comes()
    {
        int worked = 0;
        var answers = new RecentAnswers<int>(100, q =>
        {
            worked += q == "often" ? 1 : 0;
            return q.Length;
        });
        for (int i = 0; i < 10_000; i++)
        {
            Assert.Equal($"{i}".Length, answers.For($"{i}"));
            Assert.Equal(5, answers.For("often"));
            Assert.InRange(answers.Count, 1, 200);
        }

        Assert.Equal(1, worked);
    }

    [Fact]
    public void What_is_not_asked_any_more_gives_way_to_what_is()
    {
        var asked = new List<string>();
        var answers = new RecentAnswers<int>(10, q =>
        {
            asked.Add(q);
            return 0;
        });
        foreach (string question in Enumerable.Range(0, 30).Select(i => $"{i}").Append("0").Append("29"))
        {
            answers.For(question);
        }

        Assert.Equal(2, asked.Count(q => q == "0"));
        Assert.Equal(1, asked.Count(q => q == "29"));
    }
}
