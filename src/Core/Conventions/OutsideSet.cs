namespace PreciseBeacon.Core.Conventions;

/// <summary>What happens to a character outside a field's set.</summary>
public enum OutsideSet
{
    Remove,
    Refuse,
}
