using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Batches;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Batches;

/// <summary>A row with what its recipe makes of it.</summary>
/// <param name="Worked">The link; null for a row with nothing in it, or when the recipe can't be applied.</param>
/// <param name="Problem">Why the recipe can't be applied, or null.</param>
public sealed record WorkedRow(BatchRow Row, RowRequest Request, PreparedLink? Worked, string? Problem, string Outcome)
{
    /// <summary>The first thing to say about it, gravest first; notes are left out.</summary>
    public string? Says => Problem ?? Worked?.Composed.Notices.FirstOrDefault(n => n.Severity != Severity.Info)?.Message;

    /// <summary>Rules that speak about it, notes left out.</summary>
    public IReadOnlyList<string> Rules =>
        [.. (Worked?.Composed.Notices ?? []).Where(n => n.Severity != Severity.Info).Select(n => n.Rule).Distinct()];

    /// <summary>It keeps the link of an earlier run, though the recipe would write another now.</summary>
    public bool Differs =>
        Outcome == RowOutcome.Unchanged && Worked is { Composed: { Ready: true, Tagged.Url: { } url } } && url != Row.Url;

    public RowResult Result(string? url = null, Guid? link = null, int? run = null) =>
        new(Row.Number, Outcome, Says, Rules, url, link, run);
}

/// <summary>Applies a recipe to rows, the same way for looking, counting and running.</summary>
public sealed class BatchComposer(LinkComposition composition)
{
    /// <summary>Works rows out, in their order.</summary>
    public async Task<IReadOnlyList<WorkedRow>> WorkAsync(
        Recipe recipe,
        Table headings,
        IReadOnlyList<BatchRow> rows,
        CancellationToken cancel
    )
    {
        var requests = rows.Select(r => RowRequest.Of(recipe, headings, r.Cells, r.Overrides)).ToList();
        var asked = rows.Zip(requests).Where(r => !IsEmpty(r.First) && r.Second.Unknown.Count == 0).ToList();
        var worked = asked.Count == 0 ? [] : await composition.ComposeAsync([.. asked.Select(a => RequestOf(a.Second, recipe))], cancel);
        var byNumber = asked.Zip(worked).ToDictionary(w => w.First.First.Number, w => w.Second);
        return [.. rows.Zip(requests, (row, request) => Of(row, request, byNumber.GetValueOrDefault(row.Number), recipe))];
    }

    private static WorkedRow Of(BatchRow row, RowRequest request, PreparedLink? worked, Recipe recipe)
    {
        if (IsEmpty(row))
        {
            return new WorkedRow(row, request, null, null, RowOutcome.Empty);
        }

        if (worked is null)
        {
            return new WorkedRow(
                row,
                request,
                null,
                $"The sheet has no column “{request.Unknown[0]}”; change the recipe.",
                RowOutcome.Stopped
            );
        }

        string outcome = RowOutcome.Of(worked.Composed.Ready, worked.Composed.Tagged?.Url, row.Url, recipe.Results, IsUsed(worked, recipe));

        // A row that has its link already is not told that the link exists.
        var notices =
            row.LinkId is null || worked.Existing?.Id != row.LinkId
                ? worked.Composed.Notices
                : [.. worked.Composed.Notices.Where(n => n.Rule != NoticeRules.SameAsExisting.Name)];
        return new WorkedRow(row, request, worked with { Composed = worked.Composed with { Notices = notices } }, null, outcome);
    }

    private static bool IsUsed(PreparedLink worked, Recipe recipe) =>
        recipe.Existing == ExistingLinks.Use && worked.Existing?.CanStandIn(recipe.Shorten) == true;

    private static ComposeRequest RequestOf(RowRequest row, Recipe recipe) =>
        new(row.Destination, row.Campaign, row.Placement, row.Fields.ToDictionary(), Title: row.Title, Shorten: recipe.Shorten);

    private static bool IsEmpty(BatchRow row) => row.Overrides is null && row.Cells.All(string.IsNullOrWhiteSpace);
}
