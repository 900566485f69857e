using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Demo;

/// <summary>
/// Makes up raw hits and page events, the same for the same day: seasons, week days and evenings, campaigns while they
/// run, crawlers and double taps, strays, and people who come again. What they add up to is worked out by the same
/// rules as live traffic.
/// </summary>
public sealed class DemoTraffic(
    Guid workspaceId,
    Site site,
    string siteHost,
    Site orchard,
    string orchardHost,
    IReadOnlyList<DemoLink> links,
    DateOnly today,
    TimeZoneInfo zone,
    DateTimeOffset now
)
{
    /// <summary>Days of traffic up to today.</summary>
    public const int DaysBack = 548;

    private const int Seed = 20_261;
    private const int People = 40_000;
    private const double ReachThePage = 0.88;
    private const double AverageConversion = 0.034;

    /// <summary>What people use; one that stands twice is used twice as often.</summary>
    private static readonly Dictionary<string, string[]> UserAgents = new()
    {
        [Device.Phone] =
        [
            "Mozilla/5.0 (Sedge 14; Mobile) Fernleaf/12.1",
            "Mozilla/5.0 (Sedge 14; Mobile) Fernleaf/12.1",
            "Mozilla/5.0 (Quillwort 9; Mobile) Thistledown/9.2",
        ],
        [Device.Tablet] = ["Mozilla/5.0 (Sedge 13; Tablet) Fernleaf/12.1", "Mozilla/5.0 (Quillwort 9; Tablet) Thistledown/9.2"],
        [Device.Computer] =
        [
            "Mozilla/5.0 (Bramble 11; x86_64) Fernleaf/12.1",
            "Mozilla/5.0 (Bramble 11; x86_64) Mossback/4.0",
            "Mozilla/5.0 (Quillwort 12; x86_64) Thistledown/9.2",
        ],
    };

    private static readonly double[] WeekShape = [1.25, 0.85, 0.8, 0.85, 0.95, 1.15, 1.2]; // Sunday first
    private static readonly double[] HourShape =
    [
        0.2,
        0.1,
        0.05,
        0.05,
        0.05,
        0.1,
        0.4,
        0.9,
        1.2,
        1.1,
        1.0,
        1.0,
        1.2,
        1.1,
        0.9,
        0.9,
        1.0,
        1.2,
        1.5,
        1.9,
        2.0,
        1.7,
        1.1,
        0.5,
    ];

    private readonly Random _random = new(Seed);
    private readonly Random _spots = new(Seed + 1);
    private readonly Random _variants = new(Seed + 2);
    private readonly Random _places = new(Seed + 1);
    private readonly EventIds _ids = new(Seed);
    private RawEvents _batch = new();
    private int _orders;

    /// <summary>How many visits were made.</summary>
    public int Visits { get; private set; }

    /// <summary>Makes all events, in batches.</summary>
    public IEnumerable<RawEvents> Make(int visits, int batch)
    {
        var days = Enumerable.Range(-DaysBack, DaysBack + 1).Select(today.AddDays).ToList();
        double[] weights = [.. days.Select(WeightOf)];
        double all = weights.Sum();
        for (int i = 0; i < days.Count; i++)
        {
            int count = (int)Math.Round(visits * weights[i] / all);
            for (int n = 0; n < count; n++)
            {
                MakeOne(days[i]);
                if (_batch.Count >= batch)
                {
                    yield return _batch;
                    _batch = new RawEvents();
                }
            }
        }

        yield return _batch;
    }

    private double WeightOf(DateOnly day)
    {
        double season = 1 + (0.25 * Math.Cos((day.DayOfYear - 170) / 365.0 * 2 * Math.PI));
        double campaigns = Running(day).Select(c => c.Weight).DefaultIfEmpty(0).Sum();
        return WeekShape[(int)day.DayOfWeek] * (season + (campaigns * 0.22)) * (0.85 + (_random.NextDouble() * 0.3));
    }

    private IEnumerable<DemoPlan.PlannedCampaign> Running(DateOnly day) =>
        DemoPlan.Campaigns.Where(c =>
            c.Weight > 0 && (c.From is null || (day >= today.AddDays(c.From.Value) && day <= today.AddDays(c.To!.Value)))
        );

    private void MakeOne(DateOnly day)
    {
        var at = MomentOf(day);
        if (at >= now.AddMinutes(-40))
        {
            return; // the rest of today has not happened yet
        }

        double kind = _random.NextDouble();
        if (kind < 0.55)
        {
            var campaign = Pick([.. Running(day)], c => c.Weight);
            var link = Pick([.. links.Where(l => l.Campaign == campaign && !l.IsVariant)], l => l.Placement.Weight);
            link =
                links.FirstOrDefault(l => l.IsVariant && l.Campaign == campaign && l.Placement == link.Placement) is { } variant
                && _variants.NextDouble() < 0.5
                    ? variant
                    : link;
            if (link.ShortLinkId is null)
            {
                Arrive(link, at, DeviceOf(link.Placement.Device), null);
            }
            else
            {
                Click(link, at);
            }
        }
        else if (kind < 0.6)
        {
            VisitSite(
                at,
                $"http://{orchardHost}{Pick(DemoPlan.OrchardPages, _ => 1)}",
                Pick(DemoPlan.Untagged, u => u.Weight).Referrer,
                DeviceOf("mixed"),
                0,
                "ticket",
                0m,
                at: orchard
            );
        }
        else if (kind < 0.97)
        {
            var page = _random.NextDouble() < 0.5 ? Pick(DemoPlan.OtherPages, _ => 1) : Pick(DemoPlan.Campaigns, _ => 1).Page;
            VisitSite(
                at,
                $"http://{siteHost}{page}",
                Pick(DemoPlan.Untagged, u => u.Weight).Referrer,
                DeviceOf("mixed"),
                0.6,
                "ticket",
                18.50m
            );
        }
        else
        {
            VisitSite(at, $"http://{siteHost}/lantern-nights{Pick(DemoPlan.Strays, _ => 1)}", "", DeviceOf("mixed"), 0.8, "ticket", 18.50m);
        }
    }

    private void Click(DemoLink link, DateTimeOffset at)
    {
        string device = DeviceOf(link.Placement.Device);
        var visitor = NewVisitor();
        Hit(link, at, visitor, AgentOf(device, visitor), HitFlags.None);
        if (_random.NextDouble() < 0.03)
        {
            Hit(link, at.AddMilliseconds(700), visitor, AgentOf(device, visitor), HitFlags.None); // a double tap
        }

        if (_random.NextDouble() < 0.12)
        {
            Hit(link, at.AddSeconds(-20), NewVisitor(), Pick(DemoPlan.Crawlers, _ => 1), HitFlags.None);
        }

        if (_random.NextDouble() < 0.05)
        {
            Hit(link, at.AddSeconds(-5), NewVisitor(), AgentOf(device, visitor), HitFlags.Prefetch);
        }

        if (_random.NextDouble() < ReachThePage)
        {
            Arrive(link, at.AddSeconds(1), device, visitor);
        }
    }

    private void Arrive(DemoLink link, DateTimeOffset moment, string device, Guid? clicked) =>
        VisitSite(
            moment,
            (link.LosesTags ? $"http://{siteHost}{link.Campaign.Page}" : link.Url).Replace(
                "{keyword}",
                Pick(Keywords, _ => 1),
                StringComparison.Ordinal
            ),
            "",
            device,
            link.Converts,
            link.Campaign.Kind,
            link.Campaign.Price,
            clicked,
            product: link.Campaign.Product
        );

    private const string Banner = "membership banner";
    private const double ShareSeen = 0.4;
    private const double ShareClicked = 0.03;

    /// <summary>What the shop's pages call it, too.</summary>
    private const string BasketBegun = "basket begun";
    private const double ShareBegun = 0.05;

    private const string OtherProduct = "Garden day";

    private static readonly string[] Keywords = ["garden%20lights", "days%20out", "things%20to%20do", "wreath%20class", "spring%20bulbs"];

    private void VisitSite(
        DateTimeOffset began,
        string url,
        string referrer,
        string device,
        double converts,
        string kind,
        decimal price,
        Guid? clicked = null,
        Site? at = null,
        string? product = null
    )
    {
        Visits++;
        bool known = at is null && _random.NextDouble() < 0.72;
        var visitor = known
            ? VisitorHash.OfSiteId(site.VisitorIdKey, $"person-{(int)(People * Math.Pow(_random.NextDouble(), 1.6))}")
            : clicked ?? NewVisitor();
        Guid? ofDay = known ? clicked : null;
        string userAgent = AgentOf(device, clicked ?? visitor);
        bool bounces = _random.NextDouble() < (device == Device.Phone ? 0.52 : 0.41);
        int pages = bounces ? 1 : 2 + (int)(_random.NextDouble() * _random.NextDouble() * 7);
        string before = referrer;
        string page = url;
        var moment = began;
        for (int i = 0; i < pages; i++)
        {
            Event(PageEventKind.View, moment, page, before, visitor, known, userAgent, ofDay, at);
            if (at is null)
            {
                Spots(moment, page, visitor, known, userAgent);
            }

            before = page;
            page = at is null
                ? $"http://{siteHost}{Pick(DemoPlan.OtherPages, _ => 1)}"
                : $"http://{orchardHost}{Pick(DemoPlan.OrchardPages, _ => 1)}";
            page += at is null && before == $"http://{siteHost}/" && page == $"http://{siteHost}/shop" ? DemoPlan.TaggedInside : "";
            moment = moment.AddSeconds(12 + (_random.NextDouble() * 130));
        }

        bool buys = !bounces && _random.NextDouble() < AverageConversion * 2 * converts;
        if (at is null && price > 0 && !bounces && (buys || _spots.NextDouble() < ShareBegun))
        {
            Event(PageEventKind.Event, moment.AddSeconds(-10), before, "", visitor, known, userAgent);
            _batch.PageEvents[^1] = _batch.PageEvents[^1] with { Name = BasketBegun };
        }

        if (buys)
        {
            Convert(moment, before, visitor, known, userAgent, kind, price, product);
        }
    }

    /// <summary>What a page's banner comes to; its chance is of its own, so that all else stays as it is.</summary>
    private void Spots(DateTimeOffset at, string page, Guid visitor, bool known, string userAgent)
    {
        if (_spots.NextDouble() > ShareSeen)
        {
            return;
        }

        Event(PageEventKind.SpotSeen, at.AddSeconds(2), page, "", visitor, known, userAgent);
        _batch.PageEvents[^1] = _batch.PageEvents[^1] with { Name = Banner };
        if (_spots.NextDouble() < ShareClicked)
        {
            Event(PageEventKind.SpotClicked, at.AddSeconds(8), page, "", visitor, known, userAgent);
            _batch.PageEvents[^1] = _batch.PageEvents[^1] with { Name = Banner };
        }
    }

    /// <summary>A person's own on this kind of device.</summary>
    private static string AgentOf(string device, Guid visitor) => UserAgents[device][visitor.ToByteArray()[^1] % UserAgents[device].Length];

    private void Convert(
        DateTimeOffset at,
        string page,
        Guid visitor,
        bool known,
        string userAgent,
        string kind,
        decimal price,
        string? product
    )
    {
        int count = kind == "ticket" ? 1 + (int)(_random.NextDouble() * 4) : 1;
        var order = Event(PageEventKind.Conversion, at, page, "", visitor, known, userAgent);
        _batch.PageEvents[^1] = order with
        {
            Name = kind,
            OrderId = price > 0 ? $"D{++_orders:D6}" : null,
            Value = price > 0 ? price * count : null,
            Currency = price > 0 ? "EUR" : null,
            // Some of those whom a campaign brings buy something it doesn't advertise.
            Items =
                price > 0
                    ? $$"""[{"name":"{{(_orders % 6 == 0 ? OtherProduct : product ?? OtherProduct)}}","category":"{{kind}}","count":{{count}},"value":{{price.ToString(System.Globalization.CultureInfo.InvariantCulture)}}}]"""
                    : null,
        };
    }

    private RawPageEvent Event(
        PageEventKind kind,
        DateTimeOffset at,
        string url,
        string referrer,
        Guid visitor,
        bool known,
        string userAgent,
        Guid? ofDay = null,
        Site? where = null
    )
    {
        var (country, language) = HomeOf(ofDay ?? visitor);
        var item = new RawPageEvent
        {
            Id = _ids.Next(at),
            WorkspaceId = workspaceId,
            SiteId = (where ?? site).Id,
            At = at,
            Kind = kind,
            Url = url,
            Referrer = referrer,
            Visitor = visitor,
            DayVisitor = ofDay,
            HasId = known,
            UserAgent = userAgent,
            Country = country,
            Language = language,
        };
        _batch.PageEvents.Add(item);
        return item;
    }

    private void Hit(DemoLink link, DateTimeOffset at, Guid visitor, string userAgent, HitFlags flags) =>
        _batch.Hits.Add(
            new RawHit(
                _ids.Next(at),
                workspaceId,
                at,
                link.ShortLinkId!.Value,
                visitor,
                null,
                flags,
                userAgent,
                link.Placement.Name == DemoPlan.PastedPlacement
                && link.Campaign.Name == DemoPlan.PastedCampaign
                && at > now.AddDays(-DemoPlan.PastedSince)
                && _places.NextDouble() < 0.4
                    ? DemoPlan.PastedInto
                    : "",
                HomeOf(visitor).Country
            )
        );

    /// <summary>Where a visitor is at home: the same whenever they come.</summary>
    private static (string Country, string Language) HomeOf(Guid visitor)
    {
        double part = visitor.ToByteArray()[^1] / 256.0;
        foreach (var (country, share, language) in DemoPlan.Countries)
        {
            part -= share;
            if (part < 0)
            {
                return (country, language);
            }
        }

        return ("", "en");
    }

    private Guid NewVisitor()
    {
        Span<byte> octets = stackalloc byte[16];
        _random.NextBytes(octets);
        return new Guid(octets);
    }

    private string DeviceOf(string mostly) =>
        mostly switch
        {
            "phone" => _random.NextDouble() < 0.86 ? Device.Phone : Device.Computer,
            "computer" => _random.NextDouble() < 0.78 ? Device.Computer : Device.Phone,
            _ => Pick([Device.Phone, Device.Computer, Device.Tablet], d => d == Device.Phone ? 5
                : d == Device.Computer ? 4
                : 1),
        };

    private DateTimeOffset MomentOf(DateOnly day)
    {
        int hour = Pick([.. Enumerable.Range(0, HourShape.Length)], h => HourShape[h]);
        var local = day.ToDateTime(new TimeOnly(hour, _random.Next(60), _random.Next(60)));
        return zone.IsInvalidTime(local)
            ? new DateTimeOffset(local.AddHours(1), zone.GetUtcOffset(local.AddHours(1))).ToUniversalTime()
            : new DateTimeOffset(local, zone.GetUtcOffset(local)).ToUniversalTime();
    }

    private T Pick<T>(IReadOnlyList<T> among, Func<T, double> weight)
    {
        double at = _random.NextDouble() * among.Sum(weight);
        foreach (var one in among)
        {
            at -= weight(one);
            if (at <= 0)
            {
                return one;
            }
        }

        return among[^1];
    }
}
