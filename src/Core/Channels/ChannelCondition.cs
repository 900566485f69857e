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

/// <summary>How a channel's condition looks at its subject.</summary>
public enum ChannelTest
{
    /// <summary>Is one of the values, whatever the case.</summary>
    Is,

    /// <summary>Holds one of the values, whatever the case.</summary>
    Contains,

    /// <summary>Has no value.</summary>
    Empty,
}

/// <summary>What a channel's condition looks at.</summary>
public enum ChannelSubject
{
    Source,
    Medium,
    Campaign,

    /// <summary>The referrer's host.</summary>
    Referrer,

    /// <summary>The referrer's kind, by the names of <see cref="Channels.ReferrerKind"/>.</summary>
    ReferrerKind,

    /// <summary>Whether any tag is there: <c>yes</c> or <c>no</c>.</summary>
    Tagged,

    /// <summary>Whether it came through a printed code: <c>yes</c> or <c>no</c>.</summary>
    Printed,
}
