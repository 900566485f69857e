using System.Text.Json;

namespace PreciseBeacon.Core.Accounts;

/// <summary>What keeps a password from being accepted.</summary>
public enum PasswordFault
{
    TooShort,
    TooLong,
    Common,
    OwnWords,
}

/// <summary>
/// Which passwords are refused: short ones, those everybody tries first, and those made of what is known about the person.
/// Nothing is asked of their letters (OWASP ASVS 4.0.3, 2.1.1 to 2.1.9; NIST SP 800-63B §5.1.1.2).
/// </summary>
public static class PasswordRules
{
    public const int Shortest = 12;
    public const int Longest = 200;

    /// <summary>So much of a password must be left once known words are taken out of it (ours).</summary>
    private const int LeastOfItsOwn = 6;

    /// <summary>Shorter words say nothing about a person.</summary>
    private const int ShortestWord = 4;

    private static readonly Lazy<HashSet<string>> Common = new(Load);

    /// <summary>What is wrong with a password; null for one that is accepted.</summary>
    /// <param name="password">The password as typed.</param>
    /// <param name="ownWords">What is known about the person: name, mail address, workspace, hosts.</param>
    public static PasswordFault? FaultOf(string password, IEnumerable<string> ownWords)
    {
        if (password.Length < Shortest)
        {
            return PasswordFault.TooShort;
        }

        if (password.Length > Longest)
        {
            return PasswordFault.TooLong;
        }

        string plain = password.ToLowerInvariant();
        string core = plain.Trim([.. "0123456789!?.,-_#$*+ "]);
        if (Common.Value.Contains(plain) || Common.Value.Contains(core) || IsRepeated(plain))
        {
            return PasswordFault.Common;
        }

        string rest = plain;
        foreach (string word in ownWords.SelectMany(WordsOf).Distinct().OrderByDescending(w => w.Length))
        {
            rest = rest.Replace(word, "", StringComparison.Ordinal);
        }

        return rest.Length < plain.Length && rest.Count(char.IsLetterOrDigit) < LeastOfItsOwn ? PasswordFault.OwnWords : null;
    }

    private static IEnumerable<string> WordsOf(string text) =>
        text.ToLowerInvariant()
            .Split([' ', '@', '.', '-', '_', ':', '/', '\'', ','], StringSplitOptions.RemoveEmptyEntries)
            .Where(w => w.Length >= ShortestWord)
            .Append(string.Concat(text.ToLowerInvariant().Where(char.IsLetterOrDigit)))
            .Where(w => w.Length >= ShortestWord);

    /// <summary>One short piece over and over, such as <c>abcabcabcabc</c>.</summary>
    private static bool IsRepeated(string text)
    {
        for (int piece = 1; piece <= 4; piece++)
        {
            if (text.AsSpan(piece).SequenceEqual(text.AsSpan(0, text.Length - piece)))
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>The list of @zxcvbn-ts/language-common (MIT), an open data set of the npm registry.</summary>
    private static HashSet<string> Load()
    {
        using var stream = typeof(PasswordRules).Assembly.GetManifestResourceStream("common-passwords.json")
            ?? throw new InvalidOperationException("The list of common passwords is not embedded.");
        return JsonSerializer.Deserialize<HashSet<string>>(stream)!;
    }
}
