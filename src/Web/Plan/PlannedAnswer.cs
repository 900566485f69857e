using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>Where a planned link stands.</summary>
public enum PlannedState
{
    /// <summary>Something it is made from is not known yet.</summary>
    Incomplete,

    /// <summary>The convention stops it.</summary>
    Stopped,

    /// <summary>It can be made.</summary>
    Ready,

    /// <summary>It was made.</summary>
    Made,
}

/// <summary>A planned link with what would come of it, or what came.</summary>
/// <param name="Says">What is missing, or the gravest notice; null when there is nothing to say.</param>
/// <param name="Exists">A ready one whose link, short link included, is in the Ledger already.</param>
/// <param name="Strip">The URL it would have, or has, in segments.</param>
public sealed record PlannedAnswer(
    Guid Id,
    string Page,
    Guid? PlacementId,
    string? Placement,
    string? Content,
    string? Owner,
    DateOnly? DueOn,
    string? Note,
    PlannedState State,
    bool Overdue,
    string? Says,
    Severity? Severity,
    IReadOnlyList<StripSegment> Strip,
    Guid? LinkId,
    string? Url,
    string? ShortUrl,
    bool Exists
);

/// <summary>A row somebody wrote: a new one without an id, a changed one with it.</summary>
public sealed record PlannedRow(
    Guid? Id,
    string? Page,
    Guid? PlacementId = null,
    string? Content = null,
    string? Owner = null,
    DateOnly? DueOn = null,
    string? Note = null
);

/// <summary>Changes to a campaign's planned links.</summary>
/// <param name="Rows">New and changed rows; new ones go to the end, in this order.</param>
/// <param name="Removed">Ids of rows to take out; made links stay.</param>
/// <param name="Revision">The campaign's revision they were changed under.</param>
public sealed record PlannedChange(IReadOnlyList<PlannedRow>? Rows, IReadOnlyList<Guid>? Removed, int Revision);

/// <summary>Which planned links to make; all that can be made where it is left out.</summary>
/// <param name="Again">Makes links that exist already once more; otherwise those are used.</param>
public sealed record MakeRequest(IReadOnlyList<Guid>? Ids = null, bool Again = false);

/// <summary>What came of making planned links.</summary>
/// <param name="Used">Planned links that got a link which existed already.</param>
public sealed record MakeAnswer(int Made, int Used, CampaignDetail Campaign);

/// <summary>A sheet of planned links as it was read; nothing is stored.</summary>
/// <param name="Rows">Rows in the sheet's order.</param>
/// <param name="Unknown">Headings nothing is known about; their columns were left out.</param>
public sealed record PlanSheetRead(IReadOnlyList<SheetPlannedRow> Rows, IReadOnlyList<string> Unknown);

/// <summary>One row of the sheet.</summary>
/// <param name="Number">Its row in the sheet, the heading being 1.</param>
/// <param name="Problem">What can't be read in it, in one sentence; null when all was read.</param>
public sealed record SheetPlannedRow(int Number, PlannedRow Row, string? Placement, string? Problem);
