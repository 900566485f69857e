using System.Net;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using PreciseBeacon.Data;
using PreciseBeacon.Data.ShortLinks;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Redirects;

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
    /// <param name="startData">Registers the data an empty database may be filled with; null for none.</param>
    public static WebApplication Build(
        string[] args,
        Action<IServiceCollection>? replace = null,
        Action<IServiceCollection, IConfiguration>? startData = null
    )
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
        startData?.Invoke(builder.Services, builder.Configuration);
        replace?.Invoke(builder.Services);
        var app = builder.Build();
        KeyCertificate.Warn(app);
        UsePipeline(app);
        app.CheckCallers();
        return app;
    }

    private static void AddServices(WebApplicationBuilder builder)
    {
        var services = builder.Services;
        string database = builder.Configuration.GetConnectionString("Beacon")
            ?? throw new InvalidOperationException(
                "There is no connection string “Beacon”; run ./start, or set ConnectionStrings__Beacon."
            );
        services.Configure<BeaconOptions>(builder.Configuration.GetSection(BeaconOptions.Section));
        services.Configure<HostOptions>(host => host.ShutdownTimeout = LongestStop);
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton(s => BeaconDatabase.Open(database, s.GetRequiredService<IOptions<BeaconOptions>>().Value.MostConnections));
        services.AddScoped<CurrentWorkspace>();
        services.AddDbContext<BeaconDb>((s, options) => BeaconDbOptions.Configure(options, s.GetRequiredService<NpgsqlDataSource>()));
        services.AddSingleton<RunMode>();
        services.AddSingleton<DatabaseSetup>();
        services.AddHostedService(s => s.GetRequiredService<DatabaseSetup>());
        services.AddScoped<IdempotentAnswers>();
        services.AddScoped<IdempotentRequest>();
        services.AddProblemDetails(problems => problems.CustomizeProblemDetails = RequestFaults.Complete);
        services.AddExceptionHandler<RequestFaults>();
        services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
        services.AddOpenApi("v1", document =>
        {
            document.AddDocumentTransformer(ApiDescription.DescribeAsync);
            document.AddOperationTransformer(ApiDescription.DescribeAsync);
            document.AddSchemaTransformer(ApiDescription.DescribeAsync);
            document.AddSchemaTransformer(CellSourceSchema.DescribeAsync);
        });
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(System.Text.Json.JsonNamingPolicy.CamelCase));
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
        });

        Modules.Add(services, builder.Configuration.GetSection(BeaconOptions.Section).Get<BeaconOptions>() ?? new());

        services.AddSingleton<Clearing>();
        services.AddSingleton<Housekeeping>();
        services.AddHostedService(s => s.GetRequiredService<Housekeeping>());

        services.AddSingleton<ClientFiles>();
        services.AddScoped<AuditLog>();
        services.AddScoped<WorkspaceReader>();
    }

    private static void UsePipeline(WebApplication app)
    {
        var options = app.Services.GetRequiredService<IOptions<BeaconOptions>>().Value;
        if (options.TrustedProxies.Length > 0)
        {
            var forwarded = new ForwardedHeadersOptions
            {
                ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            };
            forwarded.KnownProxies.Clear();
            forwarded.KnownIPNetworks.Clear();
            foreach (string proxy in options.TrustedProxies)
            {
                forwarded.KnownProxies.Add(IPAddress.Parse(proxy));
            }

            app.UseForwardedHeaders(forwarded);
        }

        var redirector = app.Services.GetRequiredService<Redirector>();
        app.Use((context, next) => redirector.Follow(context) ?? next(context));
        app.UseSecurityHeaders();
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseRouting();
        app.UseMiddleware<StartGate>();
        app.UseMiddleware<HostGate>();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseAccessGate();

        ClientFiles.MapClient(app);

        // The server's own host may serve short links until another domain does: what is no place of the interface, no call and no
        // file of it was meant as one. Elsewhere such a request came no further than the host gate.
        app.Use(
            (context, next) =>
                context.GetEndpoint() is null
                && app.Services.GetRequiredService<SlugTable>().Domain(context.Request.Host.Value ?? "") is not null
                    ? app.Services.GetRequiredService<ShortDomainPages>().AnswerAsync(context)
                    : next(context)
        );
        app.MapHealth();
        app.MapOpenApi().For(Caller.Anybody);
        app.MapApiReference();
        Modules.Map(app);
    }
}
