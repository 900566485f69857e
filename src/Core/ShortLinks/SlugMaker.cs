using System.Security.Cryptography;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Makes and checks slugs. Slugs ignore case; they are kept in lower case.</summary>
public static class SlugMaker
{
    /// <summary>No vowels, so that no words come out by accident, and nothing that looks like something else.</summary>
    public const string Alphabet = "cdfghjkmnprtvwx234679";

    public const int ShortestMade = 6;

    /// <summary>A made-up slug grows when one in so many of its length is taken (ours).</summary>
    private const long Sparseness = 1_000;

    private static readonly HashSet<string> Reserved =
    [
        "api",
        "admin",
        "account",
        "beacon",
        "favicon",
        "healthz",
        "help",
        "index",
        "login",
        "measure",
        "openapi",
        "readyz",
        "robots",
        "sign-in",
        "sitemap",
        "static",
        "where",
        "www",
    ];

    /// <summary>Where the interface and its calls are; a short link there would hide them while the server's own host serves short links.</summary>
    private static readonly HashSet<string> Places =
    [
        "arrivals",
        "assets",
        "batches",
        "compose",
        "conventions",
        "for",
        "ledger",
        "plan",
        "proof",
        "results",
        "no-more-mails",
        "join",
        "try",
        "welcome",
        "workspace",
    ];

    /// <summary>Length a made-up slug needs while so many are taken on the domain.</summary>
    public static int LengthFor(long taken)
    {
        int length = ShortestMade;
        double space = Math.Pow(Alphabet.Length, length);
        while (taken * Sparseness > space)
        {
            length++;
            space *= Alphabet.Length;
        }

        return length;
    }

    /// <summary>A made-up slug from a source of random numbers (below a bound).</summary>
    public static string Make(int length, Func<int, int> random) => string.Create(length, random, static (span, next) =>
        {
            for (int i = 0; i < span.Length; i++)
            {
                span[i] = Alphabet[next(Alphabet.Length)];
            }
        });

    /// <summary>A made-up slug nobody can guess; its octets are drawn together, for asking the system for each is slow.</summary>
    public static string Make(int length)
    {
        int usable = 256 - (256 % Alphabet.Length); // an octet above it would favour the first letters
        byte[] octets = [];
        int at = 0;
        return Make(length, below =>
        {
            while (true)
            {
                if (at == octets.Length)
                {
                    (octets, at) = (RandomNumberGenerator.GetBytes(length + 4), 0);
                }

                if (octets[at++] is var octet && octet < usable)
                {
                    return octet % below;
                }
            }
        });
    }

    /// <summary>Why a chosen slug can't be used, or null when it can: 2–64 of <c>a–z 0–9 -</c>, no reserved word.</summary>
    public static string? WhyRefused(string slug)
    {
        string lower = slug.ToLowerInvariant();
        if (lower.Length is < 2 or > 64)
        {
            return "A slug has 2 to 64 characters; make this one " + (lower.Length < 2 ? "longer." : "shorter.");
        }

        if (!lower.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-') || lower[0] == '-' || lower[^1] == '-')
        {
            return "A slug is made of letters a–z, digits and hyphens inside; leave out anything else.";
        }

        return Reserved.Contains(lower) ? Taken(lower) : null;
    }

    /// <summary>Why a slug can't be chosen for a new link; as for those of another shortener, and it must not be the name of a place of the interface.</summary>
    public static string? WhyNotChosen(string slug) =>
        WhyRefused(slug) ?? (Places.Contains(slug.ToLowerInvariant()) ? Taken(slug.ToLowerInvariant()) : null);

    private static string Taken(string word) => $"“{word}” is reserved on every short domain; choose another word.";
}
