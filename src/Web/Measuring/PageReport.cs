using System.Globalization;
using System.Text.Json;
using System.Text.Json.Serialization;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Measuring;

/// <summary>What a page sends to <c>/measure</c>. The keys are short, since it is sent with every page.</summary>
/// <param name="Key">The site's measuring key.</param>
/// <param name="Url">The page's whole address.</param>
/// <param name="Referrer">The page's referrer.</param>
/// <param name="Kind"><c>view</c> (where left out), <c>event</c>, <c>conversion</c>, or <c>seen</c> and <c>clicked</c> for a spot.</param>
/// <param name="Name">Name of the event or the spot, or kind of the conversion.</param>
/// <param name="Order">The shop's order id.</param>
/// <param name="Value">The conversion's value, or what an event is worth where it is counted as one.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="Items">What was bought, at most 50.</param>
/// <param name="Visitor">The id the site keeps for its visitor.</param>
public sealed record PageReport(
    [property: JsonPropertyName("k")] string? Key,
    [property: JsonPropertyName("u")] string? Url,
    [property: JsonPropertyName("r")] string? Referrer,
    [property: JsonPropertyName("e")] string? Kind,
    [property: JsonPropertyName("n")] string? Name,
    [property: JsonPropertyName("o")] string? Order,
    [property: JsonPropertyName("v")] decimal? Value,
    [property: JsonPropertyName("c")] string? Currency,
    [property: JsonPropertyName("i")] IReadOnlyList<ReportedItem?>? Items,
    [property: JsonPropertyName("d")] string? Visitor
)
{
    private const int LongestName = 100;

    /// <summary>The event to keep, or a sentence that says what is wrong with the report.</summary>
    public (RawPageEvent? Event, string? Why) Read(MeasuredSite site, string userAgent)
    {
        if (
            Url is not { Length: > 0 and <= 8_000 }
            || DestinationReader.Read(Url).Destination is not { } page
            || !site.Hosts.Contains(page.HostAndPort)
        )
        {
            return (null, "The page's address (u) is missing, too long, or not on one of the site's hosts.");
        }

        PageEventKind? kind = Kind switch
        {
            null or "view" => PageEventKind.View,
            "event" => PageEventKind.Event,
            "conversion" => PageEventKind.Conversion,
            "seen" => PageEventKind.SpotSeen,
            "clicked" => PageEventKind.SpotClicked,
            _ => null,
        };
        if (kind is null)
        {
            return (null, "The kind (e) is view, event, conversion, seen or clicked.");
        }

        if (kind != PageEventKind.View && Name is not { Length: > 0 and <= LongestName })
        {
            return (null, $"An event, conversion or spot needs a name (n) of 1 to {LongestName} characters.");
        }

        if (Value is not null && Currency is null)
        {
            return (null, "A value (v) needs a currency (c) of three letters by ISO 4217.");
        }

        if (Currency is not null && !Currencies.IsKnown(Currency))
        {
            return (null, "The currency (c) isn't an ISO 4217 code, such as EUR.");
        }

        if (Value < 0 || Value > site.LargestValue)
        {
            return (
                null,
                $"A value (v) is at least 0 and at most {site.LargestValue.ToString("N0", CultureInfo.InvariantCulture)}, which is the site's own limit; report a refund from the shop's server."
            );
        }

        if (Order?.Length > LongestName)
        {
            return (null, $"An order id (o) has at most {LongestName} characters.");
        }

        var (items, fault) = ReportedItem.ReadAll(Items, site.LargestValue);
        if (fault is not null)
        {
            return (null, fault);
        }

        bool converts = kind == PageEventKind.Conversion;
        bool isWorth = kind is PageEventKind.Event or PageEventKind.Conversion;
        return (
            new RawPageEvent
            {
                Id = Guid.Empty,
                WorkspaceId = site.WorkspaceId,
                SiteId = site.SiteId,
                At = default,
                Kind = kind.Value,
                Url = PrivateAddress.Of(Url),
                Referrer = PrivateAddress.Of(Referrer ?? ""),
                Visitor = Guid.Empty,
                UserAgent = userAgent,
                Name = kind == PageEventKind.View ? "" : InvisibleText.Remove(Name!).Trim(),
                OrderId = converts && Order is { Length: > 0 } ? InvisibleText.Remove(Order).Trim() : null,
                Value = isWorth ? Value : null,
                Currency = isWorth ? Currency?.ToUpperInvariant() : null,
                Items = converts ? items : null,
            },
            null
        );
    }
}

/// <summary>One thing bought.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="Category">Its kind.</param>
/// <param name="Count">How many pieces.</param>
/// <param name="Value">What one piece is worth, in the conversion's currency.</param>
/// <param name="Id">The shop's id of it.</param>
public sealed record ReportedItem(string? Name, string? Category, int Count = 1, decimal? Value = null, string? Id = null)
{
    private const int Most = 50;
    private const int LongestTogether = 4_000;
    private const int MostOfOne = 1_000_000;

    /// <summary>The things bought as a JSON array, null for none; or a sentence that says what is wrong with them.</summary>
    /// <param name="items">As reported.</param>
    /// <param name="largestValue">The site's own limit.</param>
    public static (string? Json, string? Fault) ReadAll(IReadOnlyList<ReportedItem?>? items, decimal largestValue)
    {
        if (items?.Any(i => i is null) == true)
        {
            return (null, "The items are objects with name, category, count and value; one of them is null.");
        }

        if (items?.Any(i => i!.Count is < 0 or > MostOfOne || i.Value < 0 || i.Value > largestValue) == true)
        {
            return (
                null,
                $"An item has a count of 0 to {MostOfOne.ToString("N0", CultureInfo.InvariantCulture)} and a value of 0 to the site's own limit."
            );
        }

        string? json = items is { Count: > 0 } ? JsonSerializer.Serialize(items.Select(i => i!.Clean()), JsonSerializerOptions.Web) : null;
        return items?.Count > Most || json?.Length > LongestTogether
            ? (
                null,
                $"At most {Most} items can be reported with one order, in {LongestTogether.ToString("N0", CultureInfo.InvariantCulture)} characters."
            )
            : (json, null);
    }

    /// <summary>The item with nothing in it that a database would refuse: no NUL, no half characters.</summary>
    public ReportedItem Clean() => this with { Name = Clean(Name), Category = Clean(Category), Id = Clean(Id) };

    private static string? Clean(string? text) =>
        text is null ? null : string.Concat(InvisibleText.Remove(text.Replace('\0', ' ')).EnumerateRunes().Select(r => r.ToString()));
}
