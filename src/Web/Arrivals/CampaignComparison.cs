using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Campaigns side by side, each over as many days as the report has, from its own first day on.</summary>
public sealed class CampaignComparison(BeaconDb db, ArrivalsReader arrivals, TimeProvider clock)
{
    /// <summary>What the word for a comparison begins with; campaigns follow, separated by commas.</summary>
    public const string Word = "campaigns:";

    private const int Fewest = 2;
    private const int Most = 6;

    /// <summary>A day before any visit.</summary>
    private static readonly DateOnly Always = new(2000, 1, 1);

    /// <summary>The campaigns named, each with its own days.</summary>
    /// <param name="named">2 to 6, each by its written value, its name or its id, separated by commas.</param>
    /// <param name="request">The report; its days say how many each campaign has.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<Outcome<IReadOnlyList<ComparedCampaign>>> SpansAsync(
        string named,
        ArrivalsRequest request,
        Convention convention,
        CancellationToken cancel
    )
    {
        string[] wanted = named.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (wanted.Length is < Fewest or > Most)
        {
            return Refusal.Invalid("comparison-refused", $"Compare {Fewest} to {Most} campaigns, as in {Word}seed_swap,bulb_sale.");
        }

        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == request.WorkspaceId, cancel);
        var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
        var all = await db
            .Campaigns.AsNoTracking()
            .Select(c => new
            {
                c.Id,
                c.Name,
                c.Value,
                c.StartsOn,
            })
            .ToListAsync(cancel);
        var found = new List<ComparedCampaign>();
        foreach (string name in wanted)
        {
            var campaign = all.Find(c => c.Value == name)
                ?? all.Find(c => c.Name.Equals(name, StringComparison.OrdinalIgnoreCase) || c.Id.ToString() == name);
            if (campaign is null)
            {
                return Refusal.Invalid(
                    "campaign-unknown",
                    $"There is no campaign “{name}” to compare; give its written value, its name or its id."
                );
            }

            var own = new ComparedCampaign(campaign.Value, campaign.Name, Always, today);
            var first = campaign.StartsOn ?? await FirstVisitAsync(own.Of(request), convention, cancel);
            if (first is null || first > today)
            {
                return Refusal.Invalid("campaign-not-begun", $"“{campaign.Name}” has not begun yet, so there is nothing to compare.");
            }

            int days = Math.Min(request.To.DayNumber - request.From.DayNumber, today.DayNumber - first.Value.DayNumber);
            found.Add(own with { From = first.Value, To = first.Value.AddDays(days) });
        }

        return found;
    }

    /// <summary>Rows of the first campaign with the figures of the others beside them, rows that only others have too.</summary>
    public static List<ReportRow> Beside(IReadOnlyList<ReportRow> rows, IReadOnlyList<IReadOnlyList<ReportRow>> others)
    {
        var figures = rows.ToDictionary(r => new RowKey(r.Keys), r => r.Figures);
        var beside = others.Select(o => o.ToDictionary(r => new RowKey(r.Keys), r => r.Figures)).ToList();
        return
        [
            .. figures
                .Keys.Concat(beside.SelectMany(b => b.Keys))
                .Distinct()
                .Select(key => new ReportRow(key.Keys, figures.GetValueOrDefault(key, Figures.Zero))
                {
                    Beside = beside.ConvertAll(b => b.GetValueOrDefault(key, Figures.Zero)),
                }),
        ];
    }

    private async Task<DateOnly?> FirstVisitAsync(ArrivalsRequest request, Convention convention, CancellationToken cancel)
    {
        var read = await arrivals.ReadAsync(request with { Rows = [], WithVisitors = false, Points = RowKind.Day }, convention, cancel);
        return read.Days.Count == 0 ? null : read.Days[0].Day;
    }
}

/// <summary>A campaign that is compared.</summary>
/// <param name="Value">Its written value, by which rows know it.</param>
/// <param name="Name">What people call it.</param>
/// <param name="From">Its first day.</param>
/// <param name="To">The last day that is compared; a young one has fewer days.</param>
public sealed record ComparedCampaign(string Value, string Name, DateOnly From, DateOnly To)
{
    /// <summary>The report of this campaign alone, over its own days.</summary>
    public ArrivalsRequest Of(ArrivalsRequest request) =>
        request with
        {
            From = From,
            To = To,
            Where = [.. request.Where, new RowCondition(new RowField(RowKind.Campaign), RowTest.Is, [Value])],
        };
}
