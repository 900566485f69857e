using System.Globalization;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Reads what links cost over a range (rules, section 7): what is paid by rates, fixed costs, and imported ones, which replace the others.
/// Ledger, campaign, Arrivals and all files are given it.
/// </summary>
internal sealed class CostReader(NpgsqlDataSource database, VisitSegments segments, TrafficSourceCache sources)
{
    /// <summary>Beyond so many stretches within each of which all rates hold, days are told apart instead.</summary>
    private const int MostStretches = 40;

    private static readonly RowField OfLink = new(RowKind.Link);
    private static readonly RowField OfDay = new(RowKind.Day);

    private readonly VisitScanner _scanner = new(segments);
    private readonly OtherFigureReader _otherFigures = new(database);

    /// <summary>Costs of a range, with what the links are called.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="request">The range.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="plan">The plan to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<LinkCosts> ReadAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var prices = await PriceReader.ReadAsync(connection, request, cancel);
        var imports = await ImportedCostReader.ReadAsync(connection, request, cancel);
        if (prices.IsEmpty && imports.IsEmpty)
        {
            return LinkCosts.None(plan);
        }

        var found = new FoundAmounts();
        if (prices.Rated.Count + prices.OfLinks.Count > 0)
        {
            await AddUsesAsync(connection, request, prices, imports.Costs, found, convention, plan, cancel);
        }

        if (prices.HasShown)
        {
            var shown = await _otherFigures.ReadAsync(connection, request, [FigureKind.Shown], cancel);
            found.Add(
                shown.Amounts[FigureKind.Shown],
                ShownCosts.Of(shown.Amounts[FigureKind.Shown], imports.Costs, prices.OfLink, prices.OfPlacement),
                shown.Links,
                request
            );
        }

        if (prices.HasFixed)
        {
            await FixedCostReader.AddAsync(connection, request, prices, imports.Costs, found, cancel);
        }

        imports.AddTo(found, request);
        return new LinkCosts(found.All, found.Called.Count == 0 ? plan : plan.With(found.Called.Values));
    }

    /// <summary>What is paid for each click, visit or conversion.</summary>
    private async Task AddUsesAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        ImportedAmounts imports,
        FoundAmounts found,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var rates = prices.Rated.Values.Concat(prices.OfLinks.Values).ToList();
        Dictionary<Guid, PaidLink>? byVisits = null;
        foreach (var (from, to, apart) in Stretches(request, rates, imports))
        {
            if (rates.Exists(r => r.Any(o => o.Basis == CostBasis.Click)))
            {
                await AddClicksAsync(connection, request, prices, imports, found, from, to, apart, cancel);
            }

            byVisits ??= (await LinksOfVisitsAsync(connection, request, prices, cancel)).ToDictionary(l => l.Link.Id);
            if (byVisits.Count > 0)
            {
                await AddVisitsAsync(connection, request, prices, imports, found, (from, to, apart), byVisits, convention, plan, cancel);
            }
        }
    }

    private static async Task AddClicksAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        ImportedAmounts imports,
        FoundAmounts found,
        DateOnly from,
        DateOnly to,
        bool apart,
        CancellationToken cancel
    )
    {
        var (clicks, links) = await ClickReader.ReadAsync(
            connection,
            new ClickRange(
                request.WorkspaceId,
                from,
                to,
                apart,
                new SomeLinks([.. prices.Rated.Keys], [.. prices.OfLinks.Keys], request.Links)
            ),
            cancel
        );
        var called = links.ToDictionary(l => l.Id);
        foreach (var some in clicks)
        {
            var link = called[some.Link.Id];
            var day = some.Day ?? from;
            if (prices.HoldingOn(link, day) is { Basis: CostBasis.Click } rate && !(some.Day is { } its && imports.Covers(link.Id, its)))
            {
                found.Add(some.Link, link, some.Scanned, request.IsByDay ? some.Day : null, rate.Of(some.Clicks));
            }
        }
    }

    private async Task AddVisitsAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        ImportedAmounts imports,
        FoundAmounts found,
        (DateOnly From, DateOnly To, bool Apart) stretch,
        Dictionary<Guid, PaidLink> paid,
        Convention convention,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        plan = plan.With(paid.Values.Select(l => l.Called));
        var visited = new ArrivalsRequest(
            request.WorkspaceId,
            request.Currency,
            stretch.From,
            stretch.To,
            stretch.Apart ? [OfLink, OfDay] : [OfLink],
            [],
            WithVisitors: false
        );
        var ofSources = new RowMap(RowTable.Source, visited.Rows, visited.Where);
        foreach (var source in await sources.ReadAsync(request.WorkspaceId, convention, plan, cancel))
        {
            if (source.Source.LinkId is { } id && paid.ContainsKey(id))
            {
                ofSources.Add(source.Source.Id, source.KeyOf);
            }
        }

        var others = await new RowMapReader(database, sources).ReadAsync(visited, convention, plan, cancel);
        List<RowMap> maps = [ofSources, .. others.Where(m => m.Table != RowTable.Source)];
        using var scan = await _scanner.ScanAsync(connection, visited, maps, cancel);
        foreach (var (groups, figures) in scan.Rows())
        {
            string?[] names = VisitScanner.NamesOf(visited, maps, groups);
            var link = paid[Guid.Parse(names[0]!)];
            DateOnly? day = stretch.Apart ? DateOnly.ParseExact(names[1]!, "yyyy-MM-dd", CultureInfo.InvariantCulture) : null;
            if (
                prices.HoldingOn(link.Called, day ?? stretch.From) is not { Basis: not CostBasis.Shown } rate
                || (day is { } its && imports.Covers(link.Link.Id, its))
                || (rate.Basis == CostBasis.Click && !link.IsUnshortened)
            )
            {
                continue;
            }

            long uses = rate.Basis == CostBasis.Conversion ? (long)figures.Conversions : figures.Visits;
            found.Add(link.Link, link.Called, scanned: false, request.IsByDay ? day : null, rate.Of(uses));
        }
    }

    /// <summary>The links visits came by that are paid for in whatever way.</summary>
    private static async Task<List<PaidLink>> LinksOfVisitsAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        CancellationToken cancel
    )
    {
        bool onlyClicks = prices
            .Rated.Values.Concat(prices.OfLinks.Values)
            .All(r => r.All(o => o.Basis is not (CostBasis.Visit or CostBasis.Conversion)));
        await using var command = new NpgsqlCommand(
            $"""
            select l.id, coalesce(l.title, l.url), l.campaign_id, l.placement_id, l.page, l.values, l.is_unshortened
            from (select distinct link_id from traffic_source where workspace_id = $1 and link_id is not null) t
            join links l on l.id = t.link_id
            where (l.placement_id = any($2) or l.id = any($3)) and ($4::uuid[] is null or l.id = any($4)){(
                onlyClicks ? " and not exists (select from short_links s where s.link_id = l.id)" : ""
            )}
            """,
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(new() { Value = prices.Rated.Keys.ToArray() });
        command.Parameters.Add(new() { Value = prices.OfLinks.Keys.ToArray() });
        command.Parameters.Add(new() { Value = (object?)request.Links?.ToArray() ?? DBNull.Value });
        var links = new List<PaidLink>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            links.Add(new PaidLink(LinkRow.ClickedOf(reader), LinkRow.CalledOf(reader), reader.GetBoolean(6)));
        }

        return links;
    }

    /// <summary>The range in stretches: the same rates hold on all days of each, and where costs are imported, days are told apart.</summary>
    private static IEnumerable<(DateOnly From, DateOnly To, bool Apart)> Stretches(
        CostRequest request,
        IReadOnlyCollection<IReadOnlyList<CostRate>> rates,
        ImportedAmounts imports
    )
    {
        var begins = rates.SelectMany(r => CostRates.TurnsIn(r, request.From, request.To)).ToHashSet();
        var imported = imports.Span;
        if (imported is { } some)
        {
            begins.Add(some.From);
            begins.Add(some.To < DateOnly.MaxValue ? some.To.AddDays(1) : some.To);
        }

        begins.RemoveWhere(d => d <= request.From || d > request.To);
        if (begins.Count >= MostStretches && !request.IsByDay)
        {
            // From the first turn to the last one; what is before and after holds throughout.
            var (first, last) = (begins.Min(), begins.Max());
            return
            [
                (request.From, first.AddDays(-1), InImports(request.From)),
                (first, last.AddDays(-1), true),
                (last, request.To, InImports(last)),
            ];
        }

        DateOnly[] starts = [request.From, .. begins.Order()];
        return starts.Select(
            (from, i) => (from, i + 1 < starts.Length ? starts[i + 1].AddDays(-1) : request.To, request.IsByDay || InImports(from))
        );

        bool InImports(DateOnly day) => imported is { } span && day >= span.From && day <= span.To;
    }

    private sealed record PaidLink(ClickedLink Link, LinkOfVisit Called, bool IsUnshortened);
}

/// <summary>Which costs are read.</summary>
/// <param name="WorkspaceId">The workspace.</param>
/// <param name="Currency">Its currency, ISO 4217.</param>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="Today">Today: fixed costs of days to come are not due yet.</param>
/// <param name="IsByDay">Tells days apart.</param>
/// <param name="IsByLink">Tells links apart that say the same.</param>
internal sealed record CostRequest(
    Guid WorkspaceId,
    string Currency,
    DateOnly From,
    DateOnly To,
    DateOnly Today,
    bool IsByDay = false,
    bool IsByLink = false
)
{
    /// <summary>Only what is paid for these links alone; null for everything.</summary>
    public IReadOnlyCollection<Guid>? Links { get; init; }

    /// <summary>Rates to reckon with instead of those stored.</summary>
    public RatesInstead? Instead { get; init; }

    public static CostRequest Of(ArrivalsRequest request) =>
        new(
            request.WorkspaceId,
            request.Currency,
            request.From,
            request.To,
            request.Today,
            request.IsByDay,
            request.Rows.Concat(request.Where.Select(w => w.Field)).Any(f => f.Kind == RowKind.Link)
        );
}

/// <summary>Rates of a placement or a link that are tried.</summary>
/// <param name="Of">The placement or the link.</param>
/// <param name="Rates">What it would cost.</param>
internal sealed record RatesInstead(Guid Of, IReadOnlyList<CostRate> Rates);

/// <summary>What links cost.</summary>
/// <param name="Costs">In no order.</param>
/// <param name="Plan">The plan with the links that cost something.</param>
internal sealed record LinkCosts(IReadOnlyList<LinkAmount> Costs, PlanOfVisits Plan)
{
    public static LinkCosts None(PlanOfVisits plan) => new([], plan);
}
