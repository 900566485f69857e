using System.Diagnostics;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>Waits for what is awaited, and fails when it doesn't come.</summary>
public static class Eventually
{
    /// <summary>Long enough for a machine that is busy with much else: what comes late is no fault, and what never comes is found all the same.</summary>
    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(3);

    public static Task Async(
        Func<Task<bool>> condition,
        [System.Runtime.CompilerServices.CallerArgumentExpression(nameof(condition))] string awaited = ""
    ) => Async(condition, Longest, awaited);

    public static async Task Async(
        Func<Task<bool>> condition,
        TimeSpan longest,
        [System.Runtime.CompilerServices.CallerArgumentExpression(nameof(condition))] string awaited = ""
    )
    {
        long began = Stopwatch.GetTimestamp();
        while (!await condition())
        {
            Assert.True(Stopwatch.GetElapsedTime(began) < longest, $"This never came: {awaited}");
            await Task.Delay(25);
        }
    }
}
