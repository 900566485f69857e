using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Conversions;

/// <summary>Pages and events that count as conversions.</summary>
public sealed class ConversionDefinitionTests
{
    private static ConversionDefinition Defined(ConversionTest test, string typed, string kind = "signup") =>
        new(Guid.NewGuid(), kind, test, test == ConversionTest.Event ? typed : DefinedPage.Read(test, typed).Text!);

    [Theory]
    [InlineData(ConversionTest.Page, "/thanks", "garden.example/thanks", true)]
    [InlineData(ConversionTest.Page, "/thanks", "garden.example/thanks/", true)] // servers answer alike
    [InlineData(ConversionTest.Page, "/thanks/", "shop.garden.example:8443/thanks", true)]
    [InlineData(ConversionTest.Page, "/thanks", "garden.example/thanks/more", false)]
    [InlineData(ConversionTest.Page, "/thanks", "garden.example/Thanks", false)] // paths tell letters apart (RFC 3986, section 6.2.2.1)
    [InlineData(ConversionTest.Page, "https://Garden.example/thanks", "garden.example/thanks", true)]
    [InlineData(ConversionTest.Page, "garden.example/thanks", "shop.example/thanks", false)]
    [InlineData(ConversionTest.Page, "/", "garden.example/", true)]
    [InlineData(ConversionTest.Page, "/", "garden.example/visit", false)]
    [InlineData(ConversionTest.Page, "garden.example", "garden.example/", true)]
    [InlineData(ConversionTest.PageBegins, "/orders/", "garden.example/orders/17", true)]
    [InlineData(ConversionTest.PageBegins, "/orders", "garden.example/orders", true)]
    [InlineData(ConversionTest.PageBegins, "/orders", "garden.example/my/orders", false)]
    [InlineData(ConversionTest.PageBegins, "garden.example/orders", "garden.example/orders/17", true)]
    [InlineData(ConversionTest.PageBegins, "garden.example/orders", "shop.example/orders/17", false)]
    [InlineData(ConversionTest.PagePattern, "/orders/*/thanks", "garden.example/orders/17/thanks", true)]
    [InlineData(ConversionTest.PagePattern, "/orders/*/thanks", "garden.example/orders/17/thanks/18", false)]
    [InlineData(ConversionTest.PagePattern, "/*thanks", "garden.example/orders/17/thanks", true)]
    [InlineData(ConversionTest.PagePattern, "garden.example/*.pdf", "garden.example/plan.pdf", true)]
    [InlineData(ConversionTest.PagePattern, "garden.example/*.pdf", "garden.example/planxpdf", false)]
    public void A_page_is_told_by_its_address(ConversionTest test, string typed, string page, bool meets) =>
        Assert.Equal(meets ? 1 : 0, new ConversionDefinitions([Defined(test, typed)]).OfPage(page).Count);

    [Theory]
    [InlineData(ConversionTest.Page, "")]
    [InlineData(ConversionTest.Page, null)]
    [InlineData(ConversionTest.Page, "/thanks?order=5")]
    [InlineData(ConversionTest.Page, "/thanks#top")]
    [InlineData(ConversionTest.Page, "/thank you")]
    [InlineData(ConversionTest.Page, "/thanks*")]
    [InlineData(ConversionTest.PagePattern, "/thanks")]
    [InlineData(ConversionTest.PagePattern, "/*/*/*/*/*/*/*/*/*/*/*")]
    [InlineData(ConversionTest.PagePattern, "*.example/thanks/*")]
    [InlineData(ConversionTest.PagePattern, "*thanks")]
    [InlineData(ConversionTest.PagePattern, "shop.*/thanks")]
    [InlineData(ConversionTest.Page, "not a host/thanks")]
    public void What_is_no_page_says_why(ConversionTest test, string? typed)
    {
        var (text, problem) = DefinedPage.Read(test, typed);
        Assert.Null(text);
        Assert.EndsWith(".", problem, StringComparison.Ordinal);
    }

    [Fact]
    public void Patterns_cannot_be_made_to_hang_it()
    {
        var definitions = new ConversionDefinitions([Defined(ConversionTest.PagePattern, "/*a*a*a*a*a*a*a*a*b")]);
        var begun = System.Diagnostics.Stopwatch.StartNew();
        Assert.Empty(definitions.OfPage("garden.example/" + new string('a', 8_000)));

        // With backtracking this would take longer than the world is old; here it only tells the two apart.
        Assert.InRange(begun.Elapsed.TotalSeconds, 0, 60);
    }

    /// <summary>However many there are, each finds its own page, and what was remembered gives way.</summary>
    [Fact]
    public void Ten_thousand_definitions_find_theirs()
    {
        var definitions = new ConversionDefinitions([
            .. Enumerable.Range(0, 5_000).Select(i => Defined(ConversionTest.Page, $"/page-{i}", $"page {i}")),
            .. Enumerable.Range(0, 4_990).Select(i => Defined(ConversionTest.PageBegins, $"/begin-{i}/", $"begin {i}")),
            .. Enumerable.Range(0, 10).Select(i => Defined(ConversionTest.PagePattern, $"/like-{i}/*/end", $"like {i}")),
        ]);
        for (int i = 0; i < 25_000; i++)
        {
            string[] found = [.. definitions.OfPage($"garden.example/page-{i}").Select(d => d.Kind)];
            Assert.Equal(i < 5_000 ? [$"page {i}"] : [], found);
        }

        Assert.Equal("begin 7", definitions.OfPage("garden.example/begin-7/more").Single().Kind);
        Assert.Equal("like 3", definitions.OfPage("garden.example/like-3/x/end").Single().Kind);
        Assert.Equal("page 4999", definitions.OfPage("garden.example/page-4999").Single().Kind);
    }

    [Fact]
    public void A_conversion_says_what_it_is_worth()
    {
        var item = new RawPageEvent
        {
            Id = Guid.CreateVersion7(),
            WorkspaceId = Guid.NewGuid(),
            SiteId = Guid.NewGuid(),
            At = new DateTimeOffset(2026, 11, 30, 10, 0, 0, TimeSpan.Zero),
            Kind = PageEventKind.Event,
            Url = "http://garden.example/",
            Visitor = Guid.NewGuid(),
            Name = "film-played",
            Value = 3m,
            Currency = "USD",
        };
        var plain = Defined(ConversionTest.Event, "film-played", "film");
        var made = plain.Of(item);
        Assert.Equal((PageEventKind.Conversion, "film", null, null), (made.Kind, made.Name, made.Value, made.Currency));
        Assert.Equal((made.Id, false), (plain.Of(item).Id, made.Id == item.Id));
        Assert.NotEqual(made.Id, Defined(ConversionTest.Event, "film-played").Of(item).Id);
        var worth = (plain with { Value = 5m, Currency = "EUR" }).Of(item);
        Assert.Equal((5m, "EUR"), (worth.Value, worth.Currency));
        var said = (plain with { TakesValue = true }).Of(item);
        Assert.Equal((3m, "USD"), (said.Value, said.Currency));
        Assert.Equal(["film"], new ConversionDefinitions([plain]).OfEvent("film-played").Select(d => d.Kind));
        Assert.Empty(new ConversionDefinitions([plain]).OfEvent("Film-played"));
    }
}
