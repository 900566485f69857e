namespace PreciseBeacon.WebTests.Hosting;

/// <summary>One demo shared by the tests that only add to it.</summary>
public sealed class DemoHost : IAsyncLifetime
{
    public BeaconHost Host { get; private set; } = null!;

    public async Task InitializeAsync() => Host = await BeaconHost.StartAsync(visits: 300);

    public async Task DisposeAsync() => await Host.DisposeAsync();
}

[CollectionDefinition(nameof(DemoHost))]
public sealed class DemoHostCollection : ICollectionFixture<DemoHost>;
