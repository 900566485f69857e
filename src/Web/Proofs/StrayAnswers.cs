using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Proofs;

namespace PreciseBeacon.Web.Proofs;

/// <summary>Strays to be assigned, as a call sends them.</summary>
/// <param name="Assignments">1 to 500 of them.</param>
/// <param name="From">First day that is counted for what changes, in the workspace's zone; 90 days before the last where it is left out.</param>
/// <param name="To">Last day; today where it is left out.</param>
public sealed record AssignStrays(IReadOnlyList<AssignStray?>? Assignments, DateOnly? From = null, DateOnly? To = null);

/// <summary>A stray and what it means: a key and the field it is read as, or values and those that are read instead.</summary>
/// <param name="Key">A key that no field is read from.</param>
/// <param name="Field">Key of the field it is read as.</param>
/// <param name="When">The values as they arrived, by field key.</param>
/// <param name="Then">What they mean, by field key: a word, a campaign's value, or text where the field has no list.</param>
public sealed record AssignStray(
    string? Key = null,
    string? Field = null,
    IReadOnlyDictionary<string, string?>? When = null,
    IReadOnlyDictionary<string, string?>? Then = null
);

/// <summary>Assignments that were made.</summary>
/// <param name="Ids">Their ids, in the order they were sent.</param>
public sealed record AssignedStrays(IReadOnlyList<Guid> Ids);

/// <summary>Assignments to be taken back.</summary>
/// <param name="Ids">Their ids.</param>
public sealed record UndoStrays(Guid[]? Ids);

/// <summary>Values to be added to the draft of the convention.</summary>
/// <param name="Field">Key of the field.</param>
/// <param name="Values">The values as they arrived, 1 to 500.</param>
/// <param name="Word">The word they become aliases of; null makes each a word of its own.</param>
public sealed record DraftWords(string? Field, IReadOnlyList<string?>? Values, string? Word);

/// <summary>What the reports would say before and after.</summary>
/// <param name="From">First day that was counted.</param>
/// <param name="To">Last day.</param>
/// <param name="More">How many more rows change than are listed.</param>
/// <param name="Rows">Rows that change, by what they are made by, those that change most first.</param>
public sealed record StrayEffectAnswer(DateOnly From, DateOnly To, int More, IReadOnlyList<StrayEffectRow> Rows);

/// <summary>A row of the reports that changes.</summary>
/// <param name="By">What rows are made by, such as <c>source</c>.</param>
/// <param name="Name">What the row is called.</param>
/// <param name="Before">Its visits before.</param>
/// <param name="After">Its visits after.</param>
public sealed record StrayEffectRow(string By, string Name, long Before, long After);

/// <summary>Strays of a range.</summary>
/// <param name="From">First day, in the workspace's zone.</param>
/// <param name="To">Last day.</param>
/// <param name="MoreGroups">How many more groups there are than are listed.</param>
/// <param name="Groups">At most two hundred, those with the most visits first; those that are counted right already last.</param>
/// <param name="Assigned">What is assigned, the newest first.</param>
/// <param name="Inside">Tags on links inside one's own sites, at most a hundred, those most followed first.</param>
public sealed record StraysAnswer(
    DateOnly From,
    DateOnly To,
    int MoreGroups,
    IReadOnlyList<StrayGroupAnswer> Groups,
    IReadOnlyList<AssignedStray> Assigned,
    IReadOnlyList<InsideTag> Inside
);

/// <summary>Strays that probably mean the same.</summary>
/// <param name="Kind">What is wrong.</param>
/// <param name="Field">Key of the field; null for a swapped pair, and for a key near none.</param>
/// <param name="FieldLabel">What people call the field; null likewise.</param>
/// <param name="Likely">What they probably mean, as text; null where nothing is near.</param>
/// <param name="IsSettled">The reports count them right already; only the links are worth mending.</param>
/// <param name="Visits">Their visits in the range.</param>
/// <param name="First">The first day they were seen in the range.</param>
/// <param name="Last">The last day.</param>
/// <param name="Links">How many links of the Ledger they came by.</param>
/// <param name="MoreStrays">How many more there are than are listed.</param>
/// <param name="Strays">At most fifty, those with the most visits first.</param>
/// <param name="Referrers">Hosts they came from, at most three, those with the most visits first.</param>
/// <param name="Pages">Pages they landed on, likewise.</param>
public sealed record StrayGroupAnswer(
    StrayKind Kind,
    string? Field,
    string? FieldLabel,
    string? Likely,
    bool IsSettled,
    long Visits,
    DateOnly First,
    DateOnly Last,
    int Links,
    int MoreStrays,
    IReadOnlyList<StrayAnswer> Strays,
    IReadOnlyList<SeenAt> Referrers,
    IReadOnlyList<SeenAt> Pages
)
{
    internal const int MostPages = 3;
    private const int MostStrays = 50;

    internal static StrayGroupAnswer Of(
        StrayGroup group,
        StrayTraffic traffic,
        Convention convention,
        IReadOnlyList<(string Page, long Visits)> pages
    )
    {
        var sources = group.Strays.SelectMany(s => s.Sources).Distinct().Select(traffic.Of).ToList();
        var seen = sources.ConvertAll(s => traffic.Seen[s.Id]);
        return new StrayGroupAnswer(
            group.Kind,
            group.Field,
            group.Field is { } key ? convention.Find(key)?.Label : null,
            group.Likely,
            group.IsSettled,
            group.Visits,
            seen.Min(s => s.First),
            seen.Max(s => s.Last),
            sources.Where(s => s.LinkId is not null).Select(s => s.LinkId).Distinct().Count(),
            Math.Max(0, group.Strays.Count - MostStrays),
            [.. group.Strays.Take(MostStrays).Select(s => StrayAnswer.Of(s, traffic))],
            [
                .. sources
                    .Where(s => s.ReferrerHost.Length > 0)
                    .GroupBy(s => s.ReferrerHost, StringComparer.Ordinal)
                    .Select(g => new SeenAt(g.Key, g.Sum(s => traffic.VisitsOf(s.Id))))
                    .OrderByDescending(s => s.Visits)
                    .ThenBy(s => s.Where, StringComparer.Ordinal)
                    .Take(MostPages),
            ],
            [.. pages.Select(p => new SeenAt(p.Page, p.Visits))]
        );
    }
}

/// <summary>One stray.</summary>
/// <param name="Key">The key where nobody reads it; else null.</param>
/// <param name="When">The values as they arrived, by field key; empty for a key.</param>
/// <param name="Then">What they probably mean; empty where nothing is near, and for a key.</param>
/// <param name="Visits">Its visits in the range.</param>
public sealed record StrayAnswer(
    string? Key,
    IReadOnlyDictionary<string, string> When,
    IReadOnlyDictionary<string, string> Then,
    long Visits
)
{
    internal static StrayAnswer Of(Stray stray, StrayTraffic traffic) =>
        new(stray.Key, stray.When, stray.Then, stray.Sources.Sum(traffic.VisitsOf));
}

/// <summary>Where visits were seen.</summary>
/// <param name="Where">A host, or host and path.</param>
/// <param name="Visits">How many.</param>
public sealed record SeenAt(string Where, long Visits);

/// <summary>A stray that is assigned.</summary>
/// <param name="Id">The assignment's id.</param>
/// <param name="Stray">The stray, as text.</param>
/// <param name="Means">What it is read as, as text.</param>
/// <param name="FieldLabel">What people call its field; null for a pair.</param>
/// <param name="By">Who assigned it.</param>
/// <param name="At">When.</param>
public sealed record AssignedStray(Guid Id, string Stray, string Means, string? FieldLabel, string By, DateTimeOffset At)
{
    internal static AssignedStray Of(KeptAssignment kept, Convention convention)
    {
        var (stray, means) = AssignedText.Of(kept.Assignment, convention);
        string? field =
            kept.Assignment.Key is not null ? null
            : kept.Assignment.When.Count == 1 ? kept.Assignment.When.Keys.First()
            : null;
        return new AssignedStray(kept.Assignment.Id, stray, means, field is null ? null : convention.Find(field)?.Label, kept.By, kept.At);
    }
}

/// <summary>An assignment in words.</summary>
/// <param name="Stray">What arrived.</param>
/// <param name="Means">What it is read as.</param>
public sealed record AssignedText(string Stray, string Means)
{
    /// <summary>The words of an assignment, values in the order of the convention's fields.</summary>
    public static AssignedText Of(StrayAssignment assignment, Convention convention) =>
        assignment.Key is { } key
            ? new AssignedText(key, assignment.Field!)
            : new AssignedText(InOrder(assignment.When, convention), InOrder(assignment.Then, convention));

    private static string InOrder(IReadOnlyDictionary<string, string> values, Convention convention) =>
        string.Join(" / ", values.OrderBy(v => convention.PlaceOf(v.Key)).Select(v => v.Value));
}
