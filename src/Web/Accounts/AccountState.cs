using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Accounts;

/// <summary>Who is signed in, and what the interface needs to begin.</summary>
/// <param name="Person">The person, or null.</param>
/// <param name="NeedsFirstOwner">Nobody exists yet; the first visit makes the owner.</param>
/// <param name="DemoPeople">Sign-ins the demo offers; empty outside it.</param>
/// <param name="Starts">Conventions to choose from; empty once somebody exists.</param>
/// <param name="SendsMail">Mails are sent, so somebody who forgot their password is helped by one.</param>
/// <param name="Token">To be sent back as X-Beacon-Token with everything that changes something.</param>
public sealed record AccountState(
    PersonState? Person,
    bool NeedsFirstOwner,
    IReadOnlyList<DemoPerson> DemoPeople,
    bool SendsMail,
    string Token,
    IReadOnlyList<StartAnswer> Starts
);

/// <summary>A convention an empty installation can begin with.</summary>
public sealed record StartAnswer(string Name, string Title, string Suits);

/// <summary>The person signed in.</summary>
/// <param name="LedgerColumns">Keys of the columns they have the Ledger show; null for the usual ones.</param>
public sealed record PersonState(
    string Name,
    string Mail,
    Role Role,
    string Workspace,
    string Currency,
    string TimeZone,
    DateOnly Today,
    IReadOnlyList<string>? LedgerColumns
);

/// <summary>What a person wants the Ledger to show.</summary>
public sealed record ColumnChoice(IReadOnlyList<string>? Columns);

/// <summary>A sign-in of the demo.</summary>
public sealed record DemoPerson(string Name, string Mail, Role Role);

/// <summary>A sign-in; a demo person needs no password in demo mode.</summary>
public sealed record SignIn(string? Mail, string? Password);

/// <summary>Somebody who forgot their password.</summary>
/// <param name="Mail">The mail address they sign in with.</param>
public sealed record ForgottenPassword(string? Mail);

/// <summary>The first owner and their workspace.</summary>
public sealed record FirstOwner(
    string Name,
    string Mail,
    string Password,
    string Workspace,
    string Currency,
    string TimeZone,
    string SiteHost,
    string? ShortHost = null,
    string? Start = null
);

/// <summary>What somebody wants to be called.</summary>
public sealed record NameChange(string? Name);

/// <summary>A new password.</summary>
/// <param name="Current">The one that holds now.</param>
/// <param name="Next">The one to hold from now on; 12 to 200 characters.</param>
public sealed record PasswordChange(string? Current, string? Next);

/// <summary>One of a person's sessions.</summary>
/// <param name="Own">True for the one that asks.</param>
/// <param name="Device"><c>phone</c>, <c>tablet</c> or <c>computer</c>.</param>
/// <param name="UserAgent">What the browser says of itself.</param>
/// <param name="StartedAt">When they signed in.</param>
/// <param name="SeenAt">When it was last used, to within five minutes.</param>
public sealed record SessionAnswer(Guid Id, bool Own, string Device, string UserAgent, DateTimeOffset StartedAt, DateTimeOffset SeenAt);

/// <summary>How many sessions were ended.</summary>
public sealed record SessionsEnded(int Ended);
