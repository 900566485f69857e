using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>A report as it was read.</summary>
/// <param name="Workspace">Whose it is.</param>
/// <param name="Request">What was asked of the visits; of the first campaign where campaigns are compared.</param>
/// <param name="Read">Its rows, its total and its series.</param>
/// <param name="Before">The span compared with; null for none.</param>
/// <param name="Span">Its days; null for none.</param>
/// <param name="Shown">The page of rows.</param>
/// <param name="Campaigns">The campaigns compared; empty for none.</param>
/// <param name="Others">What the second and further ones came to.</param>
/// <param name="Names">What keys are called, by field.</param>
/// <param name="Convention">What it was read by.</param>
/// <param name="Sort">The order of its rows.</param>
/// <param name="WithVisitors">Visitors were counted.</param>
internal sealed record ReadReport(
    Workspace Workspace,
    ArrivalsRequest Request,
    Data.Reports.Arrivals Read,
    Figures? Before,
    (DateOnly From, DateOnly To)? Span,
    ReportPage Shown,
    IReadOnlyList<ComparedCampaign> Campaigns,
    IReadOnlyList<Data.Reports.Arrivals> Others,
    Dictionary<string, Dictionary<string, string>> Names,
    Convention Convention,
    string Sort,
    bool WithVisitors
);
