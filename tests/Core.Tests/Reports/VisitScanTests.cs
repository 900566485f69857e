using System.Globalization;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Packed visits add up to what the visits themselves add up to, whatever rows and conditions.</summary>
public sealed class VisitScanTests
{
    private static readonly DateOnly First = new(2026, 3, 27);
    private static readonly string[] Currencies = ["", "EUR", "USD"];

    private static readonly string[] Kinds = ["ticket", "adoption"];

    /// <summary>What is counted for each row; what else occurs is known for everything together.</summary>
    private static readonly NamedMeasure[] Counted =
    [
        new(NamedThing.Conversions, "ticket"),
        new(NamedThing.Events, "map opened"),
        new(NamedThing.Conversions, "adoption"),
        new(NamedThing.Events, "never"),
    ];

    private sealed record Sample(DateOnly Day, VisitFacts Visit, ConversionFacts[] Conversions, EventFacts[] Events);

    [Theory]
    [InlineData(1, "source")]
    [InlineData(2, "source", "source:not:s3")]
    [InlineData(3, "campaign,country,hour")]
    [InlineData(4, "landingPage,lastPage", "device:in:k1", "device:in:k2")]
    [InlineData(5, "day,source", "hour:is:7")]
    [InlineData(6, "", "lastPage:contains:3", "weekday:is:1")]
    [InlineData(7, "weekday")]
    [InlineData(8, "device,day,country,landingPage,source")]
    [InlineData(9, "source", "source:is:nowhere")]
    [InlineData(10, "")]
    [InlineData(11, "visitorKind", "source:not:s1")]
    [InlineData(12, "hour", "visitorKind:is:new")]
    [InlineData(13, "first.source,source", "first.campaign:not:c1")]
    public void A_report_is_what_its_visits_come_to(int seed, string rows, params string[] where)
    {
        var samples = Samples(seed);
        var fields = rows.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(r => RowField.Parse(r)!).ToList();
        var conditions = RowCondition.Gathered(where.Select(w => RowCondition.Parse(w)!));

        var maps = MapsOf(fields, conditions);
        using VisitScan one = new(maps, "EUR", withVisitors: true, Counted),
            other = new(maps, "EUR", withVisitors: true, Counted);
        VisitScan[] scans = [one, other];
        int turn = 0;
        foreach (var some in samples.Chunk(97).SelectMany(c => c.GroupBy(s => s.Day)))
        {
            var packed = VisitColumns.Of(
                [.. some.Select(s => s.Visit)],
                some.SelectMany(s => s.Conversions),
                some.SelectMany(s => s.Events)
            );
            scans[turn++ % 2].Add(VisitColumns.Read(packed.ToBytes()), some.Key);
        }

        Assert.Same(one, VisitScan.Together(scans));

        var kept = samples.Where(s => conditions.All(c => c.Holds(ValueOf(s, c.Field)))).ToList();
        var expected = kept.GroupBy(s => string.Join('|', fields.Select(f => ValueOf(s, f))))
            .ToDictionary(g => g.Key, g => FiguresOf([.. g]));
        var found = scans[0].Rows().ToDictionary(r => NameOf(fields, maps, r.Groups), r => r.Figures);
        Assert.Equal(
            expected.OrderBy(e => e.Key, StringComparer.Ordinal),
            found
                .Select(f => KeyValuePair.Create(f.Key, f.Value with { Named = Figures.Zero.Named }))
                .OrderBy(e => e.Key, StringComparer.Ordinal)
        );
        Assert.Equal(
            NamedOf(kept),
            one.Occurring.OrderBy(o => o.Key.ToString(), StringComparer.Ordinal).Select(o => (o.Key.ToString(), o.Value))
        );
        foreach (var row in kept.GroupBy(s => string.Join('|', fields.Select(f => ValueOf(s, f)))))
        {
            Assert.Equal(
                NamedOf([.. row]).Where(n => n.Measure != "events:video"),
                found[row.Key].Named.Where(n => n.Value > 0).OrderBy(n => n.Key, StringComparer.Ordinal).Select(n => (n.Key, (long)n.Value))
            );
        }
        Assert.Equal(kept.Select(s => s.Visit.Visitor).Distinct().Count(), one.Visitors);
        Assert.Equal(
            kept.GroupBy(s => s.Day).OrderBy(g => g.Key).Select(g => (g.Key, g.LongCount(), g.LongCount(s => s.Visit.Conversions > 0))),
            scans[0].Days.Where(d => d.Value.Visits > 0).Select(d => (d.Key, d.Value.Visits, d.Value.Converting))
        );
        Assert.Equal(
            kept.SelectMany(s => s.Conversions).Where(c => c.Currency == "USD").Sum(c => c.Value),
            scans[0].Elsewhere.GetValueOrDefault("USD")
        );
    }

    [Fact]
    public void Numbers_of_any_size_come_back_as_they_were()
    {
        int[] sizes = [0, 1, byte.MaxValue, byte.MaxValue + 1, ushort.MaxValue, ushort.MaxValue + 1, int.MaxValue];
        foreach (int largest in sizes)
        {
            var visits = Samples(1)
                .Take(50)
                .Select(
                    (s, i) => s.Visit with { PageViews = i % 3 == 0 ? largest : 0, Events = largest - (i % 2), Seconds = largest / (i + 1) }
                )
                .ToList();
            var packed = VisitColumns.Read(VisitColumns.Of(visits, [], []).ToBytes());
            Assert.Equal(
                visits.Select(v => (v.PageViews, v.Events, v.Seconds)),
                Enumerable.Range(0, visits.Count).Select(i => (packed.PageViews[i], packed.Events[i], packed.Seconds[i]))
            );
        }
    }

    [Fact]
    public void A_full_segment_has_a_place_for_each_of_its_ids()
    {
        var visits = Enumerable
            .Range(0, VisitColumns.Most)
            .Select(i => new VisitFacts(new Guid(i, 0, 0, new byte[8]), Guid.Empty, i, 1, 1, 1, 1, 0, 1, 0, 0, 0, false, true))
            .ToList();
        var packed = VisitColumns.Read(VisitColumns.Of(visits, [], []).ToBytes());
        Assert.Equal(visits.Select(v => v.SourceId), Enumerable.Range(0, packed.Count).Select(i => packed.IdsOf(RowTable.Source)[i]));
        Assert.InRange(packed.Bytes / packed.Count, 20, 40);
        Assert.Throws<ArgumentOutOfRangeException>(() => VisitColumns.Of([.. visits, visits[0]], [], []));
    }

    [Fact]
    public void Columns_of_another_format_or_cut_short_are_refused()
    {
        byte[] packed = VisitColumns.Of([.. Samples(1).Take(9).Select(s => s.Visit)], [], []).ToBytes();
        Assert.Throws<InvalidDataException>(() => VisitColumns.Read([99, .. packed[1..]]));
        Assert.Throws<EndOfStreamException>(() => VisitColumns.Read(packed[..^3]));
    }

    /// <summary>Five levels with so many groups that no key of 64 bits tells all possible rows apart.</summary>
    [Fact]
    public void More_possible_rows_than_numbers_are_still_told_apart()
    {
        string[] levels = ["source", "landingPage", "lastPage", "country", "device"];
        var fields = levels.Select(l => RowField.Parse(l)!).ToList();
        var maps = fields.Select(f => new RowMap(f.Table, fields, [])).ToList();
        foreach (var map in maps)
        {
            for (int id = 0; id < 50_000; id++)
            {
                string name = id.ToString(CultureInfo.InvariantCulture);
                map.Add(id, _ => name);
            }
        }

        var random = new Random(3);
        var visits = Enumerable
            .Range(0, 3_000)
            .Select(i => new VisitFacts(
                new Guid(i, 0, 0, new byte[8]),
                Guid.Empty,
                Id(),
                Id(),
                Id(),
                Id(),
                Id(),
                0,
                1,
                0,
                0,
                0,
                false,
                true
            ))
            .ToList();
        using VisitScan one = new(maps, "EUR", withVisitors: false, []),
            other = new(maps, "EUR", withVisitors: false, []);
        one.Add(VisitColumns.Of(visits[..2_000], [], []), First);
        other.Add(VisitColumns.Of(visits[1_000..], [], []), First);
        VisitScan.Together([one, other]);
        Assert.Equal(
            visits
                .Select(
                    (v, i) =>
                        (
                            Row: $"{v.SourceId} {v.LandingPageId} {v.LastPageId} {v.PlaceId} {v.DeviceId}",
                            Times: i is >= 1_000 and < 2_000 ? 2L : 1
                        )
                )
                .GroupBy(v => v.Row)
                .Select(g => (g.Key, g.Sum(v => v.Times)))
                .OrderBy(r => r.Key, StringComparer.Ordinal),
            one.Rows().Select(r => (Key: string.Join(' ', r.Groups), r.Figures.Visits)).OrderBy(r => r.Key, StringComparer.Ordinal)
        );

        int Id() => 49_999 - (random.Next(2) * random.Next(50_000));
    }

    [Theory]
    [InlineData(long.MaxValue)]
    [InlineData(100_000)] // far fewer than there are
    public void Distinct_visitors_are_counted_exactly_whoever_gathered_them(long most)
    {
        const int Visitors = 150_000;
        var gathered = Enumerable.Range(0, 3).Select(_ => new DistinctVisitors(most)).ToList();
        for (int time = 0; time < 3; time++)
        {
            for (int i = 0; i < Visitors; i++)
            {
                // Rows are numbered differently by each.
                int by = (i + time) % 3;
                gathered[by].Add(DistinctVisitors.Short(new Guid(i, 0, 0, new byte[8])), by + (i % 7));
            }
        }

        long[] byRow = new long[7];
        var rowsOf = gathered.Select((_, by) => Enumerable.Range(0, by + 7).Select(row => row - by).ToArray());
        Assert.Equal(Visitors, DistinctVisitors.Count([.. gathered.Zip(rowsOf)], byRow));
        Assert.Equal(Enumerable.Range(0, 7).Select(row => Enumerable.Range(0, Visitors).LongCount(i => i % 7 == row)), byRow);
        gathered.ForEach(g => g.Dispose());
    }

    [Fact]
    public void Visitors_who_come_again_and_again_fill_no_memory()
    {
        using var visitors = new DistinctVisitors(mostGathered: 3_000_000);
        for (int i = 0; i < 10_000_000; i++)
        {
            visitors.Add(DistinctVisitors.Short(new Guid(i % 50_000, 0, 0, new byte[8])), i % 3);
        }

        Assert.InRange(visitors.Gathered, 150_000, 5_000_000);
        Assert.Equal(50_000, DistinctVisitors.Count([(visitors, [0, 1, 2])], new long[3]));
    }

    /// <summary>Visits that were packed before names were kept have none; all else is as it was.</summary>
    [Fact]
    public void Columns_of_the_format_before_are_still_read()
    {
        var samples = Samples(4).Take(40).Select(s => s with { Visit = s.Visit with { FirstSourceId = 5, Start = 0 } }).ToList();
        byte[] packed = VisitColumns.Of([.. samples.Select(s => s.Visit)], samples.SelectMany(s => s.Conversions), []).ToBytes();
        byte[] older = packed[..^((2 * 40) + sizeof(int) + sizeof(int) + 40 + 1)]; // one first source for all, starts of one byte
        var read = VisitColumns.Read([3, .. older[1..]]);
        Assert.Equal((40, 0), (read.Count, read.IdsOf(RowTable.FirstSource)[7]));
        Assert.Equal(
            (First.DayNumber * 86_400L) + (samples[7].Visit.Hour * 3_600),
            read.AtOf(7, First) // by its hour, where nothing better is known
        );
        read = VisitColumns.Read([2, .. older[1..^8]]); // without its two counts of names
        Assert.Equal((40, 0, samples.Sum(s => s.Conversions.Length)), (read.Count, read.NamedEvents.Count, read.Conversions.Count));
    }

    private static (string Measure, long Times)[] NamedOf(List<Sample> samples) =>
        [
            .. samples
                .SelectMany(s =>
                    s.Conversions.Select(c => ($"conversions:{c.Kind}", 1)).Concat(s.Events.Select(e => ($"events:{e.Name}", e.Times)))
                )
                .GroupBy(n => n.Item1, n => (long)n.Item2)
                .Select(g => (g.Key, g.Sum()))
                .OrderBy(n => n.Key, StringComparer.Ordinal),
        ];

    private static List<Sample> Samples(int seed)
    {
        var random = new Random(seed);
        var visitors = Enumerable.Range(0, 300).Select(_ => NextGuid()).ToList();
        return
        [
            .. Enumerable
                .Range(0, 1_500)
                .Select(_ =>
                {
                    var id = NextGuid();
                    var conversions = Enumerable
                        .Range(0, Math.Max(0, random.Next(12) - 9))
                        .Select(_ => new ConversionFacts(
                            id,
                            Kinds[random.Next(2)],
                            Currencies[random.Next(3)],
                            random.Next(100_000) / 1_000m,
                            random.Next(2) == 0
                        ))
                        .ToArray();
                    int views = random.Next(1, 6);
                    return new Sample(
                        First.AddDays(random.Next(9)),
                        new VisitFacts(
                            id,
                            visitors[random.Next(300)],
                            random.Next(20),
                            random.Next(1, 9),
                            random.Next(1, 9),
                            random.Next(5),
                            random.Next(6),
                            random.Next(24),
                            views,
                            random.Next(300),
                            random.Next(100_000),
                            conversions.Length,
                            random.Next(2) == 0,
                            views == 1 && conversions.Length == 0,
                            random.Next(3) == 0,
                            random.Next(3) == 0 ? 0 : random.Next(1, 20),
                            random.Next(-3_600, 90_000)
                        ),
                        conversions,
                        [
                            .. Enumerable
                                .Range(0, Math.Max(0, random.Next(5) - 2))
                                .Select(n => new EventFacts(id, n == 0 ? "map opened" : "video", random.Next(1, 4))),
                        ]
                    );
                }),
        ];

        Guid NextGuid()
        {
            byte[] bytes = new byte[16];
            random.NextBytes(bytes);
            return new Guid(bytes);
        }
    }

    private static List<RowMap> MapsOf(List<RowField> fields, IReadOnlyList<RowCondition> conditions)
    {
        var maps = Enum.GetValues<RowTable>().Select(t => new RowMap(t, fields, conditions)).Where(m => m.IsNeeded).ToList();
        foreach (var map in maps)
        {
            if (map.Table == RowTable.Day)
            {
                map.AddDays(First, First.AddDays(8));
            }
            else if (map.Table == RowTable.Visitor)
            {
                map.AddVisitorKinds();
            }
            else if (map.Table == RowTable.Hour)
            {
                map.AddHours();
            }
            else
            {
                for (int id = 19; id >= 0; id--)
                {
                    int at = id;
                    map.Add(at, f => Named(f.Kind, at));
                }
            }
        }

        return maps;
    }

    private static string? ValueOf(Sample sample, RowField field) =>
        field.Table switch
        {
            RowTable.Source => Named(field.Kind, sample.Visit.SourceId),
            RowTable.LandingPage => Named(field.Kind, sample.Visit.LandingPageId),
            RowTable.LastPage => Named(field.Kind, sample.Visit.LastPageId),
            RowTable.FirstSource => Named(field.Kind, sample.Visit.FirstSourceId),
            RowTable.Place => Named(field.Kind, sample.Visit.PlaceId),
            RowTable.Device => Named(field.Kind, sample.Visit.DeviceId),
            RowTable.Visitor => VisitorKinds.NameOf(VisitorKinds.Of(sample.Visit.HasId, sample.Visit.IsNew)),
            RowTable.Hour => sample.Visit.Hour.ToString(CultureInfo.InvariantCulture),
            _ => Core.Reports.Calendar.NameOf(field.Kind, sample.Day),
        };

    private static string? Named(RowKind kind, int id) =>
        kind switch
        {
            RowKind.Source => $"s{id % 7}",
            RowKind.Campaign => id % 5 == 0 ? null : $"c{id % 5}",
            RowKind.Device => $"k{id % 4}",
            _ => $"{kind}{id}",
        };

    private static string NameOf(List<RowField> fields, List<RowMap> maps, int[] groups) =>
        string.Join(
            '|',
            fields.Select(
                (_, place) =>
                    maps.SelectMany((m, i) => m.Fields.Select((f, at) => (f.Place, Name: m.Names[groups[i]][at])))
                        .Single(f => f.Place == place)
                        .Name
            )
        );

    private static Figures FiguresOf(IReadOnlyList<Sample> samples) =>
        new()
        {
            Visits = samples.Count,
            Visitors = samples.Select(s => s.Visit.Visitor).Distinct().Count(),
            PageViews = samples.Sum(s => (long)s.Visit.PageViews),
            Events = samples.Sum(s => (long)s.Visit.Events),
            Seconds = samples.Sum(s => (long)s.Visit.Seconds),
            Bounces = samples.Count(s => s.Visit.Bounced),
            ConvertingVisits = samples.Count(s => s.Visit.Conversions > 0),
            NewVisitors = samples.Count(s => s.Visit.IsNew),
            VisitsWithId = samples.Count(s => s.Visit.HasId),
            Conversions = samples.Sum(s => s.Conversions.Length),
            VerifiedConversions = samples.SelectMany(s => s.Conversions).Count(c => c.Verified),
            Revenue = samples.SelectMany(s => s.Conversions).Where(c => c.Currency is "" or "EUR").Sum(c => c.Value),
        };
}
