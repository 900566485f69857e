using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;

namespace PreciseBeacon.Web.Batches;

/// <summary>
/// A sheet that comes after an earlier one, as next month's file does: rows that are in both keep their links, and it is
/// said what is new, changed and gone.
/// </summary>
public sealed class NextFile(BeaconDb db, BatchRows rows)
{
    private const int Samples = 20;

    /// <summary>The difference to the sheet it follows; null when it follows none.</summary>
    public async Task<DifferenceAnswer?> DifferenceAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } found)
        {
            return null;
        }

        var difference = found.Difference;
        var changed = difference.Pairs.Where(p => p.Columns.Count > 0).ToList();
        return new DifferenceAnswer(
            found.Earlier,
            found.Name,
            difference.Key,
            difference.Pairs.Count - changed.Count,
            changed.Count,
            difference.Added.Count,
            difference.Gone.Count,
            [.. changed.Take(Samples).Select(p => new ChangedRow(p.After, p.Columns))],
            [.. difference.Added.Take(Samples)],
            [.. difference.Gone.Take(Samples).Select(n => new GoneRow(n, [.. found.Before.Rows[n - 1]]))]
        );
    }

    /// <summary>Gives rows that were in the earlier sheet the links they had there.</summary>
    public async Task CarryOnAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is { } found)
        {
            await rows.CarryOnAsync(found.Earlier, id, [.. found.Difference.Pairs.Select(p => (p.Before, p.After))], cancel);
        }
    }

    private async Task<(Guid Earlier, string Name, Table Before, SheetDifference Difference)?> FindAsync(Guid id, CancellationToken cancel)
    {
        var later = await db
            .Batches.Where(b => b.Id == id)
            .Select(b => new
            {
                b.Follows,
                b.Headings,
                b.Recipe,
            })
            .SingleOrDefaultAsync(cancel);
        var earlier = await db
            .Batches.Where(b => later != null && b.Id == later.Follows)
            .Select(b => new
            {
                b.Id,
                b.Name,
                b.Headings,
            })
            .SingleOrDefaultAsync(cancel);
        if (later is null || earlier is null)
        {
            return null;
        }

        var before = await TableAsync(earlier.Id, earlier.Headings, cancel);
        var after = await TableAsync(id, later.Headings, cancel);
        string? output = BatchStore.RecipeOf(later.Recipe).Output?.Column;
        return (earlier.Id, earlier.Name, before, SheetDifference.Between(before, after, output is null ? [] : [output]));
    }

    private async Task<Table> TableAsync(Guid id, List<string> headings, CancellationToken cancel) =>
        new(headings, [.. (await rows.ReadAsync(id, 0, SheetLimits.MostRows, cancel)).Select(r => r.Cells)]);
}
