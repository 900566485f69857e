namespace PreciseBeacon.Core.Batches;

/// <summary>What a run does with links earlier runs made for the same rows.</summary>
public enum ResultsMode
{
    /// <summary>They stay; only rows without a link get one.</summary>
    Keep,

    /// <summary>A row whose link would be another one now gets that; the earlier link stays in the Ledger.</summary>
    Afresh,
}
