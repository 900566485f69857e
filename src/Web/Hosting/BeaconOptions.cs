using PreciseBeacon.Data;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Redirects;

namespace PreciseBeacon.Web.Hosting;

/// <summary>How this copy of the application was started.</summary>
public sealed class BeaconOptions
{
    public const string Section = "Beacon";

    /// <summary>Where people reach the application, such as <c>http://localhost:5080</c>.</summary>
    public string PublicUrl { get; set; } = "http://localhost:5080";

    /// <summary>Where the spool is kept; every process on a machine may share it.</summary>
    public string DataDirectory { get; set; } = ".run/data";

    /// <summary>Loads the demo into an empty database and offers its sign-ins.</summary>
    public bool Demo { get; set; }

    /// <summary>Where trials of mails are sent to, without a slash at the end; null for the one of the start data, and for none without.</summary>
    public string? InboxUrl { get; set; }

    /// <summary>The mail server that mails are handed to.</summary>
    public SmtpOptions Smtp { get; set; } = new();

    /// <summary>A file in the MaxMind DB format that says which country an address is in; the one that ships where it is left out.</summary>
    public string? CountryFile { get; set; }

    /// <summary>The built interface.</summary>
    public string ClientDirectory { get; set; } = "../client/dist";

    /// <summary>Proxies whose X-Forwarded-For is believed.</summary>
    public string[] TrustedProxies { get; set; } = [];

    /// <summary>Most segments of 16 MiB that may wait in the spool.</summary>
    public int SpoolSegments { get; set; } = 64;

    /// <summary>A certificate with its private key (PFX) that the keys of cookies and tokens are encrypted with where they are stored; null for none.</summary>
    public string? KeyCertificate { get; set; }

    /// <summary>The password of <see cref="KeyCertificate"/>; null for none.</summary>
    public string? KeyCertificatePassword { get; set; }

    /// <summary>Connections to the database this process opens at most.</summary>
    public int MostConnections { get; set; } = BeaconDatabase.MostConnections;

    /// <summary>Wrong slugs one network may ask for in a minute; more where many people share one address.</summary>
    public int MostGuesses { get; set; } = GuessThrottle.MostGuesses;

    /// <summary>A member whose only way back in is a new password: a link for it is printed at the start; null for nobody.</summary>
    public string? NewPasswordFor { get; set; }

    /// <summary>Host and port of <see cref="PublicUrl"/>.</summary>
    public string PublicHost => new Uri(PublicUrl).Authority;
}

/// <summary>A mail server that takes mails for others (message submission, RFC 6409).</summary>
public sealed class SmtpOptions
{
    /// <summary>Its name; null where no mails are sent.</summary>
    public string? Host { get; set; }

    /// <summary>Its port; 465 is encrypted from the start (RFC 8314, section 3.3).</summary>
    public int Port { get; set; } = 587;

    /// <summary>Who signs in; null where it asks nobody.</summary>
    public string? User { get; set; }

    /// <summary>The password of <see cref="User"/>.</summary>
    public string? Password { get; set; }

    /// <summary>Who mails are from, such as <c>Marrowmere links &lt;links@marrowmere.example&gt;</c>.</summary>
    public string? From { get; set; }

    /// <summary>Nothing is sent in the clear; false only for a server on this machine.</summary>
    public bool Encrypted { get; set; } = true;
}
