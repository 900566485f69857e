namespace PreciseBeacon.Core.Batches;

/// <summary>What a run does with rows whose link is in the Ledger already.</summary>
public enum ExistingLinks
{
    /// <summary>The row gets that link.</summary>
    Use,

    /// <summary>The row gets a link of its own with the same URL.</summary>
    Again,
}
