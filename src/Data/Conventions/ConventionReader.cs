using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Data.Conventions;

/// <summary>Reads a workspace's published convention into the form the rules work with.</summary>
public sealed class ConventionReader(BeaconDb db, ConventionReader.Remembered remembered)
{
    /// <summary>Conventions worked up already; a published version never changes, so the version's id is enough.</summary>
    public sealed class Remembered
    {
        internal ConcurrentDictionary<(Guid Version, LinkSettings Settings), Convention> Conventions { get; } = new();
    }

    /// <summary>How the current workspace writes its links.</summary>
    public async Task<LinkSettings> SettingsAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        return new LinkSettings(
            TagStyle.Query,
            workspace.ExistingTags,
            workspace.LivePlaceholders,
            workspace.PlusForSpace,
            SealingSecret: workspace.SealingSecret
        );
    }

    /// <summary>The convention that holds now in the current workspace.</summary>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="alsoLive">Shapes of placeholders that stay literal besides the workspace's own, as a mail's do.</param>
    public async Task<Convention> ReadAsync(CancellationToken cancel, PlaceholderShapes alsoLive = PlaceholderShapes.None)
    {
        var settings = await SettingsAsync(cancel);
        settings = settings with { Live = settings.Live | alsoLive };
        var newest = await db
            .ConventionVersions.Where(v => v.PublishedAt != null)
            .OrderByDescending(v => v.Number)
            .Select(v => new { v.Id, v.Number })
            .FirstAsync(cancel);
        if (remembered.Conventions.TryGetValue((newest.Id, settings), out var convention))
        {
            return convention;
        }

        var version = await db
            .ConventionVersions.AsNoTracking()
            .AsSplitQuery()
            .Include(v => v.Fields)
                .ThenInclude(f => f.Words)
            .SingleAsync(v => v.Id == newest.Id, cancel);
        convention = ConventionRows.DocumentOf(version).ToConvention(version.Number, settings);
        remembered.Conventions[(newest.Id, settings)] = convention;
        return convention;
    }
}
