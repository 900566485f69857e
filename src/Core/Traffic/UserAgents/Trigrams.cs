namespace PreciseBeacon.Core.Traffic.UserAgents;

/// <summary>
/// The runs of three characters in a text, whatever their case, as a few bits. A text that lacks one of a word's lacks the word; that is
/// told without looking through the text again for each of a thousand words.
/// </summary>
public sealed class Trigrams
{
    private const int Bits = 1 << 13;
    private const uint Multiplier = 2_654_435_761; // Knuth, The Art of Computer Programming, volume 3, section 6.4

    private readonly ulong[] _bits = new ulong[Bits / 64];

    /// <summary>Those of a text.</summary>
    public Trigrams(ReadOnlySpan<char> text)
    {
        for (int i = 0; i + 3 <= text.Length; i++)
        {
            int bit = BitOf(text[i], text[i + 1], text[i + 2]);
            _bits[bit >> 6] |= 1UL << (bit & 63);
        }
    }

    /// <summary>The bits of a word, which it can be looked up by.</summary>
    /// <param name="word">Three characters or more.</param>
    public static int[] Of(string word) =>
        [.. Enumerable.Range(0, Math.Max(0, word.Length - 2)).Select(i => BitOf(word[i], word[i + 1], word[i + 2])).Distinct()];

    /// <summary>False where the text lacks a word with these bits; true where it may hold it.</summary>
    public bool MayHold(int[] bits)
    {
        foreach (int bit in bits)
        {
            if ((_bits[bit >> 6] & (1UL << (bit & 63))) == 0)
            {
                return false;
            }
        }

        return true;
    }

    private static int BitOf(char one, char two, char three) =>
        (int)((((Folded(one) * 31) + Folded(two)) * 31 + Folded(three)) * Multiplier >> 19);

    private static uint Folded(char letter) => letter is >= 'A' and <= 'Z' ? (uint)(letter | ' ') : letter;
}
