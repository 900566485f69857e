using System.Net;
using System.Security.Cryptography;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Audits;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Codes;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Demo;
using PreciseBeacon.Web.Ledger;
using PreciseBeacon.Web.Mails;
using PreciseBeacon.Web.Measuring;
using PreciseBeacon.Web.Outside;
using PreciseBeacon.Web.Plan;
using PreciseBeacon.Web.Redirects;
using PreciseBeacon.Web.Shorten;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Puts the application together.</summary>
public static class BeaconApp
{
    /// <summary>Long addresses are handed to calls in the request line.</summary>
    private const int LongestRequestLine = 32 * 1024;

    /// <summary>Longest a request being worked on holds up stopping.</summary>
    private static readonly TimeSpan LongestStop = TimeSpan.FromSeconds(8);

    /// <summary>Builds the application. It listens as soon as it is started, and answers 503 until its database was readied.</summary>
    /// <param name="args">Settings from the command line.</param>
    /// <param name="replace">Replaces services, such as the clock.</param>
    public static WebApplication Build(string[] args, Action<IServiceCollection>? replace = null)
    {
        var builder = WebApplication.CreateBuilder(args);
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Limits.MaxRequestLineSize = LongestRequestLine;
            kestrel.Limits.MaxRequestBodySize = 4 << 20;
        });
        // Addresses may hold keys, so requests are never logged whole, whatever the settings say.
        builder.Logging.AddFilter("Microsoft.AspNetCore.Hosting.Diagnostics", LogLevel.Warning);
        AddServices(builder);
        replace?.Invoke(builder.Services);
        var app = builder.Build();
        KeyCertificate.Warn(app);
        UsePipeline(app);
        app.CheckAccessTable();
        return app;
    }

    private static void AddServices(WebApplicationBuilder builder)
    {
        var services = builder.Services;
        string database = builder.Configuration.GetConnectionString("Beacon")
            ?? throw new InvalidOperationException("There is no connection string “Beacon”; run ./start, or set ConnectionStrings__Beacon.");
        services.Configure<BeaconOptions>(builder.Configuration.GetSection(BeaconOptions.Section));
        services.Configure<HostOptions>(host => host.ShutdownTimeout = LongestStop);
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton(s => BeaconDatabase.Open(database, s.GetRequiredService<IOptions<BeaconOptions>>().Value.MostConnections));
        services.AddScoped<CurrentWorkspace>();
        services.AddDbContext<BeaconDb>((s, options) => BeaconDbOptions.Configure(options, s.GetRequiredService<NpgsqlDataSource>()));
        services.AddSingleton<RunMode>();
        services.AddSingleton<DatabaseSetup>();
        services.AddHostedService(s => s.GetRequiredService<DatabaseSetup>());
        services.AddScoped<OnceOnly>();
        services.AddProblemDetails(problems => problems.CustomizeProblemDetails = RequestFaults.Complete);
        services.AddExceptionHandler<RequestFaults>();
        services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
        services.AddOpenApi("v1", document =>
        {
            // Where this copy runs is no part of the description, which is checked in.
            document.AddDocumentTransformer((api, _, _) =>
            {
                api.Info.Title = "Precise Beacon";
                api.Servers?.Clear();
                return Task.CompletedTask;
            });
            document.AddSchemaTransformer(CellSourceSchema.DescribeAsync);
        });
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase));
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
        });

        AddAccounts(services, builder.Configuration.GetSection(BeaconOptions.Section).Get<BeaconOptions>() ?? new());

        services.AddSingleton(new EventIds(BitConverter.ToInt64(RandomNumberGenerator.GetBytes(sizeof(long)))));
        services.AddSingleton<SaltBook>();
        services.AddSingleton<EventKeeper>();
        services.AddSingleton<EventMover>();
        services.AddSingleton<WorkSignal>();
        services.AddSingleton<ClickWorkOut>();
        services.AddSingleton<VisitWorkOut>();
        services.AddSingleton<SpoolHost>();
        services.AddHostedService(s => s.GetRequiredService<SpoolHost>());
        services.AddHostedService<WorkOutHost>();
        services.AddHostedService<SaltKeeper>();
        services.AddHostedService<TotalsKeeper>();
        services.AddSingleton<Clearing>();
        services.AddSingleton<Housekeeping>();
        services.AddHostedService(s => s.GetRequiredService<Housekeeping>());

        services.AddSingleton(s => new Countries(s.GetRequiredService<IOptions<BeaconOptions>>().Value.CountryFile ?? Path.Combine(AppContext.BaseDirectory, "countries.mmdb")));
        services.AddSingleton<UseCounter>();
        services.AddSingleton<SlugTable>();
        services.AddSingleton<GuessThrottle>();
        services.AddSingleton<ShortDomainPages>();
        services.AddHostedService<SlugFeed>();
        services.AddSingleton<SiteTable>();
        services.AddHostedService(s => s.GetRequiredService<SiteTable>());
        services.AddSingleton<ReportThrottle>();

        services.AddSingleton<ConventionReader.Remembered>();
        services.AddScoped<ConventionReader>();
        services.AddScoped<ConventionStore>();
        services.AddScoped<LinkWorkshop>();
        services.AddScoped<LinkMaker>();
        services.AddScoped<History>();
        services.AddScoped<WorkspaceReader>();
        services.AddScoped<CampaignStore>();
        services.AddScoped<PlannedLinks>();
        services.AddScoped<CampaignPage>();
        services.AddScoped<PlacementStore>();
        services.AddScoped<PlacementImport>();
        services.AddSingleton<OutsideReader>();
        services.AddScoped<SitemapReader>();
        services.AddScoped<PageNames>();
        services.AddScoped<PageTexts>();
        services.AddScoped<HandOvers>();
        services.AddSingleton<CampaignResultsReader>();
        services.AddSingleton<BatchRows>();
        services.AddScoped<BatchComposer>();
        services.AddScoped<BatchStore>();
        services.AddScoped<RowTyping>();
        services.AddScoped<NextFile>();
        services.AddSingleton<Inbox>();
        services.AddScoped<MailStore>();
        services.AddScoped<AuditStore>();
        services.AddScoped<SiteLinks>();
        services.AddScoped<BatchRunner>();
        services.AddSingleton<BatchHost>();
        services.AddHostedService(s => s.GetRequiredService<BatchHost>());
        services.AddScoped<CodeStore>();
        services.AddSingleton<LinkCountsReader>();
        services.AddScoped<LinkResults>();
        services.AddScoped<KeyRing>();
        services.AddScoped<ManyLinks>();
        services.AddScoped<LinkFilings>();
        services.AddScoped<LinkHistory>();
        services.AddScoped<LinkGroups>();
        services.AddScoped<SlugImport>();
        services.AddScoped<SlugAdvice>();
        services.AddScoped<WaitingLinks>();
        services.AddScoped<HostApproval>();
        services.AddScoped<ShortDomains>();
        services.AddScoped<RefusedHostList>();
        services.AddScoped<LinkRoutes>();
        services.AddScoped<WherePage>();
        services.AddScoped<EffectCounter>();
        services.AddSingleton<LinkClicksReader>();
        services.AddSingleton<LinkVisitsReader>();
        services.AddSingleton<ArrivalsReader>();
        services.AddScoped<DemoData>();
    }

    private static void AddAccounts(IServiceCollection services, BeaconOptions options)
    {
        services.AddIdentityCore<AppUser>(identity =>
            {
                identity.User.RequireUniqueEmail = true;
                identity.Password.RequiredLength = PasswordRules.Shortest;
                identity.Password.RequireDigit = false;
                identity.Password.RequireNonAlphanumeric = false;
                identity.Password.RequireUppercase = false;
                identity.Password.RequireLowercase = false;
            })
            .AddEntityFrameworkStores<BeaconDb>()
            .AddSignInManager();
        services.AddScoped<FirstOwnerMaker>();
        services.AddScoped<IClaimsTransformation, MembershipClaims>();
        var protection = services.AddDataProtection().SetApplicationName("precise-beacon").PersistKeysToDbContext<BeaconDb>();
        if (KeyCertificate.Read(options) is { } certificate)
        {
            protection.ProtectKeysWithCertificate(certificate);
        }


        // It reads the keys as the process starts, when their table may not be there yet; they are read when first needed.
        foreach (var eager in services.Where(s => s.ImplementationType?.Name == "DataProtectionHostedService").ToList())
        {
            services.Remove(eager);
        }

        services.AddAntiforgery(antiforgery =>
        {
            antiforgery.HeaderName = "X-Beacon-Token";
            antiforgery.Cookie.Name = "beacon-token";
            antiforgery.Cookie.SameSite = SameSiteMode.Strict;
            antiforgery.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
        });
        const string Either = "cookie-or-key";
        var authentication = services.AddAuthentication(Either)
            .AddPolicyScheme(Either, null, scheme => scheme.ForwardDefaultSelector = context =>
                context.Request.Headers.ContainsKey("Authorization") || KeyInAddress.Of(context) is not null ? ApiKeyHandler.Scheme : IdentityConstants.ApplicationScheme)
            .AddScheme<AuthenticationSchemeOptions, ApiKeyHandler>(ApiKeyHandler.Scheme, null);
        authentication.AddIdentityCookies(cookies => cookies.ApplicationCookie!.Configure(cookie =>
        {
            cookie.Cookie.Name = "beacon";
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SameSite = SameSiteMode.Lax;
            cookie.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            cookie.ExpireTimeSpan = SessionKeeper.Idle;
            cookie.SlidingExpiration = true;
        }));
        services.AddHttpContextAccessor();

        // Sessions are checked with every request; the platform's own check would only lose what a cookie says of them.
        services.Configure<SecurityStampValidatorOptions>(stamp => stamp.OnRefreshingPrincipal = refresh =>
        {
            if (refresh.CurrentPrincipal?.FindFirst(BeaconClaims.Session) is { } session)
            {
                refresh.NewPrincipal?.Identities.First().AddClaim(session);
            }

            return Task.CompletedTask;
        });
        services.AddScoped<SessionKeeper>();
        services.AddScoped<PasswordCheck>();
        services.AddSingleton<KnownDevice>();
        services.AddSingleton<SignInThrottle>();
        services.AddSingleton<KeyThrottle>();
        services.AddSingleton<KeyUses>();
        services.AddRateLimiter(SignInThrottle.Configure);
    }

    private static void UsePipeline(WebApplication app)
    {
        var options = app.Services.GetRequiredService<IOptions<BeaconOptions>>().Value;
        if (options.TrustedProxies.Length > 0)
        {
            var forwarded = new ForwardedHeadersOptions { ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto };
            forwarded.KnownProxies.Clear();
            forwarded.KnownIPNetworks.Clear();
            foreach (string proxy in options.TrustedProxies)
            {
                forwarded.KnownProxies.Add(IPAddress.Parse(proxy));
            }

            app.UseForwardedHeaders(forwarded);
        }

        app.UseMiddleware<Redirector>();
        app.UseSecurityHeaders();
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseRouting();
        app.UseMiddleware<StartGate>();
        app.UseMiddleware<HostGate>();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseAccessGate();

        app.MapClient();
        app.MapHealth();
        app.MapOpenApi();
        app.MapMeasuring();
        app.MapAccounts();
        app.MapConventions();
        app.MapPlan();
        app.MapCompose();
        app.MapBatches();
        app.MapSampleFiles();
        app.MapMails();
        app.MapAudits();
        app.MapShorten();
        app.MapLedger();
        app.MapCodes();
        app.MapResults();
        app.MapSlugImport();
        app.MapAddresses();
        app.MapSites();
        app.MapLinkWriting();
        app.MapKeys();
        app.MapArrivals();
    }
}
