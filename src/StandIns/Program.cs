using PreciseBeacon.StandIns.Ads;
using PreciseBeacon.StandIns.Garden;
using PreciseBeacon.StandIns.Inbox;
using PreciseBeacon.StandIns.Phone;

var builder = WebApplication.CreateBuilder(args);
builder.WebHost.ConfigureKestrel(kestrel => kestrel.AddServerHeader = false);
var app = builder.Build();
var garden = new GardenOptions(
    app.Configuration["StandIns:BeaconUrl"] ?? "http://localhost:5080",
    app.Configuration["StandIns:MeasuringKey"] ?? "demo-garden",
    app.Configuration["StandIns:OrchardKey"] ?? "demo-orchard",
    app.Configuration["StandIns:ReportKey"] ?? "demo-measuring"
);
using var shop = new ShopServer(garden, app.Logger);
app.MapGarden(garden, shop);
app.MapOrchard(garden);
app.MapAds(AdAccount.Of(app.Configuration["StandIns:AdSheet"]));
var letterbox = new Letterbox();
app.MapInbox(letterbox);
app.MapPhone();
if (int.TryParse(app.Configuration["StandIns:SmtpPort"], out int smtpPort))
{
    _ = letterbox
        .ListenAsync(smtpPort, app.Lifetime.ApplicationStopping)
        .ContinueWith(
            ended => app.Logger.LogError(ended.Exception, "The letterbox takes no mails."),
            CancellationToken.None,
            TaskContinuationOptions.OnlyOnFaulted,
            TaskScheduler.Default
        );
}

await app.RunAsync();
