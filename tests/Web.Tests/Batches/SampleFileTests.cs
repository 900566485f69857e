using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.Json;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Batches;

/// <summary>The files that empty places offer lead to the workspace's own site.</summary>
[Collection(nameof(DemoHost))]
public sealed class SampleFileTests(DemoHost demo)
{
    [Theory]
    [InlineData("community-groups.csv", 30)]
    [InlineData("newsletter.html", 9)]
    [InlineData("old-links.csv", 60)]
    [InlineData("ad-export.xlsx", 137)]
    public async Task Links_of_a_sample_file_lead_to_ones_own_site(string name, int atLeast)
    {
        using var client = demo.Host.As("viewer");
        byte[] file = await client.GetByteArrayAsync($"/api/v1/samples/{name}");
        string text = name.EndsWith(".xlsx", StringComparison.Ordinal) ? Unzipped(file) : Encoding.UTF8.GetString(file);
        Assert.DoesNotContain("https://marrowmere.example", text, StringComparison.Ordinal);
        var hosts = (await client.DoAsync(HttpMethod.Get, "/api/v1/sites"))
            .AsArray()
            .SelectMany(s => s!["hosts"]!.AsArray())
            .Select(h => h!.GetValueKind() == JsonValueKind.String ? h.GetValue<string>() : h.Text("host"));
        Assert.InRange(hosts.Max(host => text.Split($"http://{host}/").Length - 1), atLeast, 1_000);
    }

    [Fact]
    public async Task Another_name_is_refused_whatever_it_says()
    {
        using var client = demo.Host.As("viewer");
        foreach (string name in new[] { "garden-convention.yaml", "..%2Fbeacon.js", "nothing" })
        {
            using var answer = await client.GetAsync($"/api/v1/samples/{name}");
            Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        }
    }

    private static string Unzipped(byte[] book)
    {
        using var zip = new ZipArchive(new MemoryStream(book));
        return string.Join(
            '\n',
            zip.Entries.Where(e => e.FullName.EndsWith(".xml", StringComparison.Ordinal))
                .Select(e =>
                {
                    using var reader = new StreamReader(e.Open(), Encoding.UTF8);
                    return reader.ReadToEnd();
                })
        );
    }
}
