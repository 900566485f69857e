using Npgsql;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Data.Imports;
using PreciseBeacon.Data.Proofs;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads what other systems count of links: the figures of reports that nobody else can know, and what is paid by them.</summary>
internal sealed class OtherFigureReader(NpgsqlDataSource database)
{
    private readonly FigureBook _book = new(database);
    private readonly FigureTargetReader _targets = new(new FigureNameBook(database), new NamedTargetReader(database));

    /// <summary>What other systems count in a range; of what several of them count, the largest.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="request">The range.</param>
    /// <param name="kinds">What is asked for.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<OtherAmounts> ReadAsync(
        NpgsqlConnection connection,
        CostRequest request,
        IReadOnlyCollection<FigureKind> kinds,
        CancellationToken cancel
    )
    {
        var read = await _book.ReadAsync(request.WorkspaceId, request.From, request.To, kinds, cancel);
        var targets = await _targets.TargetsAsync(request.WorkspaceId, read, cancel);
        if (request.Links is { } only)
        {
            var asked = only.ToHashSet();
            targets = targets.Where(t => t.Value.LinkId is { } link && asked.Contains(link)).ToDictionary();
        }

        // Several names may mean the same.
        var numbers = targets
            .GroupBy(t => t.Value.Key, StringComparer.Ordinal)
            .SelectMany(g => g.Select(t => (t.Key, First: g.Min(o => o.Key))))
            .ToDictionary(t => t.Key, t => t.First);
        var figures = read
            .Figures.Where(f => numbers.ContainsKey(f.Subject))
            .GroupBy(f => (Target: numbers[f.Subject], f.Day))
            .Select(g =>
                (
                    g.Key.Target,
                    g.Key.Day,
                    Figures: g.GroupBy(f => read.Subjects[f.Subject].System, StringComparer.Ordinal)
                        .Select(s => s.Aggregate(default(OtherFigures), (sum, f) => sum.Plus(f.Figures)))
                        .Aggregate((one, other) => one.Or(other))
                )
            )
            .ToList();
        var links = targets.Count == 0 ? TargetLinks.None : await TargetLinks.ReadAsync(connection, request, [.. targets.Values], cancel);
        return new OtherAmounts(
            kinds.ToDictionary(
                kind => kind,
                kind => new ImportedAmounts(
                    targets,
                    [
                        .. figures
                            .Where(f => f.Figures.Of(kind) is not null)
                            .Select(f => new ImportedAmount(f.Target, f.Day, f.Figures.Of(kind)!.Value)),
                    ],
                    links.Links.Keys
                )
            ),
            links
        );
    }
}

/// <summary>What other systems count of links.</summary>
/// <param name="Amounts">By kind.</param>
/// <param name="Links">The links they are about.</param>
internal sealed record OtherAmounts(IReadOnlyDictionary<FigureKind, ImportedAmounts> Amounts, TargetLinks Links);
