using System.Net;
using System.Text;
using System.Text.Json.Nodes;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>What no call can make sense of is told in a sentence that names the place, and nothing of the code.</summary>
[Collection(nameof(DemoHost))]
public sealed class RequestFaultTests(DemoHost demo)
{
    [Theory]
    [InlineData("POST", "/api/v1/links/compose", "{\"destination\":7}", 400, "The value at “destination” can't be read")]
    [InlineData(
        "POST",
        "/api/v1/links/compose",
        "{\"destination\":\"https://marrowmere.example/\",\"style\":\"fragmet\"}",
        400,
        "The value at “style” can't be read"
    )]
    [InlineData(
        "POST",
        "/api/v1/links/compose-many",
        "{\"links\":[{\"destination\":\"https://fern.example\"},{\"shorten\":\"yes\"}]}",
        400,
        "The value at “links[1].shorten” can't be read"
    )]
    [InlineData(
        "PUT",
        "/api/v1/convention",
        "{\"document\":{\"fields\":[{\"key\":\"utm_source\",\"kind\":\"colour\"}]}}",
        400,
        "The value at “document.fields[0].kind” can't be read"
    )]
    [InlineData("POST", "/api/v1/links/compose", "{", 400, "The JSON can't be read")]
    [InlineData("POST", "/api/v1/links/compose", "", 400, "The request can't be read")]
    [InlineData("GET", "/api/v1/links?page=abc", null, 400, "“abc” can't be read as “page”")]
    [InlineData("GET", "/api/v1/links?campaign=fern", null, 400, "“fern” can't be read as “campaign”")]
    [InlineData("POST", "/api/v1/convention/publish", "{}", 400, "“revision” is missing; send it.")]
    [InlineData("GET", "/api/v1/links?search=%00", null, 400, "A text contains the character U+0000")]
    [InlineData("POST", "/api/v1/campaigns", "{\"name\":\"fern\\u0000\"}", 400, "A text contains the character U+0000")]
    [InlineData("GET", "/api/v1/nothing-there", null, 404, "There is nothing at this address")]
    [InlineData("DELETE", "/api/v1/arrivals", null, 405, "This address does not take DELETE.")]
    public async Task What_is_wrong_with_a_request_is_said_in_a_sentence(string method, string path, string? body, int status, string says)
    {
        using var client = demo.Host.As("owner");
        using var request = new HttpRequestMessage(HttpMethod.Parse(method), path);
        request.Content = body is null ? null : new StringContent(body, Encoding.UTF8, "application/json");
        using var answer = await client.SendAsync(request);
        string text = await answer.Content.ReadAsStringAsync();
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.StartsWith(says, JsonNode.Parse(text).Text("detail"), StringComparison.Ordinal);
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType!.MediaType); // RFC 9457, 3
    }

    [Fact]
    public async Task Another_kind_of_body_is_told_what_is_wanted()
    {
        using var client = demo.Host.As("owner");
        using var answer = await client.PostAsync(
            "/api/v1/keys",
            new StringContent("name=fern", Encoding.UTF8, "application/x-www-form-urlencoded")
        );
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, answer.StatusCode);
        Assert.Equal("Send it as application/json.", JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Text("detail"));
    }
}
