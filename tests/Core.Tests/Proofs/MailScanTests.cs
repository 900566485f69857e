using PreciseBeacon.Core.Proofs;

namespace PreciseBeacon.CoreTests.Proofs;

/// <summary>Which openings of a mail's links are a program's.</summary>
public sealed class MailScanTests
{
    private static readonly DateTimeOffset Begin = new(2026, 12, 1, 9, 0, 0, TimeSpan.Zero);

    private static Guid Id(int number) => new(number, 0, 0, new byte[8]);

    /// <summary>Openings as link@seconds, the first with id 1; those after a bar are another visitor's.</summary>
    private static string Of(string openings)
    {
        int id = 0;
        var all = openings
            .Split('|')
            .SelectMany(
                (visitor, who) =>
                    visitor
                        .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                        .Select(o => o.Split('@'))
                        .Select(o => new MailOpening(
                            Id(++id),
                            Id(100 + o[0][0]),
                            Id(1_000 + who),
                            Begin.AddSeconds(double.Parse(o[1], System.Globalization.CultureInfo.InvariantCulture))
                        ))
            )
            .ToList();
        var found = MailScan.ProgramsIn(all);
        return string.Join(' ', Enumerable.Range(1, all.Count).Where(i => found.Contains(Id(i))));
    }

    [Theory]
    [InlineData("a@0 b@0.1 c@0.2", "1 2 3")]
    [InlineData("a@0 b@2.5 c@5", "1 2 3")]
    [InlineData("a@0 b@2.5 c@5.1", "")] // a quick person
    [InlineData("a@0 a@0.1 a@0.2 b@0.3", "")] // one link again and again
    [InlineData("a@0 b@0.1 | c@0.2", "")] // two visitors
    [InlineData("a@0 b@0 c@0 d@0 a@60", "1 2 3 4")] // the same computer's person comes later
    [InlineData("a@0 b@4 c@8 d@9 e@10", "2 3 4 5")] // b to d take five seconds
    [InlineData("a@0 b@3 c@5 d@8", "1 2 3 4")] // each within five seconds of two others
    [InlineData("", "")]
    public void Several_links_within_seconds_are_opened_by_a_program(string openings, string programs) =>
        Assert.Equal(programs, Of(openings));
}
