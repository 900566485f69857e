using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>A file of another system's figures that was imported, or is being.</summary>
/// <param name="Id">Its id.</param>
/// <param name="System">What the other system is called.</param>
/// <param name="Name">The file's name.</param>
/// <param name="Lines">Rows read.</param>
/// <param name="Done">Rows that are through so far.</param>
/// <param name="Kept">Rows whose figures count.</param>
/// <param name="Skipped">Rows left out, by why.</param>
/// <param name="FirstDay">The first day with a figure; null while it goes on.</param>
/// <param name="LastDay">The last day with a figure; null while it goes on.</param>
/// <param name="MadeAt">When it began.</param>
/// <param name="MadeBy">Who began it.</param>
/// <param name="FinishedAt">When it was through; null while it goes on.</param>
/// <param name="UndoneAt">When it was undone; null where it counts.</param>
/// <param name="UndoneBy">Who undid it.</param>
public sealed record FigureImport(
    Guid Id,
    string System,
    string Name,
    int Lines,
    int Done,
    int Kept,
    IReadOnlyDictionary<ImportProblem, int> Skipped,
    DateOnly? FirstDay,
    DateOnly? LastDay,
    DateTimeOffset MadeAt,
    string MadeBy,
    DateTimeOffset? FinishedAt = null,
    DateTimeOffset? UndoneAt = null,
    string? UndoneBy = null
);
