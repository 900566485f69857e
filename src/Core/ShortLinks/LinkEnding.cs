using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>How a new link's short links end.</summary>
/// <param name="At">ISO 8601 with an offset, or a local date and time in the workspace's zone; null or empty for never.</param>
/// <param name="Uses">After so many clicks and scans; null where those do not end them.</param>
/// <param name="Fallback">Where they lead then; null or empty for a plain page that says so.</param>
public sealed record Ending(string? At = null, int? Uses = null, string? Fallback = null);

/// <summary>An ending that may be stored.</summary>
/// <param name="At">When; null for never.</param>
/// <param name="Uses">After so many clicks and scans; null where those do not end it.</param>
/// <param name="Fallback">Where the short links lead then, ASCII; null for nowhere.</param>
public sealed record SettledEnding(DateTimeOffset? At, int? Uses, string? Fallback);

/// <summary>When short links end, and where they lead then.</summary>
public static class LinkEnding
{
    /// <summary>Most uses after which a link can end (ours).</summary>
    public const int MostUses = 1_000_000_000;

    /// <summary>The ending as it is stored, or why it can't be taken as it is.</summary>
    /// <param name="ending">The ending as it was written.</param>
    /// <param name="facts">What is known about the outside.</param>
    /// <param name="zone">IANA name of the workspace's zone.</param>
    public static Outcome<SettledEnding> Settle(Ending ending, LinkFacts facts, string zone)
    {
        string? fallback = null;
        if (!string.IsNullOrWhiteSpace(ending.Fallback))
        {
            var page = RedirectPage.Accept(ending.Fallback.Trim(), "fallback", facts);
            if (page.IsRefused)
            {
                return page.Refusal;
            }

            fallback = TagWriter.WriteBare(page.Value);
        }

        var (at, unreadable) = ReadMoment(ending.At, zone);
        return unreadable is not null ? unreadable
            : ending.Uses is < 1 or > MostUses ? Refusal.Invalid("uses-refused", $"A link ends after 1 to {MostUses:N0} uses.")
            : new SettledEnding(at, ending.Uses, fallback);
    }

    /// <summary>A moment as people write it; null for an empty text.</summary>
    /// <param name="text">ISO 8601 with an offset, or a local date and time in the workspace's zone.</param>
    /// <param name="zone">IANA name of the workspace's zone.</param>
    /// <returns>The moment, or why there is none.</returns>
    public static (DateTimeOffset? Moment, Refusal? Unreadable) ReadMoment(string? text, string zone) =>
        string.IsNullOrWhiteSpace(text) ? (null, null)
        : WorkspaceMoment.Read(text, zone) is { } moment ? (moment, null)
        : (
            null,
            Refusal.Invalid(
                "end-unreadable",
                $"“{text.Trim()}” isn't a date and time; write it like 2026-12-24T18:00, in the workspace’s time zone."
            )
        );
}
