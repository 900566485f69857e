using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>A composed link with the rows it was made from, ready to be stored where it may be.</summary>
/// <param name="Request">What was asked for.</param>
/// <param name="Composed">What came of it.</param>
/// <param name="Inputs">What it was composed from.</param>
/// <param name="Campaign">Its campaign: the one named, or the one its value belongs to; null for none.</param>
/// <param name="Placement">Its placement likewise.</param>
public sealed record PreparedLink(
    ComposeRequest Request,
    ComposedLink Composed,
    LinkInputs Inputs,
    Campaign? Campaign,
    Placement? Placement
)
{
    /// <summary>The convention it follows.</summary>
    public Convention Convention => Inputs.Convention;

    /// <summary>A link in the Ledger with exactly this URL, or null.</summary>
    public ExistingLink? Existing { get; init; }

    /// <summary>How its short links end; null where they do not.</summary>
    public SettledEnding? Ending { get; init; }
}
