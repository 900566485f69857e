using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Arrivals;

namespace PreciseBeacon.Web.ResultsPages;

/// <summary>
/// Reads reports for somebody without an account: only what the page was made for. Its days, conditions and rows come from the page and
/// never from the request, which chooses among its rows; without leave there is no money in the answer.
/// </summary>
public sealed class SharedReport(ArrivalsReport report, ConventionReader conventions, LinkCountsReader counts, TimeProvider clock)
{
    private const int MonthDays = 30;
    private const int MostSize = 500;

    /// <summary>What the page is about.</summary>
    public async Task<ResultsAbout> AboutAsync(FoundResults found, CancellationToken cancel)
    {
        var (page, workspace, today) = found;
        var labels = new Dictionary<string, string>(StringComparer.Ordinal);
        if (page.LinkId is null)
        {
            var settings = SettingsOf(found);
            var convention = await conventions.ReadAsync(cancel);
            foreach (
                var field in settings
                    .Rows.Concat(settings.Where.Select(w => RowCondition.Parse(w)!.Field))
                    .Where(f => f.Name.Length > 0)
                    .Distinct()
            )
            {
                labels[field.ToString()] = LabelOf(field, convention);
            }
        }

        return new ResultsAbout(
            page.LinkId is null ? page.Name ?? "" : page.Link!.Title ?? "A link",
            workspace.Name,
            workspace.TimeZone,
            today,
            page.WithMoney ? workspace.Currency : null,
            page.LinkId is null ? page.Address ?? "" : null,
            page.LinkId is null ? null : WorkspaceDay.At(page.Link!.CreatedAt, workspace.TimeZone),
            labels
        );
    }

    /// <summary>One level of the page's rows, or its course over time.</summary>
    public async Task<Outcome<ArrivalsAnswer>> ReadAsync(FoundResults found, SharedQuery asked, CancellationToken cancel)
    {
        var (query, refusal) = QueryOf(found, asked);
        if (query is null)
        {
            return refusal!;
        }

        var (answer, wrong) = await report.ReadAsync(query, cancel);
        if (answer is null)
        {
            return wrong!;
        }

        // What is wrong with values is for those who can do something about it, and what else is counted for those of the workspace.
        var shown = answer with { Unknown = new Dictionary<string, IReadOnlyList<string>>(), ManyValues = [], Named = [] };
        return found.Page.WithMoney ? shown : shown.WithoutMoney();
    }

    /// <summary>What was counted on the page's link; null for the page of a view.</summary>
    public async Task<SharedCounts?> CountsAsync(FoundResults found, CancellationToken cancel)
    {
        if (found.Page.Link is not { } link)
        {
            return null;
        }

        var now = clock.GetUtcNow();
        string zone = found.Workspace.TimeZone;
        string first = found.Today.AddDays(1 - MonthDays).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        return new SharedCounts(
            await counts.ReadAsync(link.Id, link.CreatedAt < now ? link.CreatedAt : now.AddHours(-1), now, zone, cancel),
            await counts.ReadAsync(link.Id, WorkspaceMoment.Read(first, zone)!.Value, now, zone, cancel)
        );
    }

    private static Outcome<ArrivalsQuery> QueryOf(FoundResults found, SharedQuery asked)
    {
        bool withMoney = found.Page.WithMoney;
        string[] measures =
        [
            .. (asked.Measures ?? "")
                .Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
                .Where(m => withMoney || !ReportRows.TellsOfMoney(m)),
        ];
        var query = new ArrivalsQuery
        {
            Measures = measures.Length > 0 ? string.Join(',', measures) : "visits",
            Sort = asked.Sort is { } sort && (withMoney || !ReportRows.TellsOfMoney(sort.TrimStart('-'))) ? sort : null,
            Page = asked.Page,
            Size = Math.Min(asked.Size ?? MostSize, MostSize),
            Series = asked.Series,
        };
        if (found.Page.LinkId is { } linkId)
        {
            return query with { From = Since(found), To = found.Today, Rows = "", Where = [$"{new RowField(RowKind.Link)}:is:{linkId}"] };
        }

        var settings = SettingsOf(found);
        query = query with
        {
            From = settings.From,
            To = settings.To,
            Where = [.. settings.Where],
            Search = settings.Search,
            Credit = settings.Credit?.Rule.ToString(),
            CreditBeside = settings.Credit?.Beside?.ToString(),
            CreditDays = settings.Credit?.Days,
        };
        if (asked.Series is not null)
        {
            return query with { Rows = "" };
        }

        if (settings.IsByCampaign)
        {
            var other = settings.Rows.FirstOrDefault(r => r.Kind != RowKind.Campaign) ?? new RowField(RowKind.Source);
            return query with { Rows = other.ToString(), Compare = settings.Compare };
        }

        string[] open = asked.Open ?? [];
        bool isOfPage =
            open.Length < settings.Rows.Count
            && open.Select(RowCondition.Parse).Select((c, i) => c is { Test: RowTest.Is } && c.Field == settings.Rows[i]).All(fits => fits);
        return isOfPage
            ? query with
            {
                Rows = settings.Rows[open.Length].ToString(),
                Compare = settings.Compare,
                Where = [.. settings.Where, .. open],
                Search = open.Length == 0 ? settings.Search : null,
            }
            : Refusal.Invalid("open-refused", "This page has no such row; reload it.");
    }

    /// <summary>The first day of a link's figures: that on which it was made, and at most ten years back.</summary>
    private static DateOnly Since(FoundResults found)
    {
        var made = WorkspaceDay.At(found.Page.Link!.CreatedAt, found.Workspace.TimeZone);
        var earliest = found.Today.AddDays(-ArrivalsEndpoints.LongestRange);
        return made < earliest ? earliest
            : made > found.Today ? found.Today
            : made;
    }

    private static ViewSettings SettingsOf(FoundResults found) => ViewSettings.Read(found.Page.Address ?? "", found.Today);

    private static string LabelOf(RowField field, Convention convention)
    {
        if (field.Kind == RowKind.Part && field.Name.LastIndexOf('.') is var dot and > 0)
        {
            return $"{convention.Find(field.Name[..dot])?.Label ?? field.Name[..dot]}, part {field.Name[(dot + 1)..]}";
        }

        return field.Kind == RowKind.Field ? convention.Find(field.Name)?.Label ?? field.Name : field.Name;
    }
}

/// <summary>What is asked of a results page.</summary>
public sealed record SharedQuery
{
    /// <summary>The rows that are open, outermost first, each a field, <c>is</c> and a value.</summary>
    [FromQuery(Name = "open")]
    public string[]? Open { get; init; }

    /// <summary>Figures that are wanted.</summary>
    [FromQuery(Name = "measures")]
    public string? Measures { get; init; }

    /// <summary>A measure or <c>key</c>, with a minus in front for the largest first.</summary>
    [FromQuery(Name = "sort")]
    public string? Sort { get; init; }

    /// <summary>A point of the series: day, week or month; there are no rows then.</summary>
    [FromQuery(Name = "series")]
    public string? Series { get; init; }

    /// <summary>From 1.</summary>
    [FromQuery(Name = "page")]
    public int? Page { get; init; }

    /// <summary>Rows on a page, at most 500.</summary>
    [FromQuery(Name = "size")]
    public int? Size { get; init; }
}
