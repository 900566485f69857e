using System.Runtime.CompilerServices;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Conventions;

/// <summary>Counts what publishing a draft would do, over every link and every way in which visits arrived.</summary>
public sealed class EffectCounter(BeaconDb db, ConventionReader conventions, ArrivalsReader arrivals, NewTagKeys newKeys)
{
    private const int LinksBetweenReports = 5_000;

    /// <summary>Reports how far it is, and at the end the answer.</summary>
    public async IAsyncEnumerable<EffectProgress> CountAsync(Convention draft, [EnumeratorCancellation] CancellationToken cancel)
    {
        int total = await db.Links.CountAsync(cancel);
        yield return new EffectProgress(0, total, null, 0, 0);
        var effect = new ConventionEffect(await conventions.ReadAsync(cancel), draft);
        var links = db
            .Links.AsNoTracking()
            .Select(l => new
            {
                l.Title,
                l.Url,
                l.Values,
                Channel = l.Placement == null ? null : l.Placement.Channel,
            });
        await foreach (var link in links.AsAsyncEnumerable().WithCancellation(cancel))
        {
            effect.AddLink(link.Title ?? link.Url, link.Values, link.Channel);
            if (effect.Links % LinksBetweenReports == 0)
            {
                yield return new EffectProgress(effect.Links, Math.Max(total, effect.Links), null, 0, 0);
            }
        }

        foreach (var (way, visits) in await arrivals.AllWaysAsync(db.CurrentWorkspaceId!.Value, cancel))
        {
            effect.AddArrivals(way, visits);
        }

        IReadOnlyDictionary<string, long> views = new Dictionary<string, long>();
        var workspace = db.CurrentWorkspaceId!.Value;
        var keys = await newKeys.AmongAsync(workspace, draft.Tags.SelectMany(t => t.AlsoRead.Prepend(t.Key)), cancel);
        if (keys.Count > 0)
        {
            var months = await newKeys.MonthsAsync(workspace, cancel);
            int looked = 0;
            await foreach (var soFar in newKeys.CountAsync(workspace, keys, months, cancel))
            {
                views = soFar;
                yield return new EffectProgress(effect.Links, effect.Links, null, ++looked, months.Count);
            }
        }

        yield return new EffectProgress(
            effect.Links,
            effect.Links,
            new EffectAnswer(
                effect.Links,
                effect.Affected,
                effect.Rules,
                effect.VisitsMoved,
                effect.Moves,
                [
                    .. views
                        .OrderByDescending(v => v.Value)
                        .ThenBy(v => v.Key, StringComparer.Ordinal)
                        .Select(v => new NewKeyViews(v.Key, v.Value)),
                ]
            ),
            0,
            0
        );
    }
}
