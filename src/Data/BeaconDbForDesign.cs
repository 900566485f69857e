using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using PreciseBeacon.Data.Workspaces;

namespace PreciseBeacon.Data;

/// <summary>Lets the migrations tool build the model without a running application.</summary>
public sealed class BeaconDbForDesign : IDesignTimeDbContextFactory<BeaconDb>
{
    public BeaconDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<BeaconDb>();
        BeaconDbOptions.Configure(options, BeaconDatabase.Open("Host=localhost;Database=design"));
        return new(options.Options, new CurrentWorkspace());
    }
}
