using PreciseBeacon.Web.Hosting;

await using var app = BeaconApp.Build(args);
await app.RunAsync();
return Environment.ExitCode;
