using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>Reads a workspace's published convention into the form the rules work with.</summary>
public sealed class ConventionReader(BeaconDb db, ConventionReader.Remembered remembered)
{
    /// <summary>Conventions worked up already; a published version never changes, so the version's id is enough.</summary>
    public sealed class Remembered
    {
        internal ConcurrentDictionary<(Guid Version, LinkSettings Settings), Convention> Conventions { get; } = new();
    }

    /// <summary>The convention that holds now in the current workspace.</summary>
    public async Task<Convention> ReadAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var settings = new LinkSettings(TagStyle.Query, workspace.ExistingTags, workspace.LivePlaceholders, workspace.PlusForSpace);
        var newest = await db.ConventionVersions
            .Where(v => v.PublishedAt != null)
            .OrderByDescending(v => v.Number)
            .Select(v => new { v.Id, v.Number })
            .FirstAsync(cancel);
        if (remembered.Conventions.TryGetValue((newest.Id, settings), out var convention))
        {
            return convention;
        }

        var version = await db.ConventionVersions.AsNoTracking().AsSplitQuery()
            .Include(v => v.Fields).ThenInclude(f => f.Words)
            .SingleAsync(v => v.Id == newest.Id, cancel);
        convention = new Convention(version.Number, [.. version.Fields.OrderBy(f => f.Position).Select(FieldOf)], settings);
        remembered.Conventions[(newest.Id, settings)] = convention;
        return convention;
    }

    private static Field FieldOf(FieldRow row)
    {
        var rules = new ValueRules(row.Case, row.Space, row.Characters, row.Outside, row.Transliterate, row.LongestValue);
        var words = row.Words.OrderBy(w => w.Position).Select(w => new Word(w.Written, w.Label, w.Aliases, w.Retired, w.Successor)).ToList();
        return new Field
        {
            Key = row.Key,
            Label = row.Label,
            Presence = row.Presence,
            Rules = rules,
            Words = row.HasWordList ? new WordList(words, rules) : null,
            ClosedList = row.ClosedList,
            HoldsNumbers = row.HoldsNumbers,
            AlsoRead = row.AlsoRead,
            Hint = row.Hint,
            Example = row.Example,
        };
    }
}
