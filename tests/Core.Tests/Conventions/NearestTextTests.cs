using F23.StringSimilarity;
using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.CoreTests.Conventions;

/// <summary>The nearest text is that of the distance a reference library computes (F23.StringSimilarity), however texts share beginnings.</summary>
public sealed class NearestTextTests
{
    [Fact]
    public void Passing_over_texts_never_hides_the_nearest()
    {
        var random = new Random(5);
        string Any() => new([.. Enumerable.Range(0, random.Next(1, 12)).Select(_ => "abcdeXé🌱_- 7"[random.Next(13)])]);
        var distance = new OptimalStringAlignment();
        for (int round = 0; round < 400; round++)
        {
            string[] texts = [.. Enumerable.Range(0, 12).Select(_ => Any())];
            string text = Any();
            int found = new NearestText(texts).PlaceOf(text);

            string letters = Letters(text);
            int due = letters.Length > 0 ? Array.FindIndex(texts, t => Letters(t) == letters) : -1;
            if (due < 0)
            {
                due = Enumerable
                    .Range(0, texts.Length)
                    .Where(i => distance.Distance(texts[i].ToLowerInvariant(), text.ToLowerInvariant()) <= Allowed(texts[i], text))
                    .OrderBy(i => distance.Distance(texts[i].ToLowerInvariant(), text.ToLowerInvariant()))
                    .FirstOrDefault(-1);
            }

            Assert.Equal(due, found);
        }
    }

    private static int Allowed(string one, string other) =>
        Math.Min(one.Length, other.Length) is var shorter && shorter >= 7 ? 2
        : shorter >= 4 ? 1
        : -1;

    private static string Letters(string text) => string.Concat(text.ToLowerInvariant().Where(c => !" _-".Contains(c)));
}
