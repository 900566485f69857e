namespace PreciseBeacon.Core.ShortLinks;

/// <summary>
/// How slugs look: letters and digits that are taken for each other fall together, so that two slugs somebody could
/// confuse when reading them off paper are told (ours).
/// </summary>
public static class SlugLooks
{
    /// <summary>A slug as it looks; two that look alike give the same.</summary>
    public static string Of(string slug)
    {
        Span<char> looks = slug.Length <= 128 ? stackalloc char[slug.Length] : new char[slug.Length];
        return new string(looks[..Write(slug, looks)]);
    }

    /// <summary>Whether a slug looks as given, without being taken apart first; for going through many.</summary>
    public static bool IsAs(string slug, ReadOnlySpan<char> looks)
    {
        // A pair may fall together, so the slug is at most twice as long.
        if (slug.Length < looks.Length || slug.Length > 2 * looks.Length || slug.Length > 128)
        {
            return false;
        }

        Span<char> mine = stackalloc char[slug.Length];
        return mine[..Write(slug, mine)].SequenceEqual(looks);
    }

    private static int Write(string slug, Span<char> into)
    {
        int length = 0;
        for (int i = 0; i < slug.Length; i++)
        {
            char c = char.ToLowerInvariant(slug[i]);
            char next = i + 1 < slug.Length ? char.ToLowerInvariant(slug[i + 1]) : '\0';
            (char looks, bool pair) = (c, next) switch
            {
                ('r', 'n') => ('m', true),
                ('v', 'v') => ('w', true),
                ('0', _) => ('o', false),
                ('1' or 'i', _) => ('l', false),
                ('5', _) => ('s', false),
                ('2', _) => ('z', false),
                ('8', _) => ('b', false),
                _ => (c, false),
            };
            into[length++] = looks;
            i += pair ? 1 : 0;
        }

        return length;
    }
}
