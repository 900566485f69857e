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

    public ComposeAnswer Answer => ComposeAnswer.Of(Composed, Request.Title, [.. Narrowed()], Existing);

    /// <summary>Fields whose list is narrowed by what is chosen.</summary>
    private IEnumerable<NarrowedField> Narrowed()
    {
        var values = Composed.Fields.ToDictionary(f => f.Key, f => f.Value);
        foreach (var field in Composed.Fields)
        {
            if (ChoiceFindings.NarrowedTo(Convention, field.Key, key => values.GetValueOrDefault(key, ""), Placement?.Channel) is { } words)
            {
                yield return new NarrowedField(field.Key, words);
            }
        }
    }
}
