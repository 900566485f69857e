using Npgsql;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// Adds what is paid whatever is used, in equal parts to the days it is paid for: what a placement costs a whole campaign, in equal parts to
/// the links the campaign has there; what a placement costs for a span, each day's part in equal parts to the links that were made by that
/// day; and what a link costs for a span. A campaign without days of its own is paid on the day its first link there was made. Links that
/// say the same stand together, unless rows are made by link or some of them have imported costs.
/// </summary>
internal static class FixedCostReader
{
    public static async Task AddAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        ImportedAmounts imports,
        FoundAmounts found,
        CancellationToken cancel
    )
    {
        var spansOf = prices
            .Rated.Concat(prices.OfLinks)
            .Select(p => (p.Key, Spans: p.Value.Where(r => r.Basis == CostBasis.Span).ToList()))
            .Where(p => p.Spans.Count > 0)
            .ToDictionary(p => p.Key, p => p.Spans);
        var groups = await ReadAsync(connection, request, prices, spansOf, byLink: request.IsByLink || !imports.IsEmpty, cancel);
        var days = new DaysDue(request, imports);
        foreach (var group in groups)
        {
            if (
                group.CampaignLinks > 0
                && group.Called.PlacementId is { } placement
                && prices.OfCampaigns.TryGetValue(placement, out decimal whole)
            )
            {
                Add(group, whole * group.Links / group.CampaignLinks, group.Starts, group.Ends, group.Due);
            }

            foreach (var span in spansOf.GetValueOrDefault(group.Called.Id) ?? [])
            {
                Add(group, span.Amount, span.From, span.To, span.From!.Value);
            }
        }

        foreach (var ofPlacement in groups.Where(g => g.Called.PlacementId is not null).GroupBy(g => g.Called.PlacementId!.Value))
        {
            foreach (var span in spansOf.GetValueOrDefault(ofPlacement.Key) ?? [])
            {
                AddSpan([.. ofPlacement.OrderBy(g => g.Made)], span);
            }
        }

        // A placement that had no link yet on some days of a span was paid for all the same.
        foreach (var (placement, spans) in spansOf.Where(s => prices.Rated.ContainsKey(s.Key)))
        {
            var first = groups.Where(g => g.Called.PlacementId == placement).Select(g => (DateOnly?)g.Made).Min();
            foreach (var span in spans.Where(s => request.Links is null && (first is null || first > s.From)))
            {
                var until = first is { } made && made <= span.To ? made.AddDays(-1) : span.To!.Value;
                foreach (var (day, amount) in days.Of(null, span.Amount, span.From, span.To, span.From!.Value, DateOnly.MinValue, until))
                {
                    found.AddNamed(new ImportTarget(null, null, placement, new Dictionary<string, string>()), day, amount);
                }
            }
        }

        void Add(FixedGroup group, decimal amount, DateOnly? starts, DateOnly? ends, DateOnly due)
        {
            foreach (var (day, part) in days.Of(group.Called.Id, amount, starts, ends, due, DateOnly.MinValue, DateOnly.MaxValue))
            {
                found.Add(group.Link, group.Called, scanned: false, day, part);
            }
        }

        void AddSpan(List<FixedGroup> links, CostRate span)
        {
            long made = 0;
            for (int i = 0; i < links.Count; )
            {
                // All that were made by one day share the days until the next one is made.
                var day = links[i].Made;
                for (; i < links.Count && links[i].Made == day; i++)
                {
                    made += links[i].Links;
                }

                var until = i < links.Count ? links[i].Made.AddDays(-1) : DateOnly.MaxValue;
                foreach (var group in links.Take(i))
                {
                    foreach (
                        var (at, part) in days.Of(
                            group.Called.Id,
                            span.Amount * group.Links / made,
                            span.From,
                            span.To,
                            span.From!.Value,
                            day,
                            until
                        )
                    )
                    {
                        found.Add(group.Link, group.Called, scanned: false, at, part);
                    }
                }
            }
        }
    }

    private static async Task<List<FixedGroup>> ReadAsync(
        NpgsqlConnection connection,
        CostRequest request,
        Prices prices,
        Dictionary<Guid, List<CostRate>> spansOf,
        bool byLink,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            $"""
            select * from (
                select {(
                byLink ? "l.id" : "min(l.id::text)::uuid"
            )} as id, coalesce(min(l.title), min(l.url)), l.campaign_id, l.placement_id, l.page, l.values, count(*) as links,
                    case when l.campaign_id is not null then sum(count(*)) over (partition by l.campaign_id, l.placement_id) else 0 end::bigint,
                    c.starts_on, c.ends_on,
                    (min(min(l.created_at)) over (partition by l.campaign_id, l.placement_id) at time zone w.time_zone)::date,
                    (l.created_at at time zone w.time_zone)::date as made
                from links l left join campaigns c on c.id = l.campaign_id join workspaces w on w.id = l.workspace_id
                where l.workspace_id = $1 and (l.placement_id = any($2) or l.id = any($3))
                group by l.campaign_id, l.placement_id, l.page, l.values, c.starts_on, c.ends_on, w.time_zone, made{(byLink ? ", l.id" : "")}
                    {(spansOf.Keys.Any(prices.OfLinks.ContainsKey) && !byLink ? ", case when l.id = any($3) then l.id end" : "")}
            ) g
            """,
            connection
        );
        command.Parameters.Add(new() { Value = request.WorkspaceId });
        command.Parameters.Add(
            new() { Value = prices.OfCampaigns.Keys.Concat(spansOf.Keys.Where(prices.Rated.ContainsKey)).Distinct().ToArray() }
        );
        command.Parameters.Add(new() { Value = spansOf.Keys.Where(prices.OfLinks.ContainsKey).ToArray() });
        var groups = new List<FixedGroup>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            groups.Add(
                new FixedGroup(
                    LinkRow.ClickedOf(reader),
                    LinkRow.CalledOf(reader),
                    reader.GetInt64(6),
                    reader.GetInt64(7),
                    reader.IsDBNull(8) ? null : reader.GetFieldValue<DateOnly>(8),
                    reader.IsDBNull(9) ? null : reader.GetFieldValue<DateOnly>(9),
                    reader.GetFieldValue<DateOnly>(10),
                    reader.GetFieldValue<DateOnly>(11)
                )
            );
        }

        return groups;
    }

    /// <summary>Links that say the same and were made on one day.</summary>
    /// <param name="Link">One of them.</param>
    /// <param name="Called">What it is called.</param>
    /// <param name="Links">How many they are.</param>
    /// <param name="CampaignLinks">How many links their campaign has in their placement; 0 without a campaign.</param>
    /// <param name="Starts">The campaign's first day.</param>
    /// <param name="Ends">Its last day.</param>
    /// <param name="Due">The day the first link of the campaign in the placement was made.</param>
    /// <param name="Made">The day they were made.</param>
    private sealed record FixedGroup(
        ClickedLink Link,
        LinkOfVisit Called,
        long Links,
        long CampaignLinks,
        DateOnly? Starts,
        DateOnly? Ends,
        DateOnly Due,
        DateOnly Made
    );

    /// <summary>What of a fixed cost is due within a range, by day or in one, without the days that imports speak of.</summary>
    private sealed class DaysDue(CostRequest request, ImportedAmounts imports)
    {
        public IEnumerable<(DateOnly? Day, decimal Amount)> Of(
            Guid? link,
            decimal amount,
            DateOnly? starts,
            DateOnly? ends,
            DateOnly due,
            DateOnly notBefore,
            DateOnly notAfter
        )
        {
            var (from, to) = (Later(request.From, notBefore), Earlier(Earlier(request.To, notAfter), request.Today));
            bool isSpread = starts is not null && ends >= starts;
            var (first, last) = isSpread ? (Later(from, starts!.Value), Earlier(to, ends!.Value)) : (Later(from, due), Earlier(to, due));
            if (first > last)
            {
                yield break;
            }

            decimal Between(DateOnly one, DateOnly other) => FixedCosts.Between(amount, starts, ends, due, one, other, request.Today);
            if (request.IsByDay)
            {
                for (var day = first; day <= last; day = day.AddDays(1))
                {
                    if (link is not { } its || !imports.Covers(its, day))
                    {
                        yield return (day, Between(day, day));
                    }
                }

                yield break;
            }

            decimal all = Between(first, last);
            if (link is { } of)
            {
                all -= imports.DaysOf(of).Where(d => d >= first && d <= last).Sum(d => Between(d, d));
            }

            yield return (null, all);
        }

        private static DateOnly Later(DateOnly one, DateOnly other) => one > other ? one : other;

        private static DateOnly Earlier(DateOnly one, DateOnly other) => one < other ? one : other;
    }
}
