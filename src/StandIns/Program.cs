using PreciseBeacon.StandIns.Garden;

var builder = WebApplication.CreateBuilder(args);
builder.WebHost.ConfigureKestrel(kestrel => kestrel.AddServerHeader = false);
var app = builder.Build();
app.MapGarden(new GardenOptions(
    app.Configuration["StandIns:BeaconUrl"] ?? "http://localhost:5080",
    app.Configuration["StandIns:MeasuringKey"] ?? "demo-garden"));
await app.RunAsync();
