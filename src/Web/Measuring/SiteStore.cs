using System.Globalization;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Outside;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Measuring;

/// <summary>The workspace's own sites: added, changed, stopped, and removed while nothing was measured.</summary>
public sealed class SiteStore(
    BeaconDb db,
    NpgsqlDataSource database,
    PassingVisits visits,
    ConventionReader conventions,
    SiteTable measured,
    AuditLog auditLog,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    private const string What = "site";
    private const int Most = 100;
    private const int LongestName = 100;
    private const decimal LargestOfAll = 1_000_000_000m;
    private const int KeyOctets = 12;
    private const int VisitorKeyOctets = 32;

    private Guid Workspace => db.CurrentWorkspaceId!.Value;

    /// <summary>Every site, by name, with what its pages need to be measured.</summary>
    public async Task<List<MeasuredSiteAnswer>> ListAsync(CancellationToken cancel) =>
        (await db.Sites.AsNoTracking().Include(s => s.Hosts).OrderBy(s => s.Name).ToListAsync(cancel)).ConvertAll(AnswerOf);

    /// <summary>Adds a site.</summary>
    public async Task<Outcome<MeasuredSiteAnswer>> AddAsync(SiteChange request, CancellationToken cancel)
    {
        var site = new Site
        {
            Name = "",
            MeasuringKey = NewKey(),
            VisitorIdKey = RandomNumberGenerator.GetBytes(VisitorKeyOctets),
            HonoursOptOut = true,
        };
        if (await db.Sites.CountAsync(cancel) >= Most)
        {
            return Refusal.Unacceptable("sites-many", $"A workspace has at most {Most} sites; remove one first.");
        }

        // A site is called like its first host where nobody says otherwise.
        var hosts = request.Hosts ?? [];
        string? name =
            !string.IsNullOrWhiteSpace(request.Name) ? request.Name
            : SiteHosts.Read(hosts).Hosts is [var first, ..] ? first.Host
            : null;
        db.Sites.Add(site);
        return await PutAsync(site, request with { Name = name, Hosts = hosts }, before: null, cancel) is { } refusal
            ? refusal
            : AnswerOf(site);
    }

    /// <summary>Changes a site; what is left out stays.</summary>
    public async Task<Outcome<MeasuredSiteAnswer>> ChangeAsync(Guid id, SiteChange change, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } site)
        {
            return Refusal.NotFound("site");
        }

        return await PutAsync(site, change, SaysOf(site), cancel) is { } refusal ? refusal : AnswerOf(site);
    }

    /// <summary>Gives a site another measuring key; pages with the old one are refused from then on.</summary>
    public async Task<Outcome<MeasuredSiteAnswer>> RenewKeyAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } site)
        {
            return Refusal.NotFound("site");
        }

        auditLog.Add(What, id, new { site.MeasuringKey }, new { MeasuringKey = site.MeasuringKey = NewKey() });
        await db.SaveChangesAsync(cancel);
        await measured.RefreshAsync(cancel);
        return AnswerOf(site);
    }

    /// <summary>Removes a site that nothing was measured on.</summary>
    public async Task<Refusal?> RemoveAsync(Guid id, CancellationToken cancel)
    {
        if (await FindAsync(id, cancel) is not { } site)
        {
            return Refusal.NotFound("site");
        }

        if (site.LastMeasuredAt is not null || await MeasuredSites.AnyVisitAsync(database, Workspace, id, cancel))
        {
            return Refusal.Conflict(
                "site-measured",
                $"{site.Name} has visits, which would be without their site; stop measuring it instead."
            );
        }

        db.Sites.Remove(site);
        auditLog.Add(What, id, SaysOf(site), null);
        await db.SaveChangesAsync(cancel);
        await measured.RefreshAsync(cancel);
        return null;
    }

    private Task<Site?> FindAsync(Guid id, CancellationToken cancel) =>
        db.Sites.Include(s => s.Hosts).SingleOrDefaultAsync(s => s.Id == id, cancel);

    private async Task<Refusal?> PutAsync(Site site, SiteChange change, object? before, CancellationToken cancel)
    {
        if (change.Name is not null && change.Name.Trim() is { Length: 0 or > LongestName })
        {
            return Refusal.Invalid("site-name", $"A site’s name has 1 to {LongestName} characters.");
        }

        if (change.LargestValue is { } most && (most <= 0 || most > LargestOfAll || decimal.Round(most, 2) != most))
        {
            return Refusal.Invalid(
                "site-limit",
                $"The largest value of a conversion is a number over 0 and up to {LargestOfAll.ToString("N0", CultureInfo.InvariantCulture)}, with two decimals at most."
            );
        }

        if (change.Style is TagStyle.Sealed)
        {
            return Refusal.Invalid("site-style", "A site reads tags in the query or in the fragment; links are sealed by the convention.");
        }

        if (change.SourceFields is not null)
        {
            string[] known = [.. (await conventions.ReadAsync(cancel)).Fields.Select(f => f.Key)];
            if (change.SourceFields.Except(known).ToList() is [var unknown, ..])
            {
                return Refusal.Invalid(
                    "source-field",
                    $"The convention has no field “{unknown}”; pages can learn {string.Join(", ", known)}."
                );
            }
        }

        // Two who add the same host in the same moment follow each other.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.WorkspaceAsync(db, cancel);
        string name = change.Name?.Trim() ?? site.Name;
        if (await db.Sites.AnyAsync(s => s.Id != site.Id && s.Name == name, cancel))
        {
            return Refusal.Conflict("site-name-taken", $"There is a site “{name}” already; call this one something else.");
        }

        string[] fresh = [],
            gone = [];
        if (change.Hosts is not null)
        {
            var (hosts, problem) = SiteHosts.Read(change.Hosts);
            if (problem is not null)
            {
                return Refusal.Invalid("site-hosts", problem);
            }

            if (await TakenAsync(site, hosts, cancel) is { } taken)
            {
                return taken;
            }

            (fresh, gone) = PutHosts(site, hosts);
        }

        site.Name = name;
        site.LargestValue = change.LargestValue ?? site.LargestValue;
        site.KeepsVisitorIds = change.KeepsVisitorIds ?? site.KeepsVisitorIds;
        site.HonoursOptOut = change.HonoursOptOut ?? site.HonoursOptOut;
        site.Style = change.Style ?? site.Style;
        site.SourceFields = change.SourceFields is null ? site.SourceFields : [.. change.SourceFields.Select(k => k!).Distinct()];
        site.StoppedAt = change.IsMeasured switch
        {
            true => null,
            false => site.StoppedAt ?? clock.GetUtcNow(),
            null => site.StoppedAt,
        };
        auditLog.Add(What, site.Id, before, SaysOf(site));
        await db.SaveChangesAsync(cancel);
        await WorkOutAgainAsync(fresh, gone, cancel);

        await transaction.CommitAsync(cancel);

        // Here at once, elsewhere within seconds: whoever adds a site opens one of its pages next.
        await measured.RefreshAsync(cancel);
        return null;
    }

    /// <summary>A host belongs to one site, and no short link is on it.</summary>
    private async Task<Refusal?> TakenAsync(Site site, IReadOnlyList<OwnHost> hosts, CancellationToken cancel)
    {
        string[] names = [.. hosts.Select(h => h.Host)];
        if (
            await db
                .Sites.Where(s => s.Id != site.Id)
                .SelectMany(s => s.Hosts, (s, h) => new { s.Name, h.Host })
                .FirstOrDefaultAsync(h => names.Contains(h.Host), cancel) is
            { } other
        )
        {
            return Refusal.Conflict("host-of-site", $"{other.Host} belongs to {other.Name} already; take it off there first.");
        }

        if (await db.ShortDomains.FirstOrDefaultAsync(d => names.Contains(d.Host), cancel) is { } domain)
        {
            return Refusal.Conflict("host-short", $"{domain.Host} is a short domain; its pages are links, and are counted as clicks.");
        }

        return names.Contains(options.Value.PublicHost)
            ? Refusal.Conflict("host-own", $"{options.Value.PublicHost} is the host of Precise Beacon itself; its pages are not measured.")
            : null;
    }

    /// <summary>The hosts that came and those that went.</summary>
    private (string[] Fresh, string[] Gone) PutHosts(Site site, IReadOnlyList<OwnHost> hosts)
    {
        string[] gone = [.. site.Hosts.Select(h => h.Host).Except(hosts.Select(h => h.Host))];
        string[] fresh = [.. hosts.Select(h => h.Host).Except(site.Hosts.Select(h => h.Host))];
        site.Hosts.RemoveAll(h => gone.Contains(h.Host));
        foreach (var host in hosts)
        {
            if (site.Hosts.Find(h => h.Host == host.Host) is { } known)
            {
                known.AnswersHttps = host.AnswersHttps;
            }
            else
            {
                var own = new SiteHost { Host = host.Host, AnswersHttps = host.AnswersHttps };
                site.Hosts.Add(own);
                db.SiteHosts.Add(own); // its id is set already, so it would pass for one that is stored
            }
        }

        if (fresh.Contains(site.ForeignHost))
        {
            (site.ForeignHost, site.ForeignAt) = (null, null);
        }

        return (fresh, gone);
    }

    /// <summary>Coming from one's own host begins no visit: visits that came from a new one, and those in which people came back from one that went, are worked out again.</summary>
    private async Task WorkOutAgainAsync(string[] fresh, string[] gone, CancellationToken cancel)
    {
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        foreach (string host in fresh)
        {
            await PassingVisits.MarkVisitsAsync(connection, Workspace, await visits.SourcesAsync(Workspace, host, cancel), cancel);
        }

        foreach (string host in gone)
        {
            await PassingVisits.MarkEventsAsync(connection, Workspace, host, cancel);
        }
    }

    private static string NewKey() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(KeyOctets));

    private static object SaysOf(Site site) =>
        new
        {
            site.Name,
            Hosts = site.Hosts.Select(h => h.Host).Order(StringComparer.Ordinal),
            site.LargestValue,
            site.KeepsVisitorIds,
            site.HonoursOptOut,
            site.SourceFields,
            site.Style,
            site.StoppedAt,
        };

    private MeasuredSiteAnswer AnswerOf(Site site) =>
        new(
            site.Id,
            site.Name,
            site.MeasuringKey,
            [.. site.Hosts.OrderBy(h => h.Host, StringComparer.Ordinal).Select(h => h.Host)],
            [.. site.Hosts.Where(h => !h.AnswersHttps).OrderBy(h => h.Host, StringComparer.Ordinal).Select(h => h.Host)],
            site.LargestValue,
            site.KeepsVisitorIds,
            site.HonoursOptOut,
            site.SourceFields,
            site.Style,
            site.StoppedAt,
            site.LastMeasuredAt,
            site.LastMeasuredPage,
            site.ForeignHost,
            site.ForeignAt,
            SnippetOf(site, $"{options.Value.PublicUrl.TrimEnd('/')}/beacon.js", ""),
            SnippetOf(
                site,
                $"{options.Value.PublicUrl.TrimEnd('/')}/beacon/{BeaconScript.Newest.Version}.js",
                $" integrity=\"{BeaconScript.Newest.Integrity}\" crossorigin=\"anonymous\""
            ),
            $"<noscript><img src=\"{options.Value.PublicUrl.TrimEnd('/')}/measure.gif?k={site.MeasuringKey}&amp;u=PAGE-ADDRESS\" alt=\"\" width=\"1\" height=\"1\"></noscript>"
        );

    private static string SnippetOf(Site site, string address, string more) =>
        $"<script async src=\"{address}\"{more} data-key=\"{site.MeasuringKey}\"{(site.KeepsVisitorIds ? " data-keep-id" : "")}{(site.KeepsVisitorIds && site.SourceFields.Count > 0 ? " data-keep-source" : "")}></script>";
}
