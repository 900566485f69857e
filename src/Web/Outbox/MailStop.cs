using Microsoft.AspNetCore.DataProtection;
using Microsoft.Extensions.Options;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Outbox;

/// <summary>Addresses by which somebody ends mails of a kind without signing in. What they stand for is sealed into them.</summary>
public sealed class MailStop(IDataProtectionProvider protection, IOptions<BeaconOptions> options)
{
    private const int LongestToken = 600;
    private readonly IDataProtector _protector = protection.CreateProtector(nameof(MailStop));

    /// <summary>The address for a member and a kind of mail.</summary>
    public string AddressOf(Guid workspace, Guid user, string kind) =>
        $"{options.Value.PublicUrl.TrimEnd('/')}/no-more-mails/{_protector.Protect($"{workspace:N}{user:N}{kind}")}";

    /// <summary>Whose mails an address ends; null where it was not made here.</summary>
    public (Guid Workspace, Guid User, string Kind)? Read(string token)
    {
        if (token.Length > LongestToken)
        {
            return null;
        }

        try
        {
            string read = _protector.Unprotect(token);
            return (Guid.ParseExact(read[..32], "N"), Guid.ParseExact(read[32..64], "N"), read[64..]);
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            return null;
        }
    }
}
