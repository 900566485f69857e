using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>The Ledger as a table for a file: every link that is found, in its order.</summary>
public sealed class LedgerFiles(BeaconDb db, LinksOfVisits behind, LedgerReader ledger, ConventionReader conventions, TimeProvider clock)
{
    /// <summary>Links in one file.</summary>
    public const int Most = 100_000;

    private const int ReadAtOnce = 1_000;

    /// <summary>The rows of the table, headings first; refused where there are more than a file holds.</summary>
    internal async Task<Outcome<IReadOnlyList<IReadOnlyList<OwnCell>>>> LinesAsync(LedgerQuery asked, CancellationToken cancel)
    {
        var (query, refusal) = await behind.NarrowAsync(asked, cancel);
        if (query is null)
        {
            return refusal!;
        }

        var ids = await (await query.OfAsync(db, clock.GetUtcNow(), cancel)).Select(l => l.Id).Take(Most + 1).ToListAsync(cancel);
        if (ids.Count > Most)
        {
            return Refusal.Unacceptable("links-many", $"A file holds {Most:N0} links, and there are more; narrow them down first.");
        }

        var convention = await conventions.ReadAsync(cancel);
        var found = new List<LedgerRow>(ids.Count);
        foreach (var some in ids.Chunk(ReadAtOnce))
        {
            var rows = (await ledger.ReadAsync(db.Links.Where(l => some.Contains(l.Id)), cancel)).ToDictionary(r => r.Id);
            found.AddRange(some.Where(rows.ContainsKey).Select(id => rows[id]));
        }

        return Outcome.Of<IReadOnlyList<IReadOnlyList<OwnCell>>>([
            LedgerTable.Headings(convention),
            .. LedgerOrder.ByFigure(found, query.Order).Select(r => LedgerTable.Cells(r, convention)),
        ]);
    }
}
