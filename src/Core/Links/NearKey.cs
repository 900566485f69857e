using F23.StringSimilarity;

namespace PreciseBeacon.Core.Links;

/// <summary>Tells when a parameter's key was probably meant to be another one (ours).</summary>
public static class NearKey
{
    private const int FewestLetters = 4;
    private const int FewestForSlip = 7;

    private static readonly Damerau Distance = new();

    /// <summary>
    /// The known key this one was probably meant to be: the same letters with another separator or case, else one slip away
    /// (<c>utm_soruce</c>, <c>utm-source</c>); null when none is near, and for keys of fewer than four letters.
    /// </summary>
    /// <param name="key">A decoded key.</param>
    /// <param name="known">Known keys, in the order in which they are tried.</param>
    public static string? Of(string key, IReadOnlyCollection<string> known)
    {
        string letters = Letters(key);
        if (letters.Length < FewestLetters)
        {
            return null;
        }

        string lower = key.ToLowerInvariant();
        return known.FirstOrDefault(k => Letters(k) == letters) ?? known.FirstOrDefault(k => IsSlip(k, lower));
    }

    private static bool IsSlip(string known, string key) =>
        known.Length >= FewestForSlip && Math.Abs(known.Length - key.Length) <= 1 && Distance.Distance(known.ToLowerInvariant(), key) <= 1;

    private static string Letters(string key) => string.Concat(key.Where(char.IsLetterOrDigit)).ToLowerInvariant();
}
