using System.Linq.Expressions;
using System.Text.Json;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.Workspaces;

namespace PreciseBeacon.Data;

/// <summary>
/// The database as objects. Every workspace row is filtered by <see cref="CurrentWorkspace"/>; raw events and what is
/// worked out from them are written in bulk and have no objects here.
/// </summary>
public sealed class BeaconDb(DbContextOptions<BeaconDb> options, CurrentWorkspace current)
    : IdentityUserContext<AppUser, Guid>(options),
        IDataProtectionKeyContext
{
    public DbSet<Workspace> Workspaces => Set<Workspace>();

    public DbSet<Site> Sites => Set<Site>();

    public DbSet<Invitation> Invitations => Set<Invitation>();

    public DbSet<ConversionKind> ConversionKinds => Set<ConversionKind>();

    public DbSet<ConversionMonth> ConversionMonths => Set<ConversionMonth>();

    public DbSet<SiteHost> SiteHosts => Set<SiteHost>();

    public DbSet<ApprovedHost> ApprovedHosts => Set<ApprovedHost>();

    public DbSet<RefusedHost> RefusedHosts => Set<RefusedHost>();

    public DbSet<PassingHost> PassingHosts => Set<PassingHost>();

    public DbSet<DayNote> DayNotes => Set<DayNote>();

    public DbSet<SavedView> SavedViews => Set<SavedView>();

    public DbSet<NewKeyMonth> NewKeyMonths => Set<NewKeyMonth>();

    public DbSet<LogReading> LogReadings => Set<LogReading>();

    public DbSet<ShortDomain> ShortDomains => Set<ShortDomain>();

    public DbSet<Member> Members => Set<Member>();

    public DbSet<UserSession> UserSessions => Set<UserSession>();

    public DbSet<ApiKey> ApiKeys => Set<ApiKey>();

    public DbSet<ConventionVersion> ConventionVersions => Set<ConventionVersion>();

    public DbSet<Campaign> Campaigns => Set<Campaign>();

    public DbSet<Placement> Placements => Set<Placement>();

    public DbSet<CampaignAttribute> CampaignAttributes => Set<CampaignAttribute>();

    public DbSet<PlannedLink> PlannedLinks => Set<PlannedLink>();

    public DbSet<PlacementSet> PlacementSets => Set<PlacementSet>();

    public DbSet<SitePage> SitePages => Set<SitePage>();

    public DbSet<PageText> PageTexts => Set<PageText>();

    public DbSet<PartnerPage> PartnerPages => Set<PartnerPage>();

    public DbSet<Batch> Batches => Set<Batch>();

    public DbSet<BatchRun> BatchRuns => Set<BatchRun>();

    public DbSet<SheetEdit> SheetEdits => Set<SheetEdit>();

    public DbSet<Mail> Mails => Set<Mail>();

    public DbSet<LinkReview> LinkReviews => Set<LinkReview>();

    public DbSet<ReviewedLink> ReviewedLinks => Set<ReviewedLink>();

    public DbSet<SavedRecipe> SavedRecipes => Set<SavedRecipe>();

    public DbSet<Link> Links => Set<Link>();

    public DbSet<LinkTotal> LinkTotals => Set<LinkTotal>();

    public DbSet<ShortLink> ShortLinks => Set<ShortLink>();

    public DbSet<ResultPage> ResultPages => Set<ResultPage>();

    public DbSet<CodeLogo> CodeLogos => Set<CodeLogo>();

    public DbSet<SealedLink> SealedLinks => Set<SealedLink>();

    public DbSet<IdempotentAnswer> IdempotentAnswers => Set<IdempotentAnswer>();

    public DbSet<ChangeLogEntry> ChangeLog => Set<ChangeLogEntry>();

    public DbSet<Microsoft.AspNetCore.DataProtection.EntityFrameworkCore.DataProtectionKey> DataProtectionKeys =>
        Set<Microsoft.AspNetCore.DataProtection.EntityFrameworkCore.DataProtectionKey>();

    /// <summary>The workspace seen; a filter compares with it on every query.</summary>
    public Guid? CurrentWorkspaceId => current.Id;

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Enum>().HaveConversion<string>().HaveMaxLength(40);
        configurationBuilder.Properties<decimal>().HavePrecision(18, 4);
        configurationBuilder.Properties<Dictionary<string, string>>().HaveConversion<TextMap, TextMapComparer>().HaveColumnType("jsonb");
    }

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        foreach (var type in builder.Model.GetEntityTypes().Where(t => typeof(IWorkspaceRow).IsAssignableFrom(t.ClrType)).ToList())
        {
            var row = Expression.Parameter(type.ClrType, "row");
            var own = Expression.Equal(
                Expression.Convert(Expression.Property(row, nameof(IWorkspaceRow.WorkspaceId)), typeof(Guid?)),
                Expression.Property(Expression.Constant(this), nameof(CurrentWorkspaceId))
            );
            builder.Entity(type.ClrType).HasQueryFilter(Expression.Lambda(own, row));
            builder.Entity(type.ClrType).HasOne(typeof(Workspace)).WithMany().HasForeignKey(nameof(IWorkspaceRow.WorkspaceId));
        }

        builder.Entity<Site>().HasIndex(s => s.MeasuringKey).IsUnique();
        builder.Entity<Site>().Property(s => s.LargestValue).HasDefaultValue(1_000_000m);
        builder.Entity<ConversionKind>().HasIndex(k => new { k.WorkspaceId, k.Name }).IsUnique();
        builder.Entity<SiteHost>().HasIndex(h => new { h.WorkspaceId, h.Host }).IsUnique();
        builder.Entity<ApprovedHost>().HasIndex(h => new { h.WorkspaceId, h.Host }).IsUnique();
        builder.Entity<RefusedHost>().HasIndex(h => new { h.WorkspaceId, h.Host }).IsUnique();
        builder.Entity<PassingHost>().HasIndex(h => new { h.WorkspaceId, h.Host }).IsUnique();
        builder.Entity<DayNote>().HasIndex(n => new { n.WorkspaceId, n.Day });
        builder.Entity<LogReading>().HasIndex(r => new { r.WorkspaceId, r.AddedAt });
        builder.Entity<LogReading>().Property(r => r.Skipped).HasColumnType("jsonb");
        builder.Entity<ShortDomain>().HasIndex(d => d.Host).IsUnique();
        builder.Entity<ShortDomain>().Property(d => d.IsFirst).HasDefaultValue(false);
        builder.Entity<ShortDomain>().Property(d => d.Proof).HasDefaultValueSql("md5(gen_random_uuid()::text)");
        builder
            .Entity<ShortDomain>()
            .HasIndex(d => d.WorkspaceId)
            .IsUnique()
            .HasFilter("is_first")
            .HasDatabaseName("ix_short_domains_first");
        builder.Entity<Member>().HasIndex(m => new { m.UserId, m.WorkspaceId }).IsUnique();
        builder.Entity<Invitation>().HasIndex(i => i.Hash).IsUnique();
        builder.Entity<UserSession>().HasIndex(s => s.UserId);
        builder.Entity<ApiKey>().HasIndex(k => k.Hash).IsUnique();
        builder.Entity<ConventionVersion>().HasIndex(v => new { v.WorkspaceId, v.Number }).IsUnique();
        builder.Entity<ConventionVersion>().Property(v => v.Channels).HasColumnType("jsonb");
        builder.Entity<ConventionVersion>().Property(v => v.Settings).HasColumnType("jsonb").HasDefaultValueSql("'{}'");
        builder.Entity<FieldRow>().Property(f => f.PresenceIn).HasColumnType("jsonb").HasDefaultValueSql("'{}'");
        builder.Entity<FieldRow>().Property(f => f.Pattern).HasColumnType("jsonb");
        builder.Entity<FieldRow>().Property(f => f.Means).HasDefaultValue(FieldMeaning.ByKey);
        builder.Entity<FieldRow>().Property(f => f.Kind).HasDefaultValue(FieldKind.Text);
        builder.Entity<FieldRow>().Property(f => f.DateForm).HasDefaultValue(DateForm.Month).HasSentinel(DateForm.Month);
        builder.Entity<Campaign>().Property(c => c.Attributes).HasDefaultValueSql("'{}'");
        builder.Entity<Placement>().Property(p => p.ToolWrites).HasDefaultValueSql("'{}'");
        builder.Entity<Placement>().Property(p => p.Tags).HasDefaultValueSql("'{}'");
        builder.Entity<Placement>().Property(p => p.Asks).HasDefaultValueSql("'{}'");
        builder.Entity<Placement>().Property(p => p.UseDays).HasDefaultValueSql("'{}'");
        builder.Entity<Placement>().Property(p => p.Revision).IsConcurrencyToken();
        builder.Entity<Campaign>().Property(c => c.Revision).IsConcurrencyToken();
        builder.Entity<CampaignAttribute>().HasIndex(a => new { a.WorkspaceId, a.Name }).IsUnique();
        builder.Entity<PlannedLink>().HasIndex(p => new { p.CampaignId, p.Position });
        builder.Entity<PlannedLink>().HasOne(p => p.Link).WithMany().OnDelete(DeleteBehavior.SetNull);
        builder.Entity<PlannedLink>().HasOne(p => p.Placement).WithMany().OnDelete(DeleteBehavior.SetNull);
        builder.Entity<PlacementSet>().HasIndex(s => new { s.WorkspaceId, s.Name }).IsUnique();
        builder.Entity<SitePage>().HasIndex(p => new { p.WorkspaceId, p.Address }).IsUnique();
        builder
            .Entity<PageText>()
            .HasIndex(t => new
            {
                t.WorkspaceId,
                t.CampaignId,
                t.Page,
            })
            .IsUnique()
            .AreNullsDistinct(false);
        builder.Entity<PageText>().Property(t => t.Revision).IsConcurrencyToken();
        builder.Entity<Batch>().HasIndex(b => new { b.WorkspaceId, b.CreatedAt });
        builder.Entity<Batch>().Property(b => b.Recipe).HasColumnType("jsonb");
        builder.Entity<Batch>().Property(b => b.Revision).IsConcurrencyToken();
        builder.Entity<BatchRun>().HasIndex(r => new { r.BatchId, r.Number }).IsUnique();
        builder.Entity<BatchRun>().HasIndex(r => r.State);
        builder.Entity<BatchRun>().Property(r => r.Recipe).HasColumnType("jsonb");
        builder.Entity<Batch>().Property(b => b.Sheets).HasDefaultValueSql("'{}'");
        builder.Entity<Batch>().HasOne<Batch>().WithMany().HasForeignKey(b => b.Follows).OnDelete(DeleteBehavior.SetNull);
        builder.Entity<SheetEdit>().HasIndex(e => new { e.BatchId, e.Number }).IsUnique();
        builder.Entity<SheetEdit>().Property(e => e.Before).HasColumnType("jsonb");
        builder.Entity<SheetEdit>().Property(e => e.After).HasColumnType("jsonb");
        builder.Entity<Mail>().HasIndex(m => new { m.WorkspaceId, m.CreatedAt });
        builder.Entity<Mail>().Property(m => m.Revision).IsConcurrencyToken();
        builder.Entity<LinkReview>().HasIndex(a => new { a.WorkspaceId, a.CreatedAt });
        builder.Entity<ReviewedLink>().HasKey(l => new { l.LinkReviewId, l.Number });
        builder.Entity<ReviewedLink>().HasIndex(l => l.Rules).HasMethod("gin");

        // A link of a link review belongs to the workspace its link review belongs to.
        builder.Entity<ReviewedLink>().HasQueryFilter(l => l.LinkReview!.WorkspaceId == CurrentWorkspaceId);
        builder.Entity<SavedRecipe>().HasIndex(r => new { r.WorkspaceId, r.Name }).IsUnique();
        builder.Entity<SavedRecipe>().Property(r => r.Recipe).HasColumnType("jsonb");
        builder.Entity<PartnerPage>().HasIndex(h => h.Token).IsUnique();
        builder.Entity<ResultPage>().HasIndex(p => p.Token).IsUnique();
        builder.Entity<ResultPage>().HasOne(p => p.Link).WithMany().OnDelete(DeleteBehavior.Cascade);
        builder.Entity<SealedLink>().HasKey(s => new { s.WorkspaceId, s.Code });
        builder.Entity<ConventionVersion>().Property(v => v.Referrers).HasColumnType("jsonb");
        builder.Entity<ConventionVersion>().Property(v => v.Revision).IsConcurrencyToken();
        builder.Entity<FieldRow>().HasIndex(f => new { f.ConventionVersionId, f.Key }).IsUnique();
        builder.Entity<WordRow>().HasIndex(w => new { w.FieldRowId, w.Written }).IsUnique();
        builder.Entity<Campaign>().HasIndex(c => new { c.WorkspaceId, c.Name }).IsUnique();
        builder.Entity<Placement>().HasOne(p => p.ShortDomain).WithMany().OnDelete(DeleteBehavior.SetNull);
        builder.Entity<Placement>().HasIndex(p => new { p.WorkspaceId, p.Name }).IsUnique();
        builder.Entity<Link>().HasIndex(l => new { l.WorkspaceId, l.CreatedAt });
        builder.Entity<Link>().Property(l => l.Paused).HasDefaultValue(false);
        builder.Entity<Link>().Property(l => l.RouteRevision).HasDefaultValue(0);
        builder.Entity<Link>().Property(l => l.Turns).HasColumnType("jsonb");
        builder.Entity<Link>().Property(l => l.Rates).HasColumnType("jsonb");
        builder.Entity<Placement>().Property(p => p.Rates).HasColumnType("jsonb");
        builder.Entity<Link>().Property(l => l.Permanent).HasDefaultValue(false);
        builder.Entity<Link>().Property(l => l.WithoutTags).HasDefaultValue(false);
        builder.Entity<Link>().Property(l => l.ClickIds).HasDefaultValue(false);
        builder.Entity<Link>().Property(l => l.Carries).HasDefaultValue(CarriedParameters.Nothing);
        builder.Entity<Link>().Property(l => l.Uses).HasDefaultValue(0L);
        builder.Entity<Link>().Property(l => l.Topics).HasDefaultValueSql("'{}'");
        builder.Entity<Link>().HasIndex(l => l.Topics).HasMethod("gin").HasFilter("topics <> '{}'");
        builder.Entity<Link>().Property(l => l.IsUnshortened).HasDefaultValue(false);
        builder.Entity<Link>().Property(l => l.IsWaiting).HasDefaultValue(false);

        // Few links are in these states, so that each index is small; in the order they are mostly shown in.
        builder
            .Entity<Link>()
            .HasIndex(
                l => new
                {
                    l.WorkspaceId,
                    l.CreatedAt,
                    l.Id,
                },
                "ix_links_unshortened"
            )
            .HasFilter("is_unshortened")
            .HasDatabaseName("ix_links_unshortened");
        builder
            .Entity<Link>()
            .HasIndex(
                l => new
                {
                    l.WorkspaceId,
                    l.CreatedAt,
                    l.Id,
                },
                "ix_links_paused"
            )
            .HasFilter("paused")
            .HasDatabaseName("ix_links_paused");
        builder
            .Entity<Link>()
            .HasIndex(
                l => new
                {
                    l.WorkspaceId,
                    l.CreatedAt,
                    l.Id,
                },
                "ix_links_ending"
            )
            .HasFilter("ends_at is not null or uses_left is not null")
            .HasDatabaseName("ix_links_ending");
        builder
            .Entity<Link>()
            .HasIndex(
                l => new
                {
                    l.WorkspaceId,
                    l.CreatedAt,
                    l.Id,
                },
                "ix_links_retired"
            )
            .HasFilter("retired_at is not null")
            .HasDatabaseName("ix_links_retired");
        builder
            .Entity<Link>()
            .HasIndex(
                l => new
                {
                    l.WorkspaceId,
                    l.CreatedAt,
                    l.Id,
                },
                "ix_links_waiting"
            )
            .HasFilter("is_waiting")
            .HasDatabaseName("ix_links_waiting");
        builder.Entity<LinkTotal>().HasIndex(t => t.WorkspaceId);
        builder
            .Entity<Link>()
            .HasIndex(l => new
            {
                l.WorkspaceId,
                l.Uses,
                l.Id,
            });
        builder
            .Entity<Link>()
            .HasIndex(l => new
            {
                l.WorkspaceId,
                l.LastUsedAt,
                l.Id,
            });
        builder
            .Entity<Link>()
            .HasIndex(l => new
            {
                l.WorkspaceId,
                l.Title,
                l.Id,
            });
        builder.Entity<Link>().HasIndex(l => l.Title).HasMethod("gin").HasOperators("gin_trgm_ops").HasDatabaseName("ix_links_title_parts");
        builder.Entity<Link>().HasIndex(l => l.Url).HasMethod("gin").HasOperators("gin_trgm_ops").HasDatabaseName("ix_links_url_parts");
        builder
            .Entity<ShortLink>()
            .HasIndex(s => s.Slug)
            .HasMethod("gin")
            .HasOperators("gin_trgm_ops")
            .HasDatabaseName("ix_short_links_slug_parts");
        builder.HasPostgresExtension("pg_trgm");
        builder.Entity<Link>().HasIndex(l => new { l.WorkspaceId, l.Url });
        builder
            .Entity<Link>()
            .HasIndex(l => new
            {
                l.WorkspaceId,
                l.TagsKey,
                l.CreatedAt,
            });
        builder
            .Entity<Link>()
            .HasIndex(l => new
            {
                l.WorkspaceId,
                l.TagsKey,
                l.Page,
                l.CreatedAt,
            });
        builder.Entity<ShortLink>().HasIndex(s => new { s.ShortDomainId, s.Slug }).IsUnique();
        builder.Entity<ShortLink>().HasIndex(s => new { s.LinkId, s.Use }).IsUnique();
        builder.Entity<IdempotentAnswer>().HasKey(a => new { a.WorkspaceId, a.Key });
        builder
            .Entity<ChangeLogEntry>()
            .HasIndex(c => new
            {
                c.WorkspaceId,
                c.ThingId,
                c.At,
            });
        builder.Entity<ChangeLogEntry>().HasIndex(c => c.ChangeId).HasFilter("change_id is not null");
        builder.Entity<ChangeLogEntry>().Property(c => c.Before).HasColumnType("jsonb");
        builder.Entity<ChangeLogEntry>().Property(c => c.After).HasColumnType("jsonb");
        builder.Entity<IdempotentAnswer>().Property(c => c.Answer).HasColumnType("jsonb");
    }

    /// <summary>Stamps new rows with the workspace seen, so that none is ever written into another.</summary>
    public override Task<int> SaveChangesAsync(bool acceptAllChangesOnSuccess, CancellationToken cancellationToken = default)
    {
        foreach (var entry in ChangeTracker.Entries<IWorkspaceRow>())
        {
            if (entry.State == EntityState.Added && entry.Entity.WorkspaceId == Guid.Empty)
            {
                entry.Entity.WorkspaceId = current.Id ?? throw new InvalidOperationException("A row was added without a workspace.");
            }
            else if (current.Id is { } id && entry.State != EntityState.Unchanged && entry.Entity.WorkspaceId != id)
            {
                throw new InvalidOperationException("A row of another workspace was about to be written.");
            }
        }

        return base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
    }

    private sealed class TextMap()
        : ValueConverter<Dictionary<string, string>, string>(
            map => JsonSerializer.Serialize(map, JsonSerializerOptions.Default),
            json => JsonSerializer.Deserialize<Dictionary<string, string>>(json, JsonSerializerOptions.Default) ?? new()
        );

    private sealed class TextMapComparer()
        : ValueComparer<Dictionary<string, string>>(
            (a, b) => a == b || (a != null && b != null && a.Count == b.Count && !a.Except(b).Any()),
            map => map.Count,
            map => new Dictionary<string, string>(map)
        );
}
