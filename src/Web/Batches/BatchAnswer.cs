using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Batches;

/// <summary>A batch with how far it is.</summary>
/// <param name="State">Where its newest run stands; <c>draft</c> before the first.</param>
/// <param name="Done">Rows the newest run worked through.</param>
/// <param name="Ready">Rows that have or would get a link, as last counted or run.</param>
/// <param name="Stopped">Rows that yield none.</param>
/// <param name="Notices">How many rows each rule speaks about.</param>
/// <param name="IsGuess">True until somebody has looked the guessed recipe over.</param>
/// <param name="Revision">To be sent along when the recipe is changed.</param>
/// <param name="Undo">The edit that would be taken back, in a few words; null for none.</param>
/// <param name="Redo">The edit that would be put again; null for none.</param>
/// <param name="Follows">The batch whose next file this is; null for none.</param>
public sealed record BatchAnswer(
    Guid Id,
    string Name,
    BatchStage State,
    int Done,
    int Total,
    int Ready,
    int Stopped,
    IReadOnlyDictionary<string, int> Notices,
    IReadOnlyList<string> Columns,
    Recipe Recipe,
    bool IsGuess,
    int Revision,
    ReadingAnswer Reading,
    IReadOnlyDictionary<string, int> Outcomes,
    IReadOnlyList<RunAnswer> Runs,
    string? Undo,
    string? Redo,
    Guid? Follows,
    string CreatedBy,
    DateTimeOffset CreatedAt
);

/// <summary>How its file was read.</summary>
/// <param name="Sheet">Name of the sheet of a workbook.</param>
/// <param name="Sheets">Names of all its sheets.</param>
public sealed record ReadingAnswer(
    bool IsWorkbook,
    FileEncoding Encoding,
    string Separator,
    string? Sheet,
    IReadOnlyList<string> Sheets,
    int HeadingRow
);

/// <summary>What a sheet says that the one it follows did not.</summary>
/// <param name="Earlier">The batch it follows.</param>
/// <param name="Key">The column rows are recognised by; null when only equal rows are recognised.</param>
/// <param name="Same">Rows that are as before.</param>
/// <param name="ChangedRows">The first changed rows with the columns that differ.</param>
/// <param name="AddedRows">Numbers of the first new rows.</param>
/// <param name="GoneRows">The first rows that are no longer there.</param>
public sealed record DifferenceAnswer(
    Guid Earlier,
    string EarlierName,
    string? Key,
    int Same,
    int Changed,
    int Added,
    int Gone,
    IReadOnlyList<ChangedRow> ChangedRows,
    IReadOnlyList<int> AddedRows,
    IReadOnlyList<GoneRow> GoneRows
);

public sealed record ChangedRow(int Number, IReadOnlyList<string> Columns);

public sealed record GoneRow(int Number, IReadOnlyList<string> Cells);

/// <summary>One run, as history keeps it.</summary>
/// <param name="Used">Rows that got a link which existed already.</param>
public sealed record RunAnswer(
    int Number,
    BatchState State,
    int Done,
    int Total,
    int Made,
    int Used,
    int Changed,
    int Unchanged,
    int Stopped,
    string? Problem,
    Recipe Recipe,
    string StartedBy,
    DateTimeOffset StartedAt,
    DateTimeOffset? EndedAt
);

/// <summary>A batch in the list of them.</summary>
public sealed record BatchSummary(
    Guid Id,
    string Name,
    BatchStage State,
    int Done,
    int Total,
    string CreatedBy,
    DateTimeOffset CreatedAt,
    DateTimeOffset? RunAt
);

/// <summary>Rows of a batch with what would come of each now.</summary>
public sealed record BatchRowsAnswer(IReadOnlyList<BatchRowAnswer> Rows, int Total);

/// <summary>One row.</summary>
/// <param name="Number">Its place in the sheet, from 1; headings are not counted.</param>
/// <param name="Overrides">Values typed for this row alone.</param>
/// <param name="Asked">What the row asks for, by field key, or by <c>destination</c>, <c>placement</c>, <c>campaign</c>, <c>linkTitle</c>: its typed values and what the recipe feeds.</param>
/// <param name="Outcome">What a run would make of it.</param>
/// <param name="Earlier">The URL an earlier run gave it.</param>
/// <param name="Values">Written values by field key.</param>
/// <param name="LinkText">The text beside its link, filled in; null where the recipe has none, or there is no link.</param>
public sealed record BatchRowAnswer(
    int Number,
    IReadOnlyList<string> Cells,
    Dictionary<string, string> Overrides,
    Dictionary<string, string> Asked,
    string Outcome,
    string? Earlier,
    string? Url,
    IReadOnlyList<StripSegment> Strip,
    Dictionary<string, string> Values,
    IReadOnlyList<Notice> Notices,
    Guid? LinkId,
    string? LinkText
);

/// <summary>A recipe as somebody changed it.</summary>
public sealed record RecipeChange(Recipe? Recipe, int Revision);

/// <summary>Values typed for single rows; null takes one back.</summary>
/// <param name="Says">What is done, in a few words, as undo will call it; null for a plain description.</param>
public sealed record OverrideChange(IReadOnlyList<RowOverride>? Rows, string? Says = null);

/// <summary>A repair for every row with the same notice.</summary>
/// <param name="Rule">The notice's rule.</param>
/// <param name="Field">The field the repair changes; null for the page.</param>
/// <param name="Value">The value it puts there.</param>
public sealed record RepairChange(string Rule, string? Field, string Value);

/// <summary>An edit that was made, taken back or put again.</summary>
/// <param name="Rows">Rows it changed.</param>
/// <param name="Says">What it was, in a few words.</param>
public sealed record EditAnswer(int Rows, string Says);

/// <summary>One row's typed values, by field key, or by <c>destination</c>, <c>placement</c>, <c>campaign</c>, <c>linkTitle</c>.</summary>
public sealed record RowOverride(int Number, Dictionary<string, string?>? Values);

/// <summary>How far a count is; the last line has the answer.</summary>
public sealed record CountProgress(int Done, int Total, CountAnswer? Answer);

/// <summary>What a run would do.</summary>
/// <param name="Outcomes">Rows by outcome.</param>
/// <param name="Rules">Rows by rule, gravest and most frequent first.</param>
/// <param name="Samples">A few rows before and after.</param>
/// <param name="Differing">Rows that keep the link of an earlier run, though the recipe would write another now; among the unchanged.</param>
public sealed record CountAnswer(
    IReadOnlyDictionary<string, int> Outcomes,
    IReadOnlyList<RuleCount> Rules,
    IReadOnlyList<CountSample> Samples,
    int Differing
);

public sealed record RuleCount(string Rule, Severity Severity, int Rows, string Example);

public sealed record CountSample(int Number, string Outcome, string? Before, string? After, string? Says);

/// <summary>A kept recipe.</summary>
public sealed record SavedRecipeAnswer(
    Guid Id,
    string Name,
    IReadOnlyList<string> Headings,
    Recipe Recipe,
    bool Fits,
    string SavedBy,
    DateTimeOffset SavedAt
);

/// <summary>A recipe to be kept under a name; an old one of that name is replaced.</summary>
public sealed record SaveRecipeRequest(string? Name, Guid Batch);

/// <summary>A batch that was uploaded.</summary>
public sealed record BatchMade(Guid Id);

/// <summary>How far a batch is.</summary>
public enum BatchStage
{
    /// <summary>It was never run.</summary>
    Draft,

    /// <summary>Its run goes on, also after a restart.</summary>
    Running,

    /// <summary>Every row was worked through.</summary>
    Finished,

    /// <summary>Somebody stopped its run; what it made so far stays.</summary>
    Cancelled,

    /// <summary>Its run broke off; it goes on with what is left when it is run again.</summary>
    Broken,
}
