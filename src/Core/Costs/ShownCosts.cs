using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Core.Costs;

/// <summary>
/// What was paid for each thousand that other systems say they showed (reports, section 3). The rate is the link's or the placement's that
/// the figure is about; of a figure about a campaign or tags alone it is the one that all its links have, and there is no cost where they
/// differ. As with every rate, an imported cost goes before it: a figure all of whose links have imported costs that day costs nothing
/// more, and imported costs of finer things are a part of what the finest figure costs that they lie within (ours).
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
        var rests = shown.Rests().ToList();
        var within = ImportedWithin(shown, rests, imported);
        foreach (var ofTarget in rests.GroupBy(r => r.Target))
        {
            var target = shown.TargetOf(ofTarget.Key);
            var links = shown.LinksOf(ofTarget.Key);
            var payers = PayersOf(target, links, ratesOfLink, ratesOfPlacement);
            foreach (var times in ofTarget)
            {
                if (
                    RateOn(payers, times.Day) is { Basis: CostBasis.Shown } rate
                    && !imported.CoversAll(target, links, times.Day)
                    && rate.Of((long)times.Amount) - within.GetValueOrDefault((times.Target, times.Day)) is > 0 and var amount
                )
                {
                    yield return times with
                    {
                        Amount = amount,
                    };
                }
            }
        }
    }

    /// <summary>Imported costs by the finest figure of their day that they lie within.</summary>
    private static Dictionary<(int Target, DateOnly Day), decimal> ImportedWithin(
        ImportedAmounts shown,
        List<ImportedAmount> rests,
        ImportedAmounts imported
    )
    {
        var found = new Dictionary<(int, DateOnly), decimal>();
        var paid = imported.Rests().ToLookup(r => r.Day);
        foreach (var ofDay in rests.GroupBy(r => r.Day).Where(d => paid.Contains(d.Key)))
        {
            // Single links, of which there may be many, are looked up; of whatever else there is not much.
            var ofLinks = ofDay
                .Where(r => shown.TargetOf(r.Target).LinkId is not null)
                .ToDictionary(r => shown.TargetOf(r.Target).LinkId!.Value, r => r.Target);
            var others = ofDay.Select(r => r.Target).Where(t => shown.TargetOf(t).LinkId is null).ToList();
            foreach (var cost in paid[ofDay.Key])
            {
                var named = imported.TargetOf(cost.Target);
                var links = imported.LinksOf(cost.Target);
                int? owner =
                    links is [var only] && ofLinks.TryGetValue(only.Id, out int itsOwn)
                        ? itsOwn
                        : others
                            .Where(t => links.Count > 0 ? links.All(shown.TargetOf(t).Covers) : named.SaysMoreThan(shown.TargetOf(t)))
                            .OrderByDescending(t => shown.TargetOf(t).Fineness)
                            .ThenBy(t => shown.LinksOf(t).Count)
                            .Cast<int?>()
                            .FirstOrDefault();
                if (owner is { } its)
                {
                    found[(its, ofDay.Key)] = found.GetValueOrDefault((its, ofDay.Key)) + cost.Amount;
                }
            }
        }

        return found;
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
