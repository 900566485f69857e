using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Composing.Checks;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>
/// A composed link with the rows it was made from. <c>Page</c> is the page's address as typed, without tags, null when
/// it was refused.
/// </summary>
public sealed record WorkedLink(
    ComposeRequest Request, ComposedLink Composed, string? Page, Campaign? Campaign, Placement? Placement, Convention Convention, LinkFacts Facts)
{
    /// <summary>A link in the Ledger with exactly this URL, or null.</summary>
    public ExistingLink? Existing { get; init; }

    /// <summary>How its short links end; null where they do not.</summary>
    public SettledEnding? Ending { get; init; }

    public ComposeAnswer Answer => ComposeAnswer.Of(Composed, Request.Title, [.. Narrowed()], Existing);

    /// <summary>Fields whose list is narrowed by what is chosen.</summary>
    private IEnumerable<NarrowedField> Narrowed()
    {
        var values = Composed.Fields.ToDictionary(f => f.Key, f => f.Value);
        foreach (var field in Composed.Fields)
        {
            if (ChoiceCheck.NarrowedTo(Convention, field.Key, key => values.GetValueOrDefault(key, ""), Placement?.Channel) is { } words)
            {
                yield return new NarrowedField(field.Key, words);
            }
        }
    }
}

/// <summary>An ending that may be stored.</summary>
/// <param name="At">When; null for never.</param>
/// <param name="Uses">After so many clicks and scans; null where those do not end it.</param>
/// <param name="Fallback">Where the short links lead then, ASCII; null for nowhere.</param>
public sealed record SettledEnding(DateTimeOffset? At, int? Uses, string? Fallback);
