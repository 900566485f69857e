using System.Text;

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
        var looks = new StringBuilder(slug.Length);
        for (int at = 0; at < slug.Length; )
        {
            looks.Append(Next(slug, ref at));
        }

        return looks.ToString();
    }

    /// <summary>In how many ways a slug can be written that looks as given; to be compared with how many slugs there are.</summary>
    /// <param name="looks">What <see cref="Of"/> made of a slug.</param>
    public static double CountSpellings(string looks) => looks.Aggregate(1d, (count, look) => count * Spellings(look).Length);

    /// <summary>Every way to write a slug that looks as given, each made when it is asked for; they may be very many.</summary>
    /// <param name="looks">What <see cref="Of"/> made of a slug.</param>
    public static IEnumerable<string> Spell(string looks)
    {
        // Counted like a number whose every place has as many digits as its letter has spellings.
        string[][] places = [.. looks.Select(Spellings)];
        int[] chosen = new int[places.Length];
        while (true)
        {
            string slug = string.Concat(places.Select((spellings, i) => spellings[chosen[i]]));

            // Letters may come to stand side by side that are taken together: v before vv reads as vv before v.
            if (IsAs(slug, looks))
            {
                yield return slug;
            }

            int place = 0;
            while (place < places.Length && ++chosen[place] == places[place].Length)
            {
                chosen[place++] = 0;
            }

            if (place == places.Length)
            {
                yield break;
            }
        }
    }

    /// <summary>Whether a slug looks as given, seen at its first other letter; for going through very many.</summary>
    /// <param name="slug">The slug.</param>
    /// <param name="looks">What <see cref="Of"/> made of another one.</param>
    public static bool IsAs(string slug, string looks)
    {
        int at = 0;
        foreach (char look in looks)
        {
            if (at >= slug.Length || Next(slug, ref at) != look)
            {
                return false;
            }
        }

        return at == slug.Length;
    }

    private static string[] Spellings(char look) =>
        look switch
        {
            'o' => ["o", "0"],
            'l' => ["l", "1", "i"],
            's' => ["s", "5"],
            'z' => ["z", "2"],
            'b' => ["b", "8"],
            'm' => ["m", "rn"],
            'w' => ["w", "vv"],
            _ => [look.ToString()],
        };

    private static char Next(string slug, ref int at)
    {
        char c = char.ToLowerInvariant(slug[at++]);
        char next = at < slug.Length ? char.ToLowerInvariant(slug[at]) : '\0';
        if ((c, next) is ('r', 'n') or ('v', 'v'))
        {
            at++;
            return c == 'r' ? 'm' : 'w';
        }

        return c switch
        {
            '0' => 'o',
            '1' or 'i' => 'l',
            '5' => 's',
            '2' => 'z',
            '8' => 'b',
            _ => c,
        };
    }
}
