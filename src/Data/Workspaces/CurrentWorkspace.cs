namespace PreciseBeacon.Data.Workspaces;

/// <summary>The workspace a unit of work sees; without one, no workspace's rows are seen at all.</summary>
public sealed class CurrentWorkspace
{
    public Guid? Id { get; set; }
}
