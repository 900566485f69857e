using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using PreciseBeacon.Data.Workspaces;

namespace PreciseBeacon.Data;

/// <summary>Lets the migrations tool build the model without a running application.</summary>
public sealed class BeaconDbForDesign : IDesignTimeDbContextFactory<BeaconDb>
{
    public BeaconDb CreateDbContext(string[] args) =>
        new(BeaconDbOptions.For("Host=localhost;Database=design"), new CurrentWorkspace());
}
