using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing.Checks;

/// <summary>What a <c>#</c> hides: the rest of a value and the tags after it, or tags where nobody reads them.</summary>
internal static class FragmentCheck
{
    public static IEnumerable<Notice> Run(LinkContext link)
    {
        if (link.Destination is not { Fragment: { Length: > 0 } fragment } destination)
        {
            yield break;
        }

        if (CutShort(link.Convention, destination) is { } last)
        {
            yield return Notice.Of(
                NoticeRules.ValueCutShort,
                last.Key,
                $"{last.Label} was cut short by a #, and the tags after it are never read; write the # as %23."
            );
        }

        if (link.Settings.Style == TagStyle.Query && LinkReader.Read(destination, link.Convention.Tags).Found.Any(f => f.AfterHash))
        {
            yield return Notice.Of(
                NoticeRules.TagsHiddenInFragment,
                null,
                $"The address had tags after the # (#{fragment}), where this site doesn't read them; they were removed."
            );
        }
    }

    /// <summary>The field whose value a bare <c>#</c> cuts short, sending the tags after it into the fragment; null where none is.</summary>
    private static Field? CutShort(Convention convention, Destination destination)
    {
        if (destination.Query is not { Length: > 0 } query || convention.Find(RawPair.Split(query)[^1].Key) is not { } last)
        {
            return null;
        }

        var pieces = RawPair.Split(destination.Fragment);
        return
            pieces.Count > 1
            && !pieces[0].Raw.Contains('=', StringComparison.Ordinal)
            && pieces.Skip(1).Any(p => convention.Find(p.Key) is not null)
            ? last
            : null;
    }
}
