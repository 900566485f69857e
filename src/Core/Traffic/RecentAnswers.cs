using System.Collections.Concurrent;

namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// Remembers answers that cost something to work out. It is bounded and gives way: when a generation is full it becomes the
/// one before, whose answers are kept for as long as they are asked for, and the one before that is forgotten. Safe for
/// many threads.
/// </summary>
/// <param name="most">Answers of one generation; at most twice as many are held.</param>
/// <param name="answer">Works an answer out; the same question always has the same.</param>
public sealed class RecentAnswers<TAnswer>(int most, Func<string, TAnswer> answer)
{
    private ConcurrentDictionary<string, TAnswer> _young = new(StringComparer.Ordinal);
    private ConcurrentDictionary<string, TAnswer> _old = new(StringComparer.Ordinal);
    private readonly Lock _turning = new();
    private int _count;

    /// <summary>How many answers are held.</summary>
    public int Count => _young.Count + _old.Count;

    /// <summary>The answer, remembered or worked out.</summary>
    public TAnswer For(string question)
    {
        if (_young.TryGetValue(question, out var known))
        {
            return known;
        }

        if (!_old.TryGetValue(question, out known))
        {
            known = answer(question);
        }

        // Counting a dictionary takes all its locks, so the count is kept beside it.
        if (_young.TryAdd(question, known) && Interlocked.Increment(ref _count) >= most)
        {
            lock (_turning)
            {
                if (_count >= most)
                {
                    (_old, _young) = (_young, new(StringComparer.Ordinal));
                    _count = 0;
                }
            }
        }

        return known;
    }
}
