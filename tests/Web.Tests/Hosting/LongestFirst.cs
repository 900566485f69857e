using Xunit.Abstractions;

[assembly: TestCollectionOrderer("PreciseBeacon.WebTests.Hosting.LongestFirst", "PreciseBeacon.Web.Tests")]

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>Begins with the classes that take longest, so that none of them runs on alone at the end.</summary>
public sealed class LongestFirst : ITestCollectionOrderer
{
    private static readonly string[] Longest =
    [
        "Traffic.CrashTests",
        "Arrivals.SameFiguresTests",
        "Hosting.BadInputTests",
        "Arrivals.PackingTests",
        "Arrivals.SecondComputationTests",
        "Codes.CodeTests",
    ];

    /// <inheritdoc />
    public IEnumerable<ITestCollection> OrderTestCollections(IEnumerable<ITestCollection> testCollections) =>
        testCollections.OrderBy(c =>
            Array.FindIndex(Longest, l => c.DisplayName.EndsWith(l, StringComparison.Ordinal)) is >= 0 and var at ? at : int.MaxValue
        );
}
