using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Microsoft.Extensions.Options;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Accounts;

/// <summary>The certificate the keys of cookies and tokens are encrypted with in the database (OWASP ASVS 4.0.3, 6.4.1).</summary>
public static partial class KeyCertificate
{
    /// <summary>Reads the certificate named by the settings; null where none is.</summary>
    /// <exception cref="InvalidOperationException">It can't be read, or has no private key.</exception>
    public static X509Certificate2? Read(BeaconOptions options)
    {
        if (string.IsNullOrWhiteSpace(options.KeyCertificate))
        {
            return null;
        }

        try
        {
            var certificate = X509CertificateLoader.LoadPkcs12FromFile(options.KeyCertificate, options.KeyCertificatePassword);
            return certificate.HasPrivateKey ? certificate : throw new CryptographicException("it has no private key");
        }
        catch (Exception broken) when (broken is CryptographicException or IOException or UnauthorizedAccessException)
        {
            throw new InvalidOperationException(
                $"The certificate “{options.KeyCertificate}” (Beacon:KeyCertificate) can't be used: {broken.Message}.",
                broken
            );
        }
    }

    /// <summary>Says plainly that keys are stored readable; in the demo everybody knows them anyway.</summary>
    public static void Warn(WebApplication app)
    {
        var options = app.Services.GetRequiredService<IOptions<BeaconOptions>>().Value;
        if (!options.Demo && string.IsNullOrWhiteSpace(options.KeyCertificate))
        {
            LogReadable(app.Services.GetRequiredService<ILoggerFactory>().CreateLogger("PreciseBeacon.Keys"));
        }
    }

    [LoggerMessage(
        LogLevel.Warning,
        "The keys of cookies and tokens are stored unencrypted: whoever reads the database can sign in as anybody. Set Beacon:KeyCertificate to a PFX file."
    )]
    private static partial void LogReadable(ILogger log);
}
