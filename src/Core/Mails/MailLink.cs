namespace PreciseBeacon.Core.Mails;

/// <summary>Where in a mail a link stands.</summary>
public enum MailPlace
{
    Header,
    Body,
    Footer,
}

/// <summary>What a link looks like to whoever reads the mail.</summary>
public enum MailShape
{
    /// <summary>Words in a text.</summary>
    Link,

    /// <summary>Something made to be pressed.</summary>
    Button,

    /// <summary>A picture without words.</summary>
    Picture,
}

/// <summary>A link of an HTML mail.</summary>
/// <param name="Number">Its place among the mail's links, from 1.</param>
/// <param name="Start">Where the value of its <c>href</c> begins in the HTML, quotes not counted.</param>
/// <param name="Length">How many characters the value has there.</param>
/// <param name="Quote">The quote around it, or null.</param>
/// <param name="Href">The value with its character references read.</param>
/// <param name="Text">What is read there; the picture's alternative text where there are no words. May be empty.</param>
/// <param name="Place">Where it stands.</param>
/// <param name="Shape">What it looks like.</param>
public sealed record MailLink(int Number, int Start, int Length, char? Quote, string Href, string Text, MailPlace Place, MailShape Shape);
