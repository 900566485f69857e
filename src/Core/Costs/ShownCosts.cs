using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Core.Costs;

/// <summary>
/// What was paid for each thousand that other systems say they showed (reports, section 3). The rate is the link's or the placement's that
/// the figure is about; of a figure about a campaign or tags alone it is the one that all its links have, and there is no cost where they
/// differ. As with every rate, an imported cost goes before it: a figure all of whose links have imported costs that day costs nothing
/// more, and imported costs of finer things within it are a part of what it costs (ours).
/// </summary>
public static class ShownCosts
{
    /// <summary>The costs by target and day, not rounded, each above 0.</summary>
    /// <param name="shown">How often other systems say they showed something.</param>
    /// <param name="imported">Imported costs.</param>
    /// <param name="ratesOfLink">Rates of a link of its own; none where its placement's hold.</param>
    /// <param name="ratesOfPlacement">Rates of a placement.</param>
    public static IEnumerable<ImportedAmount> Of(
        ImportedAmounts shown,
        ImportedAmounts imported,
        Func<Guid, IReadOnlyList<CostRate>> ratesOfLink,
        Func<Guid, IReadOnlyList<CostRate>> ratesOfPlacement
    )
    {
        var paid = imported.Rests().ToLookup(r => r.Day);
        foreach (var ofTarget in shown.Rests().GroupBy(r => r.Target))
        {
            var target = shown.TargetOf(ofTarget.Key);
            var links = shown.LinksOf(ofTarget.Key);
            var payers = PayersOf(target, links, ratesOfLink, ratesOfPlacement);
            foreach (var times in ofTarget)
            {
                if (
                    RateOn(payers, times.Day) is { Basis: CostBasis.Shown } rate
                    && !imported.CoversAll(target, links, times.Day)
                    && rate.Of((long)times.Amount) - PaidWithin(target, times.Day) is > 0 and var amount
                )
                {
                    yield return times with
                    {
                        Amount = amount,
                    };
                }
            }
        }

        // Nothing is finer than a link.
        decimal PaidWithin(ImportTarget target, DateOnly day) =>
            target.LinkId is not null
                ? 0
                : paid[day]
                    .Where(r =>
                        imported.LinksOf(r.Target) is { Count: > 0 } its
                            ? its.All(target.Covers)
                            : imported.TargetOf(r.Target).SaysMoreThan(target)
                    )
                    .Sum(r => r.Amount);
    }

    /// <summary>Whose rates tell what a figure costs: each of a link's own and of its placement's.</summary>
    private static List<(IReadOnlyList<CostRate> OfLink, IReadOnlyList<CostRate> OfPlacement)> PayersOf(
        ImportTarget target,
        IReadOnlyList<CoverableLink> links,
        Func<Guid, IReadOnlyList<CostRate>> ratesOfLink,
        Func<Guid, IReadOnlyList<CostRate>> ratesOfPlacement
    ) =>
        target is { LinkId: null, PlacementId: { } placement }
            ? [([], ratesOfPlacement(placement))]
            :
            [
                .. links
                    .Select(l => (Own: ratesOfLink(l.Id), l.PlacementId))
                    .Distinct()
                    .Select(l => (l.Own, l.PlacementId is { } its ? ratesOfPlacement(its) : [])),
            ];

    /// <summary>The rate that all of them have on a day; null where they differ, or there is none.</summary>
    private static CostRate? RateOn(List<(IReadOnlyList<CostRate> OfLink, IReadOnlyList<CostRate> OfPlacement)> payers, DateOnly day)
    {
        CostRate? rate = null;
        for (int i = 0; i < payers.Count; i++)
        {
            var its = CostRates.HoldingOn(payers[i].OfLink, payers[i].OfPlacement, day);
            if (i > 0 && (its?.Basis, its?.Amount) != (rate?.Basis, rate?.Amount))
            {
                return null;
            }

            rate = its;
        }

        return rate;
    }
}
