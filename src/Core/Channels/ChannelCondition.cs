namespace PreciseBeacon.Core.Channels;

/// <summary>One condition of a channel.</summary>
/// <param name="Subject">What is looked at.</param>
/// <param name="Test">How.</param>
/// <param name="Values">What it is compared with; none for <see cref="ChannelTest.Empty"/>.</param>
public sealed record ChannelCondition(ChannelSubject Subject, ChannelTest Test, IReadOnlyList<string> Values)
{
    /// <summary>True when an arrival or a link meets the condition.</summary>
    public bool IsMetBy(ChannelFacts facts)
    {
        string text = facts.TextOf(Subject);
        return Test == ChannelTest.Empty ? text.Length == 0 : Accepts(text);
    }

    /// <summary>True when a text fulfils the comparison; an empty one never does.</summary>
    public bool Accepts(string text)
    {
        if (text.Length == 0)
        {
            return false;
        }

        foreach (string value in Values)
        {
            if (
                Test == ChannelTest.Is
                    ? text.Equals(value, StringComparison.OrdinalIgnoreCase)
                    : text.Contains(value, StringComparison.OrdinalIgnoreCase)
            )
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>The condition in words, such as “medium is cpc or ppc”.</summary>
    public string InWords() =>
        $"{Says(Subject)} {(Test == ChannelTest.Empty ? "is empty" : (Test == ChannelTest.Is ? "is " : "contains ") + string.Join(" or ", Values.Select(Readable)))}";

    /// <summary>Kinds of sites are one word in a file and two for people.</summary>
    private string Readable(string value) =>
        Subject != ChannelSubject.ReferrerKind
            ? value
            : string.Concat(
                value.Select((c, i) => i > 0 && char.IsUpper(c) ? $" {char.ToLowerInvariant(c)}" : char.ToLowerInvariant(c).ToString())
            );

    private static string Says(ChannelSubject subject) =>
        subject == ChannelSubject.ReferrerKind ? "kind of referrer" : subject.ToString().ToLowerInvariant();
}
