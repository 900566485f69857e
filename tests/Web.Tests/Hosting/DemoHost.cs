namespace PreciseBeacon.WebTests.Hosting;

/// <summary>One demo shared by the tests that only add to it.</summary>
public sealed class DemoHost : IAsyncLifetime
{
    public BeaconHost Host { get; private set; } = null!;

    /// <summary>All tests ask from one address, and waiting for a link to be known is asking for what isn't there yet.</summary>
    public async Task InitializeAsync() => Host = await BeaconHost.StartAsync(visits: 300, more: "--Beacon:MostGuesses=100000");

    public async Task DisposeAsync() => await Host.DisposeAsync();
}

[CollectionDefinition(nameof(DemoHost))]
public sealed class DemoHostCollection : ICollectionFixture<DemoHost>;
