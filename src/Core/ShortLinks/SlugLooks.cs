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
        for (int at = 0; at < slug.Length;)
        {
            looks.Append(Next(slug, ref at));
        }

        return looks.ToString();
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
