using PreciseBeacon.Demo;
using PreciseBeacon.Web.Hosting;

await using var app = BeaconApp.Build(args, startData: DemoModule.Add);
await app.RunAsync();
return Environment.ExitCode;
