using PreciseBeacon.Core.Batches;

namespace PreciseBeacon.Data.Entities;

/// <summary>A sheet that was uploaded, with the recipe its links are made by. Its rows are written in bulk and have no objects.</summary>
public sealed class Batch : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>Name of the file, or what was pasted.</summary>
    public required string Name { get; set; }

    /// <summary>The file as it came, so that a workbook goes out with all that was in it.</summary>
    public required byte[] File { get; set; }

    public bool IsWorkbook { get; set; }

    public FileEncoding Encoding { get; set; }

    /// <summary>What stands between cells of a text file.</summary>
    public string Separator { get; set; } = ",";

    /// <summary>What ends a row of the text: CR LF, or LF alone.</summary>
    public string LineEnd { get; set; } = "\r\n";

    /// <summary>Every cell of the text is quoted.</summary>
    public bool AllQuoted { get; set; }

    /// <summary>Name of the sheet in a workbook.</summary>
    public string? Sheet { get; set; }

    /// <summary>Names of all sheets of a workbook, in their order.</summary>
    public List<string> Sheets { get; set; } = [];

    /// <summary>The batch this one comes after, as next month's file does; null for none.</summary>
    public Guid? Follows { get; set; }

    /// <summary>Row with the headings, from 1.</summary>
    public int HeadingRow { get; set; } = 1;

    public List<string> Headings { get; set; } = [];

    /// <summary>The recipe as JSON.</summary>
    public required string Recipe { get; set; }

    /// <summary>True until somebody has looked the guessed recipe over.</summary>
    public bool IsGuess { get; set; }

    public int Total { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Grows with every change of recipe or rows.</summary>
    public int Revision { get; set; }

    public List<BatchRun> Runs { get; set; } = [];
}
