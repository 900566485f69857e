using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Accounts;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Outbox;

namespace PreciseBeacon.Web.Accounts;

/// <summary>People, their sessions and roles, and keys for other programs.</summary>
public static class AccountsModule
{
    public static void Add(IServiceCollection services, BeaconOptions options)
    {
        services
            .AddIdentityCore<AppUser>(identity =>
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
        var authentication = services
            .AddAuthentication(Either)
            .AddPolicyScheme(Either, null, scheme =>
                scheme.ForwardDefaultSelector = context =>
                    context.Request.Headers.ContainsKey("Authorization") || KeyInAddress.Of(context) is not null
                        ? ApiKeyHandler.Scheme
                        : IdentityConstants.ApplicationScheme
            )
            .AddScheme<AuthenticationSchemeOptions, ApiKeyHandler>(ApiKeyHandler.Scheme, null);
        authentication.AddIdentityCookies(cookies =>
            cookies.ApplicationCookie!.Configure(cookie =>
            {
                cookie.Cookie.Name = "beacon";
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.SameSite = SameSiteMode.Lax;
                cookie.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
                cookie.ExpireTimeSpan = SessionKeeper.Idle;
                cookie.SlidingExpiration = true;
            })
        );
        services.AddHttpContextAccessor();

        // Sessions are checked with every request; the platform's own check would only lose what a cookie says of them.
        services.Configure<SecurityStampValidatorOptions>(stamp =>
            stamp.OnRefreshingPrincipal = refresh =>
            {
                if (refresh.CurrentPrincipal?.FindFirst(BeaconClaims.Session) is { } session)
                {
                    refresh.NewPrincipal?.Identities.First().AddClaim(session);
                }

                return Task.CompletedTask;
            }
        );
        services.AddScoped<SessionKeeper>();
        services.AddScoped<PasswordCheck>();
        services.AddScoped<InvitationBook>();
        services.AddScoped<MemberStore>();
        services.AddScoped<IForgottenPasswords, ForgottenPasswords>();
        services.AddHostedService<PasswordRescue>();
        services.AddSingleton<KnownDevice>();
        services.AddSingleton<SignInThrottle>();
        services.AddSingleton<KeyThrottle>();
        services.AddSingleton<KeyUses>();
        services.AddRateLimiter(SignInThrottle.Configure);
        services.AddScoped<KeyRing>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapAccounts();
        app.MapKeys();
        app.MapMembers();
        app.MapOwnMails();
    }
}
