using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Steps;

/// <summary>What a step is told by.</summary>
public enum StepKind
{
    /// <summary>One page was seen.</summary>
    Page,

    /// <summary>A page was seen whose address begins like this.</summary>
    PageBegins,

    /// <summary>A page was seen whose address is like this, <c>*</c> standing for anything.</summary>
    PagePattern,

    /// <summary>An event of this name came.</summary>
    Event,

    /// <summary>A spot of this name was clicked.</summary>
    Clicked,

    /// <summary>A conversion of this kind; of any kind where none is named.</summary>
    Conversion,
}

/// <summary>One step of a way through a site. Written as its kind and what it is about: <c>page:/shop</c>, <c>event:basket begun</c>, <c>conversion:ticket</c>.</summary>
/// <param name="Kind">What it is told by.</param>
/// <param name="Text">The page as <see cref="DefinedPage.Read"/> gives it, or the name; empty for a conversion of any kind.</param>
public sealed record Step(StepKind Kind, string Text)
{
    /// <summary>Steps of a way at least.</summary>
    public const int Fewest = 2;

    /// <summary>Steps of a way at most (ours).</summary>
    public const int Most = 8;

    private const int LongestName = 100;

    /// <summary>Whether it is a page.</summary>
    public bool IsPage => Kind is StepKind.Page or StepKind.PageBegins or StepKind.PagePattern;

    /// <summary>How its page is compared; only for a page.</summary>
    public ConversionTest PageTest =>
        Kind switch
        {
            StepKind.PageBegins => ConversionTest.PageBegins,
            StepKind.PagePattern => ConversionTest.PagePattern,
            _ => ConversionTest.Page,
        };

    /// <summary>Reads one.</summary>
    /// <returns>The step, or why it can't be read.</returns>
    public static (Step? Step, string? Problem) Parse(string text)
    {
        int colon = text.IndexOf(':', StringComparison.Ordinal);
        string kind = colon < 0 ? "" : text[..colon];
        if (kind.Length == 0 || !kind.All(char.IsAsciiLetter) || !Enum.TryParse<StepKind>(kind, ignoreCase: true, out var found))
        {
            return (null, "A step is page, pageBegins, pagePattern, event, clicked or conversion, a colon, and what it is about.");
        }

        var step = new Step(found, InvisibleText.Remove(text[(colon + 1)..]).Trim());
        if (step.IsPage)
        {
            var (page, problem) = DefinedPage.Read(step.PageTest, step.Text);
            return page is null ? (null, problem) : (step with { Text = page }, null);
        }

        return step.Text.Length > LongestName || (step.Text.Length == 0 && found != StepKind.Conversion)
            ? (null, $"Give the name as the page sends it, in 1 to {LongestName} characters.")
            : (step, null);
    }

    public override string ToString()
    {
        string kind = Kind.ToString();
        return $"{char.ToLowerInvariant(kind[0])}{kind[1..]}:{Text}";
    }
}
