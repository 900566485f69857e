namespace PreciseBeacon.Core.Proofs.Reconciling;

/// <summary>Figures of our own beside another system's, of the same days and the same target.</summary>
/// <param name="Clicks">People's clicks on short links.</param>
/// <param name="Visits">Visits.</param>
/// <param name="VisitsByLink">Visits by links that have a short link.</param>
/// <param name="Conversions">Conversions.</param>
public readonly record struct OwnFigures(long Clicks, long Visits, long VisitsByLink, decimal Conversions)
{
    public OwnFigures Plus(OwnFigures other) =>
        new(Clicks + other.Clicks, Visits + other.Visits, VisitsByLink + other.VisitsByLink, Conversions + other.Conversions);

    /// <summary>
    /// What of ours stands beside a figure of another system; null for what nobody here counts. Clicks stand beside clicks where most visits
    /// come through short links, and beside visits where links lead to the page themselves, so that nobody counts their clicks (ours).
    /// </summary>
    public FigureKind? Beside(FigureKind theirs) =>
        theirs switch
        {
            FigureKind.Clicks => Clicks > 0 && Clicks >= Visits - VisitsByLink ? FigureKind.Clicks : FigureKind.Visits,
            FigureKind.Visits or FigureKind.Conversions => theirs,
            _ => null,
        };

    /// <summary>One of them.</summary>
    public decimal Of(FigureKind kind) =>
        kind switch
        {
            FigureKind.Clicks => Clicks,
            FigureKind.Visits => Visits,
            _ => Conversions,
        };
}

/// <summary>What speaks for a cause of a gap to another system.</summary>
public sealed record FigureEvidence
{
    public static readonly FigureEvidence None = new();

    /// <summary>Theirs of days that ended less than <see cref="ClickGap.New"/> ago.</summary>
    public decimal New { get; init; }

    /// <summary>Requests of programs and previews for the short links.</summary>
    public long Programs { get; init; }

    /// <summary>Second taps on the short links, which count once.</summary>
    public long DoubleTaps { get; init; }

    /// <summary>Visits with other tags that probably mean this.</summary>
    public long Strays { get; init; }

    /// <summary>People's clicks on the links, gathered into visits, and what became of them; null where there are none.</summary>
    public GapEvidence? Clicked { get; init; }

    /// <summary>What trials and page checks found on the way to the links' pages.</summary>
    public IReadOnlyList<Finding> Found { get; init; } = [];

    /// <summary>Share of the links that lead to a page with such a finding, above 0 to 1.</summary>
    public double FoundShare { get; init; } = 1;

    /// <summary>Anybody at all was measured on the links' pages.</summary>
    public bool PageMeasured { get; init; } = true;
}

/// <summary>
/// Another system's figure beside ours, and why fewer are here (rules, section 10). Clicks of a target are set beside clicks, visits beside
/// visits; theirs is what is expected.
/// </summary>
public sealed record FigureGap
{
    /// <summary>What they count.</summary>
    public required FigureKind Kind { get; init; }

    /// <summary>What of ours stands beside it.</summary>
    public required FigureKind Beside { get; init; }

    public required decimal Theirs { get; init; }

    public required decimal Ours { get; init; }

    /// <summary>Share of theirs that is missing here; negative where ours are more, null where theirs are 0.</summary>
    public required double? Gap { get; init; }

    /// <summary>What is to be said of it.</summary>
    public required FigureVerdict Verdict { get; init; }

    /// <summary>Likely causes, those with the most evidence first, what nothing explains last; empty where nothing is missing.</summary>
    public required IReadOnlyList<FigureCause> Causes { get; init; }

    /// <summary>The cause that explains the most, or that nothing does; null where nothing is missing.</summary>
    public FigureCause? Likeliest => Causes.MaxBy(c => c.Missing);

    /// <summary>Judges a figure; null where nobody here counts such a thing, or they say nothing of it.</summary>
    /// <param name="kind">What they count.</param>
    /// <param name="theirs">Their figures.</param>
    /// <param name="ours">Ours of the same days.</param>
    /// <param name="evidence">What is known of the links and pages.</param>
    public static FigureGap? Of(FigureKind kind, OtherFigures theirs, OwnFigures ours, FigureEvidence evidence)
    {
        if (theirs.Of(kind) is not { } expected || ours.Beside(kind) is not { } beside)
        {
            return null;
        }

        decimal found = ours.Of(beside);
        double? gap = expected == 0 ? null : (double)((expected - found) / expected);
        var causes =
            found >= expected ? MoreOf(found - expected, evidence)
            : beside == FigureKind.Clicks ? OfClicks(expected - found, evidence)
            : OfVisits(expected - found, evidence);
        return new FigureGap
        {
            Kind = kind,
            Beside = beside,
            Theirs = expected,
            Ours = found,
            Gap = gap,
            Verdict = VerdictOf(expected, found, gap),
            Causes = causes,
        };
    }

    /// <summary>What is to be said where theirs are expected and ours were found.</summary>
    internal static FigureVerdict VerdictOf(decimal expected, decimal found, double? gap) =>
        Math.Max(expected, found) < ClickGap.LeastExpected ? FigureVerdict.TooFew
        : gap is null or < -ClickGap.Quiet ? FigureVerdict.More
        : ClickGap.VerdictOf(Math.Max(expected, found), gap) switch
        {
            GapVerdict.TooFew => FigureVerdict.TooFew,
            GapVerdict.Quiet => FigureVerdict.Quiet,
            GapVerdict.Ordinary => FigureVerdict.Ordinary,
            _ => FigureVerdict.Finding,
        };

    /// <summary>Their clicks never came to a short link, or came and aren't people's.</summary>
    private static List<FigureCause> OfClicks(decimal missing, FigureEvidence e) =>
        Ordered(
            missing,
            [
                new(
                    FigureCauseKind.Programs,
                    e.Programs,
                    $"Programs, such as mail scanners and previews, asked for the short links {Times(e.Programs)}. They are counted apart here; the other system may count them as people."
                ),
                new(
                    FigureCauseKind.DoubleTaps,
                    e.DoubleTaps,
                    $"Second taps within seconds, {GapCauseText.Number(e.DoubleTaps)} of them, count once here."
                ),
                New(e),
            ],
            "Nothing here explains these. The other system's links may lead past the short links: compare the addresses it sends."
        );

    /// <summary>Their clicks or visits are measured here under another name, or not at all.</summary>
    private static List<FigureCause> OfVisits(decimal missing, FigureEvidence e)
    {
        var broken = e.Found.FirstOrDefault(f => ClickGap.IsBroken(f.Rule));
        var dropped = e.Found.FirstOrDefault(f => ClickGap.IsDropping(f.Rule));
        var (programs, clickedElsewhere, clickedSilent, reused) = e.Clicked is { } clicked
            ? (clicked.Programs, clicked.Elsewhere, clicked.Silent, clicked.Reused)
            : default;
        decimal left = Math.Max(0, missing - e.Strays - e.New - programs - clickedElsewhere - clickedSilent);

        // Where no click tells what became of a visit, what is wrong with the page may explain what nothing else does, as far as links lead there.
        decimal byPage = broken is not null || dropped is not null ? Math.Ceiling(left * (decimal)e.FoundShare) : left;
        decimal silent = clickedSilent + (broken is not null || !e.PageMeasured ? byPage : 0);
        decimal elsewhere = clickedElsewhere + (dropped is not null && broken is null && e.PageMeasured ? byPage : 0);
        return Ordered(
            missing,
            [
                new(FigureCauseKind.TagsLost, elsewhere, GapCauseText.TagsLost(elsewhere, dropped?.Message)),
                new(
                    FigureCauseKind.Strays,
                    e.Strays,
                    $"{GapCauseText.Missing(e.Strays)} stand under other words that probably mean this. Assign them in Strays."
                ),
                new(FigureCauseKind.Programs, programs, GapCauseText.Programs(programs)),
                New(e),
                broken is not null ? new(FigureCauseKind.PageBroken, silent, GapCauseText.PageBroken(silent, broken.Message))
                : !e.PageMeasured ? new(FigureCauseKind.NotMeasured, silent, GapCauseText.NotMeasured(silent))
                : new(FigureCauseKind.Blocked, silent, GapCauseText.Blocked(silent)),
                new(FigureCauseKind.Reused, reused, GapCauseText.Reused(reused)),
            ],
            "Nothing here explains these. The other system may count otherwise, such as each page by itself, or lead to other addresses."
        );
    }

    /// <summary>Ours are more: somebody came without the other system.</summary>
    private static List<FigureCause> MoreOf(decimal more, FigureEvidence e)
    {
        long reused = e.Clicked?.Reused ?? 0,
            without = e.Clicked?.WithoutClick ?? 0;
        return
        [
            .. new FigureCause[]
            {
                new(
                    FigureCauseKind.Reused,
                    Math.Min(more, reused),
                    $"{GapCauseText.Number(reused)} came through the printed code from another page, so somebody put it into a mail or on a site. Give that its own link."
                ),
                new(
                    FigureCauseKind.WithoutClick,
                    Math.Min(more, without),
                    $"{(without == 1 ? "1 visit" : $"{GapCauseText.Number(without)} visits")} with these tags came without the short link, so the address with its tags is shared somewhere."
                ),
            }
                .Where(c => c.Missing > 0)
                .OrderByDescending(c => c.Missing),
        ];
    }

    private static FigureCause New(FigureEvidence e) =>
        new(
            FigureCauseKind.New,
            e.New,
            $"{GapCauseText.Number(e.New)} of theirs {(e.New == 1 ? "is" : "are")} of days that ended less than two days ago; look again then."
        );

    /// <summary>Those with evidence, the strongest first, and what none of them explains.</summary>
    private static List<FigureCause> Ordered(decimal missing, IEnumerable<FigureCause> causes, string otherwise)
    {
        var found = causes
            .Where(c => c.Missing > 0)
            .Select(c => c with { Missing = Math.Min(c.Missing, missing) })
            .OrderByDescending(c => c.Missing)
            .ThenBy(c => c.Kind)
            .ToList();

        // A printed code that was reused brings visits that other causes count too.
        decimal rest = missing - found.Where(c => c.Kind != FigureCauseKind.Reused).Sum(c => c.Missing);
        if (rest > 0)
        {
            found.Add(new FigureCause(FigureCauseKind.Unexplained, rest, otherwise));
        }

        return found;
    }

    private static string Times(long number) => number == 1 ? "once" : $"{GapCauseText.Number(number)} times";
}

/// <summary>What is to be said of a gap to another system.</summary>
public enum FigureVerdict
{
    /// <summary>Too few on both sides for any word.</summary>
    TooFew,

    /// <summary>It is small.</summary>
    Quiet,

    /// <summary>It is as it often is.</summary>
    Ordinary,

    /// <summary>It is worth looking into.</summary>
    Finding,

    /// <summary>Ours are more, by over a tenth; that stands apart.</summary>
    More,
}

/// <summary>Why figures differ.</summary>
public enum FigureCauseKind
{
    TagsLost,
    NotMeasured,
    PageBroken,
    Programs,
    DoubleTaps,
    Strays,
    Reused,
    Blocked,
    New,

    /// <summary>Ours came without the other system.</summary>
    WithoutClick,

    /// <summary>Nothing that is known here explains it.</summary>
    Unexplained,
}

/// <summary>A likely cause of a gap to another system.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Missing">How many of the missing ones, or of those too many, it may explain; never more than these.</param>
/// <param name="Says">One sentence or two: what happened and what to do.</param>
public sealed record FigureCause(FigureCauseKind Kind, decimal Missing, string Says);
