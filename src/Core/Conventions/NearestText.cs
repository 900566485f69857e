using System.Buffers;
using System.Collections.Frozen;

namespace PreciseBeacon.Core.Conventions;

/// <summary>
/// Finds the text another one was probably meant to be: the same letters apart from case and separators, or else the closest by
/// Damerau–Levenshtein distance (optimal string alignment), at most 1 from 4 letters on, at most 2 from 7. Short texts are never each
/// other's misspelling.
/// </summary>
public sealed class NearestText
{
    private const int Far = 1_000;

    private readonly FrozenDictionary<string, int> _byLetters;

    // Sorted, so that what texts begin with alike is compared once.
    private readonly (string Lower, int Place, int Common)[] _sorted;

    /// <param name="texts">The texts to choose among; of several that are equally near the first is found.</param>
    public NearestText(IEnumerable<string> texts)
    {
        string[] lower = [.. texts.Select(t => t.ToLowerInvariant())];
        var byLetters = new Dictionary<string, int>(StringComparer.Ordinal);
        for (int i = 0; i < lower.Length; i++)
        {
            byLetters.TryAdd(WordList.Letters(lower[i]), i);
        }

        _byLetters = byLetters.ToFrozenDictionary(StringComparer.Ordinal);
        var order = lower.Select((text, place) => (text, place)).OrderBy(t => t.text, StringComparer.Ordinal).ToList();
        _sorted =
        [
            .. order.Select((t, i) => (t.text, t.place, i == 0 ? 0 : MemoryExtensions.CommonPrefixLength<char>(order[i - 1].text, t.text))),
        ];
    }

    /// <summary>The place of the nearest text, counted from 0; -1 where none is near.</summary>
    public int PlaceOf(string text)
    {
        string letters = WordList.Letters(text);
        if (letters.Length > 0 && _byLetters.TryGetValue(letters, out int same))
        {
            return same;
        }

        string lower = text.ToLowerInvariant();
        int most = AllowedAt(lower.Length);
        return most == 0 ? -1 : Closest(lower, most);
    }

    /// <summary>How far a text may be from another one, when the shorter of them has so many letters.</summary>
    private static int AllowedAt(int letters) =>
        letters >= 7 ? 2
        : letters >= 4 ? 1
        : 0;

    private int Closest(string text, int most)
    {
        int width = text.Length + 2;
        int[] cells = ArrayPool<int>.Shared.Rent((text.Length + most + 1) * width);
        int[] least = ArrayPool<int>.Shared.Rent(text.Length + most + 1);
        for (int j = 0; j < width; j++)
        {
            cells[j] = j;
        }

        least[0] = 0;
        var (nearest, best) = (-1, Far);
        int known = 0; // rows that hold for what this text begins with
        int hopeless = int.MaxValue; // letters of the one before after which it was too far
        foreach (var (other, place, common) in _sorted)
        {
            known = Math.Min(known, common);
            if (hopeless <= common)
            {
                continue;
            }

            hopeless = int.MaxValue;
            if (Math.Abs(other.Length - text.Length) > most)
            {
                continue;
            }

            while (known < other.Length && hopeless == int.MaxValue)
            {
                known++;
                least[known] = AddRow(cells, width, text, other, known, most);

                // A transposition reaches over one row, so both must be too far.
                if (least[known] > most && least[known - 1] >= most)
                {
                    hopeless = known;
                }
            }

            int distance = hopeless == int.MaxValue ? cells[(other.Length * width) + text.Length] : Far;
            if (distance <= AllowedAt(Math.Min(other.Length, text.Length)) && (distance, place).CompareTo((best, nearest)) < 0)
            {
                (best, nearest) = (distance, place);
            }
        }

        ArrayPool<int>.Shared.Return(cells);
        ArrayPool<int>.Shared.Return(least);
        return nearest;
    }

    /// <summary>Compares one more letter of the other text, as far from the diagonal as may matter.</summary>
    /// <returns>The least of the row.</returns>
    private static int AddRow(int[] cells, int width, string text, string other, int row, int most)
    {
        var above = cells.AsSpan((row - 1) * width, width);
        var here = cells.AsSpan(row * width, width);
        int from = Math.Max(1, row - most);
        int to = Math.Min(text.Length, row + most);
        int least = here[from - 1] = from == 1 ? row : Far;
        for (int j = from; j <= to; j++)
        {
            bool same = text[j - 1] == other[row - 1];
            int distance = Math.Min(above[j - 1] + (same ? 0 : 1), Math.Min(above[j], here[j - 1]) + 1);
            if (row > 1 && j > 1 && text[j - 1] == other[row - 2] && text[j - 2] == other[row - 1])
            {
                distance = Math.Min(distance, cells[((row - 2) * width) + j - 2] + 1);
            }

            here[j] = distance;
            least = Math.Min(least, distance);
        }

        here[to + 1] = Far;
        return least;
    }
}
