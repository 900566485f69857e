using System.Globalization;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using PreciseBeacon.Core.Accounts;
using PreciseBeacon.Core.Conventions.Starting;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Workspaces;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Makes the first owner with their workspace, site and short domain, once, in an empty installation.</summary>
public sealed class FirstOwnerMaker(
    BeaconDb db,
    CurrentWorkspace current,
    UserManager<AppUser> users,
    SessionKeeper sessions,
    KnownDevice devices,
    IHttpContextAccessor http,
    IOptions<BeaconOptions> options,
    TimeProvider clock
)
{
    /// <summary>Makes them and signs the owner in; or says why not.</summary>
    public async Task<Refusal?> MakeAsync(FirstOwner request, CancellationToken cancel)
    {
        var site = DestinationReader.Read(request.SiteHost ?? "").Destination;
        bool isOwnHost = string.IsNullOrWhiteSpace(request.ShortHost);
        var shortHost = DestinationReader.Read(isOwnHost ? options.Value.PublicUrl : request.ShortHost!).Destination;
        if (PersonName.Read(request.Name) is not { } name)
        {
            return AccountEndpoints.NameRefused();
        }

        if (WhyWrong(request, site, shortHost) is { } why)
        {
            return Refusal.Invalid("first-owner-incomplete", why);
        }

        if (
            PasswordCheck.WhyNot(
                request.Password ?? "",
                [name, request.Mail, request.Workspace, site!.HostAndPort, shortHost!.HostAndPort]
            ) is
            { } weak
        )
        {
            return weak;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await RowLock.FirstOwnerAsync(db, cancel);
        if (await db.Users.AnyAsync(cancel))
        {
            return Refusal.Conflict("owner-exists", "This installation already has an owner; sign in, or ask for an invitation.");
        }

        var user = new AppUser
        {
            UserName = request.Mail,
            Email = request.Mail,
            DisplayName = name,
        };
        var made = await users.CreateAsync(user, request.Password!);
        if (!made.Succeeded)
        {
            return Refusal.Invalid("password-refused", string.Join(" ", made.Errors.Select(e => e.Description)));
        }

        var workspace = new Workspace
        {
            Name = request.Workspace.Trim(),
            Currency = request.Currency.ToUpperInvariant(),
            TimeZone = request.TimeZone,
            LivePlaceholders = PlaceholderShapes.Braces | PlaceholderShapes.DoubleBraces | PlaceholderShapes.MergeTags,
            CreatedAt = clock.GetUtcNow(),
        };
        current.Id = workspace.Id;
        db.Workspaces.Add(workspace);
        db.Members.Add(new Member { UserId = user.Id, Role = Role.Owner });
        db.Sites.Add(
            new Site
            {
                Name = site.HostAndPort,
                MeasuringKey = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(12)),
                VisitorIdKey = RandomNumberGenerator.GetBytes(32),
                HonoursOptOut = true,
                Hosts = [new SiteHost { Host = site.HostAndPort, AnswersHttps = site.Scheme == "https" }],
            }
        );
        db.ShortDomains.Add(
            new ShortDomain
            {
                Host = shortHost.HostAndPort,
                Scheme = shortHost.Scheme,
                IsFirst = true,
                CheckedAt = isOwnHost ? clock.GetUtcNow() : null,
            }
        );
        var start = StartingConventions.All.FirstOrDefault(s => s.Name == request.Start) ?? StartingConventions.Plain;
        db.ConventionVersions.Add(ConventionRows.FirstVersion(start.Document, clock.GetUtcNow()));
        db.Placements.AddRange(
            StartingConventions.Placements.Select(
                (p, i) =>
                    new Placement
                    {
                        Name = p.Name,
                        Channel = p.Channel,
                        Defaults = p.Defaults.ToDictionary(),
                        Position = i,
                    }
            )
        );
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await sessions.BeginAsync(user, cancel);
        devices.Mark(http.HttpContext!, user.Id);
        return null;
    }

    private static string? WhyWrong(FirstOwner request, Destination? site, Destination? shortHost)
    {
        if (string.IsNullOrWhiteSpace(request.Workspace))
        {
            return "Name the workspace, as its visitors know it.";
        }

        if (request.Mail is not { } mail || !System.Net.Mail.MailAddress.TryCreate(mail, out _))
        {
            return "This isn't a mail address; check it.";
        }

        if (request.Currency is not { Length: 3 } currency || !currency.All(char.IsAsciiLetter))
        {
            return "The currency is three letters by ISO 4217, such as EUR.";
        }

        if (request.TimeZone is null || !TimeZoneInfo.TryFindSystemTimeZoneById(request.TimeZone, out _))
        {
            return "Unknown time zone; write it like Europe/Dublin.";
        }

        if (site is null)
        {
            return "The site isn't a host; write it like marrowmere.example.";
        }

        return shortHost is null ? "The short domain isn't a host; write it like mmr.example."
            : shortHost.HostAndPort == site.HostAndPort
                ? string.Create(
                    CultureInfo.InvariantCulture,
                    $"Site and short domain can't be the same host; {site.HostAndPort} can only be one of them."
                )
            : null;
    }
}
