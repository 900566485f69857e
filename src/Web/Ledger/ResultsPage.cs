using System.Globalization;
using System.Net;
using System.Text;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Web.Ledger;

/// <summary>What somebody without an account sees of one link: a plain page without script.</summary>
public static class ResultsPage
{
    private static readonly string[] Weekdays = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

    public static string Draw(string title, Workspace workspace, LinkCounts all, LinkCounts month, string nonce)
    {
        long people = all.Clicks + all.Scans;
        return $$$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><meta name="robots" content="noindex">
            <link rel="icon" href="data:,"><title>{{{E(title)}}} · {{{E(workspace.Name)}}}</title>
            <style nonce="{{{nonce}}}">:root{color-scheme:light dark}body{margin:0;font:16px/1.5 system-ui,sans-serif;background:#F6F4EF;color:#1E2230}main{max-width:52rem;margin:0 auto;padding:2.5rem 1.25rem}
            h1{font-size:1.5rem;margin:0}h2{font-size:1.05rem;margin:2rem 0 .5rem}.quiet{color:#625F5A}table{border-collapse:collapse;width:100%;max-width:28rem}td,th{text-align:left;padding:.2rem .75rem .2rem 0;border-bottom:1px solid #E2DDD3;font-weight:400}
            td:last-child{text-align:right;font-variant-numeric:tabular-nums}dl{display:flex;flex-wrap:wrap;gap:.5rem 2rem;margin:1rem 0 0}dt{font-size:.85rem;color:#625F5A}dd{margin:0;font-size:1.3rem;font-variant-numeric:tabular-nums}
            svg{width:100%;height:auto;display:block}rect{fill:#6A2C55}.week td{padding:0;border:0;width:4%;height:1.1rem}@media(prefers-color-scheme:dark){body{background:#16171C;color:#E8E5DE}td,th{border-color:#33353E}.quiet,dt{color:#A9A59C}rect{fill:#D99CC2}}</style></head>
            <body><main><p class="quiet">{{{E(workspace.Name)}}}</p><h1>{{{E(title)}}}</h1>
            <dl><div><dt>Clicks</dt><dd>{{{N(all.Clicks)}}}</dd></div><div><dt>Scans</dt><dd>{{{N(
                all.Scans
            )}}}</dd></div><div><dt>Daily visitors, added up</dt><dd>{{{N(
                all.Unique
            )}}}</dd></div><div><dt>Visits that arrived</dt><dd>{{{N(all.Visits)}}}</dd></div></dl>
            <p class="quiet">{{{(
                people == 0 ? "Nobody has used this link yet." : $"Crawlers and previews, {N(all.Others.Values.Sum())} hits, are left out."
            )}}}</p>
            <h2>Clicks and scans, last 30 days</h2>{{{Bars(month)}}}
            <h2>By weekday, all time</h2>{{{Table(Weekdays.Select((d, i) => new CountOf(d, all.WeekHours.Skip(i * 24).Take(24).Sum())))}}}
            <h2>Device</h2>{{{Table(all.Devices)}}}<h2>Country</h2>{{{Table(
                all.Countries.Select(c => c with { Name = CountryName(c.Name) })
            )}}}{{{(all.Places.Count == 0 ? "" : $"<h2>Town</h2>{Table(all.Places)}")}}}<h2>Referrer</h2>{{{Table(all.Referrers)}}}
            <p class="quiet">Times are those of {{{E(workspace.TimeZone)}}}.</p></main></body></html>
            """;
    }

    private static string Bars(LinkCounts counts)
    {
        const int Height = 90;
        const int Step = 20;
        long most = Math.Max(1, counts.Series.Select(s => s.Clicks + s.Scans).DefaultIfEmpty().Max());
        var bars = new StringBuilder();
        foreach (var (step, i) in counts.Series.Select((s, i) => (s, i)))
        {
            double height = (step.Clicks + step.Scans) * Height / (double)most;
            bars.Append(
                CultureInfo.InvariantCulture,
                $"<rect x=\"{(i * Step) + 2}\" y=\"{Height - height:0.##}\" width=\"{Step - 4}\" height=\"{height:0.##}\"><title>{step.From:d MMMM}: {step.Clicks + step.Scans}</title></rect>"
            );
        }

        return $"<svg viewBox=\"0 0 {counts.Series.Count * Step} {Height}\" role=\"img\" aria-label=\"{N(counts.Clicks + counts.Scans)} in 30 days, at most {N(most)} a day\">{bars}</svg><p class=\"quiet\">At most {N(most)} a day.</p>";
    }

    /// <summary>A country's English name by its code (ISO 3166-1, names of the platform's CLDR); a code it doesn't know stays.</summary>
    public static string CountryName(string code)
    {
        if (code.Length != 2)
        {
            return code;
        }

        try
        {
            return new RegionInfo(code).EnglishName;
        }
        catch (ArgumentException)
        {
            return code;
        }
    }

    private static string Table(IEnumerable<CountOf> rows)
    {
        string lines = string.Concat(
            rows.Select(r => $"<tr><th scope=\"row\">{E(r.Name.Length == 0 ? "not known" : r.Name)}</th><td>{N(r.Hits)}</td></tr>")
        );
        return lines.Length == 0 ? "<p class=\"quiet\">Nothing yet.</p>" : $"<table>{lines}</table>";
    }

    private static string N(long number) => number.ToString("N0", CultureInfo.InvariantCulture);

    private static string E(string text) => WebUtility.HtmlEncode(text);
}
