using System.Security.Cryptography;
using System.Threading.Channels;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Data.Workspaces;

namespace PreciseBeacon.Demo;

/// <summary>Loads the demo: the garden's workspace, its people, plan and links, and months of made-up traffic.</summary>
public sealed class DemoData(
    BeaconDb db,
    CurrentWorkspace current,
    UserManager<AppUser> users,
    LinkComposition composition,
    LinkWriter writer,
    ClickAggregator clicks,
    VisitAggregator visits,
    DemoFigures figures,
    NpgsqlDataSource database,
    IOptions<DemoOptions> options,
    TimeProvider clock
)
{
    /// <summary>The stand-in site sends this key; it exists in the demo only.</summary>
    public const string MeasuringKey = "demo-garden";

    /// <summary>The same of the orchard's site.</summary>
    public const string OrchardKey = "demo-orchard";

    /// <summary>What the history says once the demo was loaded whole.</summary>
    public const string LoadedMark = "demo-loaded";

    private const int Batch = 20_000;
    private const int AnalyzedAfter = 3;
    private const string AnalyzeRaw = "analyze hit; analyze page_event; analyze visit_due; analyze hit_due";
    private const string AnalyzeWorkedOut =
        "analyze click; analyze visit; analyze conversion; analyze click_day; analyze click_month; analyze page_view; analyze traffic_source; analyze links; analyze short_links";

    private const string LastMeasured =
        "update sites s set last_measured_at = (select max(at) from page_event where site_id = s.id) where last_measured_at is null";

    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(50);
    private const string TimeZone = "Europe/Dublin";

    /// <summary>Loads everything into an empty database.</summary>
    /// <returns>How many visits were made.</returns>
    public async Task<int> LoadAsync(CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var today = WorkspaceDay.At(now, TimeZone);
        await AddWorkspaceAsync(now, today, cancel);
        var links = await AddLinksAsync(cancel);
        await AddPlanAsync(today, now, cancel);
        var sites = await db.Sites.AsNoTracking().ToListAsync(cancel);

        var traffic = new DemoTraffic(
            current.Id!.Value,
            sites.Single(s => s.MeasuringKey == MeasuringKey),
            options.Value.DemoSiteHost,
            sites.Single(s => s.MeasuringKey == OrchardKey),
            options.Value.DemoOrchardHost,
            links,
            today,
            TimeZoneInfo.FindSystemTimeZoneById(TimeZone),
            now
        );
        // A new month locks the tables it belongs to; all there will be are made before anybody works on them.
        await using (
            var months = database.CreateCommand(
                "select make_month(m::date) from generate_series(date_trunc('month', $1::date - interval '1 day'), $2::date, interval '1 month') m"
            )
        )
        {
            months.Parameters.Add(new() { Value = today.AddDays(-DemoTraffic.DaysBack) });
            months.Parameters.Add(new() { Value = today });
            await months.ExecuteNonQueryAsync(cancel);
        }

        // What is written already is worked out while the rest is being written, as with live traffic.
        var written = new TaskCompletionSource();
        var analyzed = new TaskCompletionSource();
        var writing = WriteAsync(traffic, analyzed, written, cancel);
        var clicked = WorkAllOutAsync(clicks.WorkOutAsync, analyzed.Task, written.Task, cancel);

        // A click that is worked out late has the visit it led to worked out again.
        await Task.WhenAll(writing, clicked, WorkAllOutAsync(visits.WorkOutAsync, analyzed.Task, clicked, cancel));
        await RunAsync(LastMeasured, cancel);

        await RunAsync(AnalyzeWorkedOut, cancel);
        await figures.LoadAsync(current.Id!.Value, today, cancel);
        db.ChangeLog.Add(
            new ChangeLogEntry
            {
                At = now,
                Who = "Precise Beacon",
                What = LoadedMark,
                ThingId = current.Id!.Value,
            }
        );
        await db.SaveChangesAsync(cancel);
        await RunAsync("update workspaces set findings_next = now() + interval '1 minute'", cancel);
        return traffic.Visits;
    }

    /// <summary>Makes the events up and writes them, the one while the other goes on; the tables are analyzed at the beginning and at the end.</summary>
    private async Task WriteAsync(
        DemoTraffic traffic,
        TaskCompletionSource analyzed,
        TaskCompletionSource written,
        CancellationToken cancel
    )
    {
        try
        {
            var made = Channel.CreateBounded<RawEvents>(2);
            var making = Task.Run(
                    async () =>
                    {
                        foreach (var batch in traffic.Make(options.Value.DemoVisits, Batch))
                        {
                            await made.Writer.WriteAsync(batch, cancel);
                        }
                    },
                    cancel
                )
                .ContinueWith(
                    t => made.Writer.Complete(t.Exception),
                    CancellationToken.None,
                    TaskContinuationOptions.None,
                    TaskScheduler.Default
                );
            var writer = new RawEventWriter();
            int batches = 0;
            await foreach (var batch in made.Reader.ReadAllAsync(cancel))
            {
                await using (var connection = await database.OpenConnectionAsync(cancel))
                {
                    await using var transaction = await connection.BeginTransactionAsync(cancel);
                    await writer.WriteAsync(connection, batch, cancel);
                    await transaction.CommitAsync(cancel);
                }

                if (++batches == AnalyzedAfter)
                {
                    await RunAsync(AnalyzeRaw, cancel);
                    analyzed.SetResult();
                }
            }

            await making;
            await RunAsync(AnalyzeRaw, cancel);
        }
        finally
        {
            analyzed.TrySetResult();
            written.SetResult();
        }
    }

    private async Task RunAsync(string sql, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(sql);
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static async Task WorkAllOutAsync(Func<CancellationToken, Task<int>> step, Task begin, Task written, CancellationToken cancel)
    {
        await begin;
        while (true)
        {
            bool last = written.IsCompleted;
            if (await step(cancel) > 0)
            {
                continue;
            }

            if (last)
            {
                return;
            }

            await Task.WhenAny(written, Task.Delay(Pause, cancel));
        }
    }

    /// <summary>Follows the demo's addresses when it is started on other ports.</summary>
    public async Task FollowPortsAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.SingleAsync(w => w.IsDemo, cancel);
        current.Id = workspace.Id;
        var domains = await db.ShortDomains.OrderBy(d => d.Id).ToListAsync(cancel);
        var hosts = await db.SiteHosts.ToListAsync(cancel);

        // Somebody may have taken a site's host off in the demo, or put others beside it.
        string after = options.Value.DemoSiteHost;
        if (LikeOf(after) is { } host && host.Host is var before && before != after)
        {
            host.Host = after;
            foreach (var link in await db.Links.Include(l => l.ShortLinks).ToListAsync(cancel))
            {
                link.Url = link.Url.Replace(before, after, StringComparison.Ordinal);
                link.Destination = link.Destination.Replace(before, after, StringComparison.Ordinal);
                link.Page = link.Page.Replace(before, after, StringComparison.Ordinal);
                link.ShortLinks.ForEach(s => s.Target = link.Url);
            }

            foreach (var page in await db.SitePages.ToListAsync(cancel))
            {
                page.Address = page.Address.Replace(before, after, StringComparison.Ordinal);
            }

            foreach (var planned in await db.PlannedLinks.ToListAsync(cancel))
            {
                planned.Page = planned.Page.Replace(before, after, StringComparison.Ordinal);
            }

            foreach (var text in await db.PageTexts.ToListAsync(cancel))
            {
                text.Page = text.Page.Replace(before, after, StringComparison.Ordinal);
            }
        }

        LikeOf(options.Value.DemoOrchardHost)?.Host = options.Value.DemoOrchardHost;
        string portBefore = PortOf(domains[0].Host);
        domains[0].Host = options.Value.DemoShortHost;
        foreach (var added in domains.Skip(1).Where(d => d.Host.EndsWith($".localhost{portBefore}", StringComparison.Ordinal)))
        {
            added.Host = added.Host[..^portBefore.Length] + PortOf(options.Value.DemoShortHost);
        }

        await db.SaveChangesAsync(cancel);

        SiteHost? LikeOf(string wanted) => hosts.Find(h => h.Host[..^PortOf(h.Host).Length] == wanted[..^PortOf(wanted).Length]);
    }

    /// <summary>The port of a host with the colon before it; empty where it has none.</summary>
    private static string PortOf(string host) => host.LastIndexOf(':') is var colon and >= 0 ? host[colon..] : "";

    private async Task AddWorkspaceAsync(DateTimeOffset now, DateOnly today, CancellationToken cancel)
    {
        var workspace = new Workspace
        {
            Name = "Marrowmere Botanic Garden",
            Currency = "EUR",
            TimeZone = TimeZone,
            IsDemo = true,
            CreatedAt = now,
            LivePlaceholders = PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces | PlaceholderShapes.MergeTags,
        };
        current.Id = workspace.Id;
        db.Workspaces.Add(workspace);
        foreach (var person in DemoPeople.All)
        {
            // A demo person has no password: the sign-in page lets them in by name, in demo mode only.
            var user = new AppUser
            {
                UserName = person.Mail,
                Email = person.Mail,
                DisplayName = person.Name,
            };
            var made = await users.CreateAsync(user);
            if (!made.Succeeded)
            {
                throw new InvalidOperationException(string.Join(" ", made.Errors.Select(e => e.Description)));
            }

            db.Members.Add(new Member { UserId = user.Id, Role = person.Role });
        }

        foreach (var role in Enum.GetValues<Role>())
        {
            string key = $"demo-{role.ToString().ToLowerInvariant()}";
            db.ApiKeys.Add(
                new ApiKey
                {
                    Name = key,
                    Role = role,
                    Hash = ApiKey.HashOf(key),
                    DemoOnly = true,
                    CreatedAt = now,
                }
            );
        }

        db.Sites.Add(
            new Site
            {
                Name = "Garden website",
                MeasuringKey = MeasuringKey,
                KeepsVisitorIds = true,
                VisitorIdKey = RandomNumberGenerator.GetBytes(32),
                Hosts = [new SiteHost { Host = options.Value.DemoSiteHost }],
            }
        );
        db.Sites.Add(
            new Site
            {
                Name = "Orchard website",
                MeasuringKey = OrchardKey,
                VisitorIdKey = RandomNumberGenerator.GetBytes(32),
                Hosts = [new SiteHost { Host = options.Value.DemoOrchardHost }],
            }
        );
        db.ShortDomains.Add(
            new ShortDomain
            {
                Host = options.Value.DemoShortHost,
                Scheme = "http",
                IsFirst = true,
                CheckedAt = clock.GetUtcNow(),
            }
        );
        // The files to try name the garden's host as documents do.
        db.ApprovedHosts.Add(
            new ApprovedHost
            {
                Host = "marrowmere.example",
                Approved = true,
                AskedBy = DemoPeople.All[0].Name,
                AskedAt = now,
                DecidedBy = DemoPeople.All[0].Name,
                DecidedAt = now,
            }
        );
        db.ConventionVersions.Add(Convention(now));
        db.Campaigns.AddRange(
            DemoPlan.Campaigns.Select(c => new Campaign
            {
                Name = c.Name,
                Value = c.From is { } from ? $"{today.AddDays(from):yyyy-MM}_{c.Word}" : c.Word,
                StartsOn = c.From is { } starts ? today.AddDays(starts) : null,
                EndsOn = c.To is { } ends ? today.AddDays(ends) : null,
                Attributes = new()
                {
                    ["department"] = c.Department,
                    ["audience"] = c.Audience,
                    ["region"] = c.Region,
                },
                Owner = c.Owner,
                Budget = c.Budget,
                Goal = c.Goal,
                Advertises = c.Price > 0 ? [c.Product] : [],
            })
        );
        db.CampaignAttributes.AddRange(
            DemoPlan.Attributes.Select(
                (a, i) =>
                    new CampaignAttribute
                    {
                        Name = a.Name,
                        Values = [.. a.Values],
                        Position = i,
                    }
            )
        );
        db.Placements.AddRange(
            DemoPlan.Placements.Select(
                (p, i) =>
                    new Placement
                    {
                        Name = p.Name,
                        Channel = p.Channel,
                        Rates = p.CostPerClick is { } perClick ? CostRates.Write([new CostRate(null, CostBasis.Click, perClick)]) : null,
                        Position = i,
                        Defaults = DefaultsOf(p),
                        Publisher = p.Publisher,
                        Tags = [.. p.Tags],
                        UseDays = [.. p.UseDays],
                        UseForm = p.UseForm,
                        ShareForm = p.ShareForm,
                        FixedCost = p.FixedCost,
                    }
            )
        );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Sets, pages, planned links, a share text and a page for a partner.</summary>
    private async Task AddPlanAsync(DateOnly today, DateTimeOffset now, CancellationToken cancel)
    {
        var placements = await db.Placements.OrderBy(p => p.Position).ToListAsync(cancel);
        var campaigns = await db.Campaigns.ToDictionaryAsync(c => c.Name, cancel);
        var site = await db.Sites.SingleAsync(s => s.MeasuringKey == MeasuringKey, cancel);
        string host = options.Value.DemoSiteHost;
        db.PlacementSets.AddRange(
            DemoPlan.Sets.Select(s => new PlacementSet
            {
                Name = s.Name,
                PlacementIds = [.. placements.Where(p => p.Tags.Contains(s.Tag)).Select(p => p.Id)],
            })
        );
        db.SitePages.AddRange(
            DemoPlan
                .Campaigns.Select(c => (Path: c.Page, Title: c.Name))
                .Concat(DemoPlan.OtherTitles)
                .Select(p => new SitePage
                {
                    SiteId = site.Id,
                    Address = $"http://{host}{p.Path}",
                    Title = p.Title,
                    SeenAt = now,
                })
        );

        var orchids = campaigns["Orchid Week"];
        db.PlannedLinks.AddRange(
            DemoPlan.PlannedForOrchidWeek.Select(
                (p, i) =>
                    new PlannedLink
                    {
                        CampaignId = orchids.Id,
                        Page = p.Page is null ? "" : $"http://{host}{p.Page}",
                        PlacementId = placements.Single(x => x.Name == p.Placement).Id,
                        Content = p.Content,
                        Owner = i % 2 == 0 ? "Tomas Birch" : "Orla Fenwick",
                        DueOn = orchids.StartsOn!.Value.AddDays(-p.DueBefore),
                        Position = i,
                    }
            )
        );
        var lanterns = campaigns["Lantern Nights"];
        var made = await db.Links.Where(l => l.CampaignId == lanterns.Id).OrderBy(l => l.Placement!.Position).Take(4).ToListAsync(cancel);
        db.PlannedLinks.AddRange(
            made.Select(
                (l, i) =>
                    new PlannedLink
                    {
                        CampaignId = lanterns.Id,
                        Page = l.Destination,
                        PlacementId = l.PlacementId,
                        LinkId = l.Id,
                        Owner = "Tomas Birch",
                        DueOn = lanterns.StartsOn!.Value.AddDays(-7),
                        Position = i,
                    }
            )
        );
        db.PlannedLinks.Add(
            new PlannedLink
            {
                CampaignId = lanterns.Id,
                Page = $"http://{host}/lantern-nights",
                PlacementId = placements.Single(p => p.Name == "The Trellis – header button").Id,
                Content = "last_evenings",
                Owner = "Tomas Birch",
                DueOn = today.AddDays(9),
                Note = "For the December issue",
                Position = made.Count,
            }
        );
        db.PageTexts.Add(
            new PageText
            {
                CampaignId = lanterns.Id,
                Page = $"{host}/lantern-nights",
                Text = DemoPlan.LanternText,
                WrittenBy = "Tomas Birch",
                WrittenAt = now,
                Revision = 1,
            }
        );
        db.PartnerPages.Add(
            new PartnerPage
            {
                Token = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
                Name = "Vale Visitor Board",
                Note = "Thank you for listing us. Please use these links as they are, so that we can tell how many visitors you send.",
                PlacementIds = [placements.Single(p => p.Name == "Vale Visitor Board").Id],
                CreatedBy = "Tomas Birch",
                CreatedAt = now,
            }
        );
        await db.SaveChangesAsync(cancel);
    }

    private static Dictionary<string, string> DefaultsOf(DemoPlan.PlannedPlacement placement)
    {
        var defaults = new Dictionary<string, string>
        {
            [StandardKeys.Source] = placement.Source,
            [StandardKeys.Medium] = placement.Medium,
        };
        if (placement.Content is { } content)
        {
            defaults[StandardKeys.Content] = content;
        }

        if (placement.Medium == "cpc")
        {
            defaults[StandardKeys.Term] = "{keyword}";
        }

        return defaults;
    }

    private static ConventionVersion Convention(DateTimeOffset now)
    {
        var plain = StartingConventions.Plain.Document;
        List<WordDocument> sources =
        [
            .. DemoPlan
                .Placements.DistinctBy(p => p.Source)
                .Select(p => new WordDocument
                {
                    Written = p.Source,
                    Label = p.Publisher ?? p.Name,
                    Aliases = DemoPlan.SourceAliases.GetValueOrDefault(p.Source, []),
                }),
            .. DemoPlan.RetiredSources,
        ];
        var document = plain with
        {
            Fields = [.. plain.Fields.Select(f => f.Key == StandardKeys.Source ? f with { Words = sources } : f)],
            Choices = DemoPlan.Choices,
            Referrers = DemoPlan.Sites,
        };
        return ConventionRows.FirstVersion(document, now);
    }

    /// <summary>Each campaign's links in each of its placements, made the way people make them.</summary>
    private static bool LosesTags(DemoPlan.PlannedCampaign campaign, DemoPlan.PlannedPlacement placement) =>
        campaign.Name == DemoPlan.LosingCampaign && placement.Name == DemoPlan.LosingPlacement;

    private async Task<List<DemoLink>> AddLinksAsync(CancellationToken cancel)
    {
        var planned = (
            from campaign in DemoPlan.Campaigns.Where(c => c.From is not > 0)
            from placement in DemoPlan.Placements.Where((_, i) => campaign.Weight >= 2 || i % 2 == campaign.Name.Length % 2)
            select (
                campaign,
                placement,
                content: (string?)null,
                converts: DemoPlan.Variants.FirstOrDefault(v => v.Campaign == campaign.Name && v.Placement == placement.Name)
                    is { First: > 0 and var first }
                    ? first
                    : 1
            )
        ).ToList();
        planned.AddRange(
            DemoPlan.Variants.Select(v =>
                (
                    DemoPlan.Campaigns.Single(c => c.Name == v.Campaign),
                    DemoPlan.Placements.Single(p => p.Name == v.Placement),
                    (string?)v.Content,
                    v.Second
                )
            )
        );
        var requests = planned
            .Select(p => new ComposeRequest(
                $"http://{options.Value.DemoSiteHost}{(LosesTags(p.campaign, p.placement) ? DemoPlan.OldPage : p.campaign.Page)}",
                p.campaign.Name,
                p.placement.Name,
                p.content is null ? null : new Dictionary<string, string> { [StandardKeys.Content] = p.content },
                Title: $"{p.campaign.Name} · {p.placement.Name}{(p.content is null ? "" : $" · {p.content}")}",
                Shorten: !DemoPlan.LongLinkMediums.Contains(p.placement.Medium)
            ))
            .ToList();
        var worked = await composition.ComposeAsync(requests, cancel);
        if (worked.FirstOrDefault(w => !w.Composed.Ready) is { } stopped)
        {
            throw new InvalidOperationException(
                $"The demo's own link “{stopped.Request.Title}” is stopped: {stopped.Composed.Notices[0].Message}"
            );
        }

        var saved = await writer.SaveAsync(worked, DemoPeople.All[0].Name, cancel);
        if (saved.IsRefused)
        {
            throw new InvalidOperationException($"The demo's own links are refused: {saved.Refusal.Message}");
        }

        db.ChangeTracker.Clear();
        var links = new List<DemoLink>();
        var shortLinks = await db.ShortLinks.AsNoTracking().ToListAsync(cancel);
        foreach (var (place, (_, link, _)) in saved.Value)
        {
            bool printed = planned[place].placement.Medium == "qr";
            var used = shortLinks.SingleOrDefault(s => s.LinkId == link.Id && s.Use == (printed ? ShortLinkUse.Code : ShortLinkUse.Text));
            links.Add(
                new DemoLink(used?.Id, link.Url, planned[place].campaign, planned[place].placement)
                {
                    IsVariant = planned[place].content is not null,
                    LosesTags = LosesTags(planned[place].campaign, planned[place].placement),
                    Converts = planned[place].placement.Converts * planned[place].converts,
                }
            );
        }

        // The links were made when their campaigns were planned, not all in this moment.
        var today = DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime);
        int posted = 0;
        foreach (var link in await db.Links.OrderBy(l => l.Id).Include(l => l.Campaign).Include(l => l.ShortLinks).ToListAsync(cancel))
        {
            int lead = link.Campaign!.StartsOn is null ? DemoTraffic.DaysBack + 9 : 30;
            var planAt =
                link.Campaign.StartsOn is { } starts && starts < today
                    ? starts.AddDays(-9)
                    : today.AddDays(-lead - (link.Campaign.Name.Length % 9));
            link.CreatedAt = new DateTimeOffset(
                planAt.ToDateTime(new TimeOnly(9, 0).AddMinutes(Math.Abs(link.Url.Length * 7 % 400))),
                TimeSpan.Zero
            );
            link.ShortLinks.ForEach(s => s.CreatedAt = link.CreatedAt);

            // Groups and pages of networks were posted to in the first days, whenever somebody came to it; one campaign's are still to do.
            if (
                DemoPlan.PostedMediums.Any(m => link.Url.Contains($"utm_medium={m}", StringComparison.Ordinal))
                && link.Campaign.Name != DemoPlan.CampaignToPost
            )
            {
                link.PlacedAt = link.CreatedAt.AddDays(9 + (posted % 6)).AddHours(posted * 5 % 11);
                posted++;
            }
        }

        await db.SaveChangesAsync(cancel);
        return links;
    }
}

/// <summary>A demo link with the short link its traffic uses; null where the long link is placed.</summary>
public sealed record DemoLink(Guid? ShortLinkId, string Url, DemoPlan.PlannedCampaign Campaign, DemoPlan.PlannedPlacement Placement)
{
    /// <summary>It stands beside another link of its campaign and placement, and takes half of its visitors.</summary>
    public bool IsVariant { get; init; }

    /// <summary>It leads to an old address, and a redirect loses its tags.</summary>
    public bool LosesTags { get; init; }

    /// <summary>How often its visits convert, beside the average of 1.</summary>
    public double Converts { get; init; } = 1;
}
