using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Plan;

/// <summary>Many placements at once: names as lines, a pasted table, or a sheet; shown first, then made together.</summary>
public sealed class PlacementImport(BeaconDb db, ConventionReader conventions, WorkspaceReader workspaces, AuditLog auditLog)
{
    /// <summary>Most placements brought at once.</summary>
    public const int Most = 1_000;

    private static readonly string[] NameHeads = ["Name", "Placement", "Group"];
    private static readonly string[] ChannelHeads = ["Channel"];
    private static readonly string[] PublisherHeads = ["Publisher", "Network", "Who runs it"];
    private static readonly string[] DaysHeads = ["Days", "Use days", "Weekdays"];
    private static readonly string[] FormHeads = ["Form", "Format", "Post or comment"];
    private static readonly string[] TagHeads = ["Tags", "Tag"];

    /// <summary>Reads what somebody pasted or uploaded.</summary>
    /// <exception cref="SheetException">It is no sheet; the message is one sentence.</exception>
    public async Task<(IReadOnlyList<PlacementRequest> Rows, IReadOnlyDictionary<int, string> Problems)> ReadAsync(
        byte[] file,
        PlacementImportFor all,
        CancellationToken cancel
    )
    {
        var convention = await conventions.ReadAsync(cancel);
        var (heads, lines) = LinesOf(file, convention, cancel);
        int Column(string[] names) => heads.FindIndex(h => names.Contains(h, StringComparer.OrdinalIgnoreCase));
        int name = Column(NameHeads) is var named and >= 0 ? named : 0,
            channel = Column(ChannelHeads),
            publisher = Column(PublisherHeads),
            days = Column(DaysHeads),
            form = Column(FormHeads),
            tags = Column(TagHeads);
        var rows = new List<PlacementRequest>();
        var problems = new Dictionary<int, string>();
        foreach (var line in lines)
        {
            string Cell(int column) => column < 0 ? "" : OwnTable.Unguarded(Table.Cell(line, column).Trim());
            if (line.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            if (UseDays.Read(Cell(days)) is not { } use)
            {
                problems[rows.Count] = $"“{Cell(days)}” aren't days; write them like Mon, Thu.";
                use = [];
            }

            var values = new Dictionary<string, string>();
            for (int i = 0; i < heads.Count; i++)
            {
                if (i != name && Cell(i).Length > 0 && convention.Find(heads[i]) is { } field)
                {
                    values[field.Key] = Cell(i);
                }
            }

            rows.Add(
                new PlacementRequest(
                    Cell(name),
                    TypedText.OrNull(Cell(channel)) ?? TypedText.OrNull(all.Channel),
                    TypedText.OrNull(Cell(publisher)) ?? TypedText.OrNull(all.Publisher),
                    values,
                    Tags: [.. Cell(tags).Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)],
                    UseDays: use,
                    UseForm: TypedText.OrNull(Cell(form))
                )
            );
        }

        return (rows, problems);
    }

    /// <summary>Shows what would be made, or makes it. Names that are taken already, or come twice, are left out and told.</summary>
    public async Task<Outcome<PlacementImportAnswer>> TakeAsync(
        IReadOnlyList<PlacementRequest> requests,
        IReadOnlyDictionary<int, string> problems,
        PlacementImportFor all,
        bool dry,
        CancellationToken cancel
    )
    {
        if (requests.Count is 0 or > Most)
        {
            return Refusal.Unacceptable("placements-count", $"Bring 1 to {Most:N0} placements at once; this has {requests.Count:N0}.");
        }

        var convention = await conventions.ReadAsync(cancel);
        var today = await workspaces.TodayAsync(cancel);
        var taken = (await db.Placements.Select(p => new { p.Id, p.Name }).ToListAsync(cancel)).ToDictionary(
            p => p.Name,
            p => p.Id,
            StringComparer.OrdinalIgnoreCase
        );
        var domains = (await db.ShortDomains.AsNoTracking().ToListAsync(cancel)).Where(d => d.IsUsable).Select(d => d.Id).ToHashSet();
        int position = await db.Placements.MaxAsync(p => (int?)p.Position, cancel) + 1 ?? 0;
        var rows = new List<PlacementImportRow>();
        var inSet = new List<Guid>();
        foreach (var (given, i) in requests.Select((r, i) => (r, i)))
        {
            string name = given.Name?.Trim() ?? "";
            var request = given with
            {
                Channel = ChannelOf(convention, given.Channel),
                Defaults = PlacementDefaults.Complete(convention, name, given.Channel ?? "", given.Publisher, given.Defaults ?? []),
                Revision = 0,
            };
            string? problem = problems.GetValueOrDefault(i)
                ?? PlacementStore.WhyWrong(request, convention)
                ?? (request.ShortDomain is { } on && !domains.Contains(on) ? PlacementStore.DomainLeadsElsewhere : null);
            if (problem is null && taken.TryGetValue(name, out var there))
            {
                rows.Add(RowOf(i, request, PlacementImportState.Exists, there == Guid.Empty ? "Its name comes twice here." : null));
                if (there != Guid.Empty)
                {
                    inSet.Add(there);
                }

                continue;
            }

            if (problem is not null)
            {
                rows.Add(RowOf(i, request, PlacementImportState.Refused, problem));
                continue;
            }

            var placement = new Placement
            {
                Name = name,
                Channel = "",
                Position = position++,
                Revision = 1,
            };
            PlacementStore.Fill(placement, name, request, convention, today: null);
            taken[name] = dry ? Guid.Empty : placement.Id;
            rows.Add(RowOf(i, request, PlacementImportState.New, null));
            if (!dry)
            {
                db.Placements.Add(placement);
                inSet.Add(placement.Id);
                auditLog.Add("placement", placement.Id, null, PlacementAnswer.Of(placement, today));
            }
        }

        if (!dry)
        {
            await AddToSetAsync(TypedText.OrNull(all.Set), inSet, cancel);
            await db.SaveChangesAsync(cancel);
        }

        return new PlacementImportAnswer(rows, rows.Count(r => r.State == PlacementImportState.New), !dry);
    }

    private async Task AddToSetAsync(string? name, List<Guid> placements, CancellationToken cancel)
    {
        if (name is null || placements.Count == 0)
        {
            return;
        }

        var set = await db.PlacementSets.SingleOrDefaultAsync(s => s.Name == name, cancel);
        if (set is null)
        {
            db.PlacementSets.Add(set = new PlacementSet { Name = name, PlacementIds = [] });
        }

        set.PlacementIds = [.. set.PlacementIds.Union(placements)];
    }

    private static string? ChannelOf(Convention convention, string? channel) =>
        convention.Channels.Rows.FirstOrDefault(c => c.Name.Equals(channel?.Trim(), StringComparison.OrdinalIgnoreCase))?.Name ?? channel;

    private static PlacementImportRow RowOf(int at, PlacementRequest request, PlacementImportState state, string? problem) =>
        new(
            at + 1,
            request.Name?.Trim() ?? "",
            request.Channel ?? "",
            request.Publisher,
            request.Defaults ?? [],
            request.UseDays ?? [],
            request.UseForm,
            state,
            problem
        );

    /// <summary>Headings and lines; where the first row names nothing that is known, it is a placement, and each line of text is one name.</summary>
    private static (List<string> Heads, IReadOnlyList<IReadOnlyList<string>> Lines) LinesOf(
        byte[] file,
        Convention convention,
        CancellationToken cancel
    )
    {
        var table = SheetFile.Read(file, cancel);
        List<string> heads = [.. table.Headings.Select(h => h.Trim())];
        string[] known = [.. NameHeads, .. ChannelHeads, .. PublisherHeads, .. DaysHeads, .. FormHeads, .. TagHeads];
        if (heads.Any(h => known.Contains(h, StringComparer.OrdinalIgnoreCase)))
        {
            return (heads, table.Rows);
        }

        bool isText = file is not [(byte)'P', (byte)'K', ..];
        string text = isText ? FileText.Decode(file, FileText.Recognise(file).Encoding) : "";
        return isText && !text.Contains('\t', StringComparison.Ordinal)
            ? (
                [],
                [
                    .. text.Split(['\r', '\n'], StringSplitOptions.RemoveEmptyEntries)
                        .Select(l => (IReadOnlyList<string>)[l.Trim().Trim('"')]),
                ]
            )
            : ([], [table.Headings, .. table.Rows]);
    }
}

/// <summary>What holds for all placements that say nothing else.</summary>
/// <param name="Channel">Their channel.</param>
/// <param name="Publisher">Who runs them.</param>
/// <param name="Set">The set they are put into; made where there is none of the name.</param>
public sealed record PlacementImportFor(string? Channel = null, string? Publisher = null, string? Set = null);

/// <summary>The result for many placements.</summary>
/// <param name="Rows">In the order they were given.</param>
/// <param name="New">How many are new.</param>
/// <param name="Made">True when they were made; false when they were only looked at.</param>
public sealed record PlacementImportAnswer(IReadOnlyList<PlacementImportRow> Rows, int New, bool Made);

/// <summary>One placement of many.</summary>
/// <param name="Number">Its place among them, from 1.</param>
/// <param name="Defaults">Its default values by field key.</param>
/// <param name="Problem">Why it is not made; null where it is, or is there already.</param>
public sealed record PlacementImportRow(
    int Number,
    string Name,
    string Channel,
    string? Publisher,
    IReadOnlyDictionary<string, string> Defaults,
    IReadOnlyList<int> UseDays,
    string? UseForm,
    PlacementImportState State,
    string? Problem
);

/// <summary>The result for one placement.</summary>
public enum PlacementImportState
{
    /// <summary>It is made.</summary>
    New,

    /// <summary>There is one of this name; it stays as it is.</summary>
    Exists,

    /// <summary>It can't be made as it is.</summary>
    Refused,
}
