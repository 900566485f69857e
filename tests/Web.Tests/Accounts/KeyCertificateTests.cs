using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Accounts;

/// <summary>The keys that sign and encrypt cookies, where they are stored.</summary>
public sealed class KeyCertificateTests
{
    private const string StoredKeys = "select string_agg(xml, '') from data_protection_keys";

    [Fact]
    public async Task With_a_certificate_the_keys_are_stored_encrypted_and_without_one_they_are_not()
    {
        string file = Path.GetTempFileName();
        using (var key = RSA.Create(2048))
        {
            using var made = new CertificateRequest("CN=keys", key, HashAlgorithmName.SHA256, RSASignaturePadding.Pkcs1).CreateSelfSigned(
                DateTimeOffset.UtcNow.AddDays(-1),
                DateTimeOffset.UtcNow.AddDays(1)
            );
            await File.WriteAllBytesAsync(file, made.Export(X509ContentType.Pkcs12, "fern"));
        }

        await using (var plain = await BeaconHost.StartAsync())
        {
            await plain.GetJsonAsync("/api/account");
            Assert.Contains("<masterKey", await plain.ScalarAsync<string>(StoredKeys), StringComparison.Ordinal);
        }

        await using (
            var encrypted = await BeaconHost.StartAsync(more: [$"--Beacon:KeyCertificate={file}", "--Beacon:KeyCertificatePassword=fern"])
        )
        {
            await encrypted.GetJsonAsync("/api/account");
            string stored = await encrypted.ScalarAsync<string>(StoredKeys);
            Assert.Contains("EncryptedData", stored, StringComparison.Ordinal);
            Assert.DoesNotContain("<masterKey", stored, StringComparison.Ordinal);
        }

        File.Delete(file);
    }

    [Fact]
    public void A_certificate_that_cannot_be_used_is_named()
    {
        var broken = Assert.Throws<InvalidOperationException>(() =>
            BeaconApp.Build(["--ConnectionStrings:Beacon=Host=127.0.0.1", "--Beacon:KeyCertificate=/nowhere.pfx"])
        );
        Assert.Contains("“/nowhere.pfx” (Beacon:KeyCertificate)", broken.Message, StringComparison.Ordinal);
    }
}
