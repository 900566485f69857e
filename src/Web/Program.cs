using PreciseBeacon.Web.Hosting;

var app = await BeaconApp.BuildAsync(args, CancellationToken.None);
if (app is null)
{
    return 1;
}

await app.RunAsync();
return 0;
