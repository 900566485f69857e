namespace PreciseBeacon.Core.Conventions;

/// <summary>How a thing differs between two conventions.</summary>
public enum ChangeKind
{
    Added,
    Removed,
    Changed,
    Moved,
}
