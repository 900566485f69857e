using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Reports;

/// <summary>Credit given to packed visits is what going through all visits of each visitor one by one comes to.</summary>
public sealed class CreditOfRowsTests
{
    private const int SecondsADay = 86_400;
    private static readonly DateOnly First = new(2026, 3, 1);

    private sealed record Sample(DateOnly Day, VisitFacts Visit, ConversionFacts[] Conversions)
    {
        public long At => ((long)Day.DayNumber * SecondsADay) + Visit.Start;
    }

    [Theory]
    [InlineData(1, "first", 45, "source")]
    [InlineData(2, "equal", 10, "source", "country:is:Country1")]
    [InlineData(3, "ends:40-20", 3, "country,source", "source:not:Source2")]
    [InlineData(4, "fading:2", 45, "day")]
    [InlineData(5, "lastTagged", 20, "source,day")]
    [InlineData(6, "last", 45, "source")]
    [InlineData(7, "equal", 45, "", "source:is:Source1")]
    [InlineData(8, "fading:7", 45, "source,first.source")]
    public void Conversions_and_revenue_follow_the_model(int seed, string rule, int days, string rows, params string[] where)
    {
        var choice = new CreditChoice(CreditRule.Parse(rule)!, CreditRule.Parse("first"), days);
        var samples = Samples(seed);
        var fields = rows.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(r => RowField.Parse(r)!).ToList();
        var conditions = RowCondition.Gathered(where.Select(w => RowCondition.Parse(w)!));
        var maps = Enum.GetValues<RowTable>().Select(t => new RowMap(t, fields, conditions)).Where(m => m.IsNeeded).ToList();
        foreach (var map in maps)
        {
            if (map.Table == RowTable.Day)
            {
                map.AddDays(First, First.AddDays(60));
            }
            else
            {
                for (int id = 0; id < 8; id++)
                {
                    int at = id;
                    map.Add(at, f => $"{f.Kind}{at}");
                }
            }
        }

        // Conversions of the last forty days; visits of before are touches of theirs.
        var from = First.AddDays(20);
        using VisitScan one = new(maps, "EUR", false, [], withPoints: true),
            other = new(maps, "EUR", false, [], withPoints: true);
        var parts = samples
            .Chunk(83)
            .SelectMany(c => c.GroupBy(s => s.Day))
            .Select(g => (Day: g.Key, Visits: VisitColumns.Of([.. g.Select(s => s.Visit)], g.SelectMany(s => s.Conversions), [])))
            .ToList();
        foreach (var (part, i) in parts.Where(p => p.Day >= from).Select((p, i) => (p, i)))
        {
            (i % 2 == 0 ? one : other).Add(part.Visits, part.Day);
        }

        var scan = VisitScan.Together([one, other]);
        var history = new TouchHistory(scan.Points!.All.Select(p => p.Visitor));
        var collected = Enumerable.Range(0, 2).Select(_ => new List<(int, Touch)>()).ToList();
        foreach (var (part, i) in parts.Select((p, i) => (p, i)))
        {
            history.Collect(VisitColumns.Read(part.Visits.ToBytes()), part.Day, collected[i % 2]);
        }

        history.Put(collected);
        scan.Credit(history, choice, id => id % 2 == 1);

        var expected = Expected(samples, from, choice.Rule, choice, fields, conditions);
        var gained = Expected(samples, from, choice.Beside!, choice, fields, conditions);
        var found = scan.Rows()
            .Where(r => r.Figures.Conversions != 0)
            .ToDictionary(
                r =>
                    string.Join(
                        '|',
                        fields.Select(
                            (_, place) =>
                                maps.SelectMany((m, i) => m.Fields.Select((f, at) => (f.Place, Name: m.Names[r.Groups[i]][at])))
                                    .Single(f => f.Place == place)
                                    .Name
                        )
                    ),
                r => r.Figures
            );
        Assert.NotEmpty(expected);
        Assert.Equal(
            expected.OrderBy(e => e.Key, StringComparer.Ordinal),
            found
                .Select(f => KeyValuePair.Create(f.Key, (f.Value.Conversions, f.Value.Revenue)))
                .OrderBy(e => e.Key, StringComparer.Ordinal)
        );
        Assert.Equal(
            (gained.Values.Sum(g => g.Conversions), gained.Values.Sum(g => g.Revenue)),
            (scan.Rows().Sum(r => r.Figures.OtherConversions), scan.Rows().Sum(r => r.Figures.OtherRevenue))
        );
    }

    /// <summary>Whoever comes all the time takes no longer than others: the latest touches are looked at.</summary>
    [Fact]
    public void Of_very_many_visits_the_latest_count()
    {
        var history = new TouchHistory([7UL]);
        history.Put([
            [.. Enumerable.Range(0, 50_000).Select(i => (0, new Touch(i, 1)))],
        ]);
        var touches = new Touch[CreditChoice.MostTouches];
        Assert.Equal(200, history.Before(7, new Touch(40_000, 1), 30_000, touches));
        Assert.Equal((39_801L, 40_000L), (touches[0].At, touches[^1].At));
        Assert.Equal(1, history.Before(8, new Touch(40_000, 1), 30_000, touches)); // a visitor nobody asked for
        Assert.Equal(11, history.Before(7, new Touch(40_000, 2), 9, touches)); // another source at the same second
    }

    [Fact]
    public void Ways_are_counted_with_their_latest_five_visits()
    {
        var sources = new RowMap(RowTable.Source, [new RowField(RowKind.Source)], []);
        for (int id = 1; id < 4; id++)
        {
            string name = $"s{id}";
            sources.Add(id, _ => name);
        }

        using var scan = new VisitScan([sources], "EUR", false, [], withPoints: true);
        var visits = new List<VisitFacts>();
        var conversions = new List<ConversionFacts>();
        int at = 0;
        foreach (string way in (string[])["1 2", "1 2", "3", "1 1 1 1 1 2", "9 3"])
        {
            var visitor = Guid.NewGuid();
            foreach (string source in way.Split(' '))
            {
                visits.Add(Visit(Guid.NewGuid(), visitor, int.Parse(source, System.Globalization.CultureInfo.InvariantCulture), at++));
            }

            conversions.Add(new ConversionFacts(visits[^1].Id, "ticket", "", 2.5m, false));
        }

        var packed = VisitColumns.Of(visits, conversions, []);
        scan.Add(packed, First);
        var history = new TouchHistory(scan.Points!.All.Select(p => p.Visitor));
        var found = new List<(int, Touch)>();
        history.Collect(packed, First, found);
        history.Put([found]);
        var choice = new CreditChoice(new CreditRule(CreditModel.Last));
        Assert.Equal(
            ["s1 s2 2 5.0", "- s3 1 2.5", "…s1 s1 s1 s1 s2 1 2.5", "s3 1 2.5"],
            ConversionPaths
                .Of(scan.Points!, history, choice, (sources, sources), "EUR")
                .Select(p =>
                    FormattableString.Invariant(
                        $"{(p.IsCut ? "…" : "")}{string.Join(' ', p.Steps.Select(s => s ?? "-"))} {p.Conversions} {p.Revenue}"
                    )
                )
        );
    }

    private static VisitFacts Visit(Guid id, Guid visitor, int source, int start) =>
        new(id, visitor, source, 1, 1, 1, 1, 0, 1, 0, 0, 1, true, false, Start: start);

    private static Dictionary<string, (decimal Conversions, decimal Revenue)> Expected(
        List<Sample> samples,
        DateOnly from,
        CreditRule rule,
        CreditChoice choice,
        List<RowField> fields,
        IReadOnlyList<RowCondition> conditions
    )
    {
        var found = new Dictionary<string, (decimal Conversions, decimal Revenue)>();
        foreach (var sample in samples.Where(s => s.Day >= from && s.Conversions.Length > 0))
        {
            Sample[] touches =
            [
                .. samples
                    .Where(s => s.Visit.Visitor == sample.Visit.Visitor && s.At < sample.At && s.At >= sample.At - choice.Seconds)
                    .OrderBy(s => s.At),
                sample,
            ];
            long[] weights = new long[touches.Length],
                parts = new long[touches.Length];
            rule.Weigh([.. touches.Select(t => new Touch(t.At, t.Visit.SourceId))], id => id % 2 == 1, weights);
            CreditShares.Of(CreditShares.PerConversion, weights, parts);
            foreach (var conversion in sample.Conversions)
            {
                decimal[] money = new decimal[touches.Length];
                CreditShares.OfMoney(conversion.Value, 2, weights, money);
                for (int i = 0; i < touches.Length; i++)
                {
                    if (weights[i] == 0 || !conditions.All(c => c.Holds(ValueOf(c.Field, sample, touches[i]))))
                    {
                        continue;
                    }

                    string row = string.Join('|', fields.Select(f => ValueOf(f, sample, touches[i])));
                    var known = found.GetValueOrDefault(row);
                    found[row] = (
                        known.Conversions + ((decimal)parts[i] / CreditShares.PerConversion),
                        known.Revenue + (conversion.Currency == "USD" ? 0 : money[i])
                    );
                }
            }
        }

        return found;
    }

    private static string? ValueOf(RowField field, Sample converting, Sample touch) =>
        field.Table switch
        {
            RowTable.Source => $"{field.Kind}{touch.Visit.SourceId}",
            RowTable.FirstSource => $"{field.Kind}{converting.Visit.FirstSourceId}",
            RowTable.Place => $"{field.Kind}{converting.Visit.PlaceId}",
            _ => Core.Reports.Calendar.NameOf(field.Kind, converting.Day),
        };

    private static List<Sample> Samples(int seed)
    {
        var random = new Random(seed);
        var visitors = Enumerable.Range(0, 120).Select(_ => NextGuid()).ToList();
        var taken = new HashSet<(Guid, long)>();
        var samples = new List<Sample>();
        while (samples.Count < 1_200)
        {
            var id = NextGuid();
            int source = random.Next(8);
            var conversions = Enumerable
                .Range(0, Math.Max(0, random.Next(10) - 7))
                .Select(_ => new ConversionFacts(id, "ticket", random.Next(4) == 0 ? "USD" : "", random.Next(10_000) / 100m, false))
                .ToArray();
            var sample = new Sample(
                First.AddDays(random.Next(60)),
                Visit(id, visitors[random.Next(120)], source, random.Next(-3_600, SecondsADay)) with
                {
                    PlaceId = random.Next(4),
                    FirstSourceId = random.Next(8),
                    Conversions = conversions.Length,
                },
                conversions
            );
            if (taken.Add((sample.Visit.Visitor, sample.At)))
            {
                samples.Add(sample);
            }
        }

        return samples;

        Guid NextGuid()
        {
            byte[] bytes = new byte[16];
            random.NextBytes(bytes);
            return new Guid(bytes);
        }
    }
}
