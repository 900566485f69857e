using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Batches;

/// <summary>How links are made of a sheet's rows.</summary>
public sealed record Recipe
{
    /// <summary>The page's address.</summary>
    public CellSource? Destination { get; init; }

    /// <summary>Id or name of the placement; null for none.</summary>
    public CellSource? Placement { get; init; }

    /// <summary>Id or name of the campaign; null for none.</summary>
    public CellSource? Campaign { get; init; }

    /// <summary>What feeds fields, by key or label; the others follow from placement and campaign.</summary>
    public IReadOnlyDictionary<string, CellSource> Fields { get; init; } = new Dictionary<string, CellSource>();

    /// <summary>The column the tagged link is written into; null for a new one.</summary>
    public CellSource? Output { get; init; }

    /// <summary>What a link is called; null for what it is made from.</summary>
    public CellSource? Title { get; init; }

    /// <summary>A text that goes out beside each link: <c>@{Heading}</c> stands for that column of the row, <c>@{link}</c> for its link; null for none.</summary>
    public string? LinkText { get; init; }

    /// <summary>True for a short link and a code with each link.</summary>
    public bool Shorten { get; init; }

    /// <summary>What happens to rows that have a link from an earlier run.</summary>
    public ResultsMode Results { get; init; } = ResultsMode.Keep;

    /// <summary>What happens to rows whose link is in the Ledger already, whoever made it.</summary>
    public ExistingLinks Existing { get; init; } = ExistingLinks.Use;
}

/// <summary>What a run does with rows whose link is in the Ledger already.</summary>
public enum ExistingLinks
{
    /// <summary>The row gets that link.</summary>
    Use,

    /// <summary>The row gets a link of its own with the same URL.</summary>
    Again,
}

/// <summary>What a run does with links earlier runs made for the same rows.</summary>
public enum ResultsMode
{
    /// <summary>They stay; only rows without a link get one.</summary>
    Keep,

    /// <summary>A row whose link would be another one now gets that; the earlier link stays in the Ledger.</summary>
    Afresh,
}
