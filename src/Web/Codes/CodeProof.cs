using PreciseBeacon.Core.Codes;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Web.Codes;

/// <summary>Has an independent reader look at a code before it is offered.</summary>
public static class CodeProof
{
    /// <summary>What is known about a code and whether it reads.</summary>
    /// <param name="drawing">The code.</param>
    /// <param name="shortUrl">The short link in it; null for a long link.</param>
    /// <param name="format">The format it is wanted in; null when that is not known yet.</param>
    public static CodeAnswer Prove(CodeDrawing drawing, string? shortUrl, CodeFormat? format = null)
    {
        var facts = CodeJudge.Judge(drawing, shortUrl);
        if (!CodeReader.IsThere)
        {
            return new CodeAnswer(
                facts,
                [],
                CodeVerdict.Unproven,
                "Not tested: the reader isn't installed on this server (Debian’s libzbar0).",
                CodeSvg.Draw(drawing)
            );
        }

        var trials = ScanTrial.Of(drawing).Select(t => new TrialAnswer(t.Name, CodeReader.Read(t).Contains(drawing.Says))).ToList();
        bool pictureReads = true;
        if (format is null or CodeFormat.Png or CodeFormat.Jpg && ScanTrial.OfPicture(drawing, format ?? CodeFormat.Png) is { } picture)
        {
            pictureReads = CodeReader.Read(picture).Contains(drawing.Says);
            trials.Add(new TrialAnswer(picture.Name, pictureReads));
        }

        var (verdict, sentence) = Verdict(facts, trials, pictureReads, format);
        return new CodeAnswer(facts, trials, verdict, sentence, CodeSvg.Draw(drawing));
    }

    /// <summary>Why a code is not handed out; null when it is.</summary>
    public static string? WhyNot(CodeAnswer proof) => proof.Verdict == CodeVerdict.Unreadable ? proof.Sentence : null;

    /// <summary>Proves many by a sample; see <see cref="CodeSample"/>.</summary>
    /// <returns>How many were read, and the first that does not read, with the reason.</returns>
    public static (int Read, string? Says, string? Reason) ProveMany(
        IReadOnlyList<CodeDrawing> codes,
        CodeFormat? format,
        CancellationToken cancel
    )
    {
        var sample = new CodeSample(format);
        foreach (var code in codes)
        {
            cancel.ThrowIfCancellationRequested();
            if (sample.WhyNot(code) is { } reason)
            {
                return (sample.Read, code.Says, reason);
            }
        }

        return (sample.Read, null, null);
    }

    private static (CodeVerdict Verdict, string Sentence) Verdict(
        CodeFacts facts,
        List<TrialAnswer> trials,
        bool pictureReads,
        CodeFormat? format
    )
    {
        if (facts.Notices.FirstOrDefault(n => n.Severity == Severity.Error) is { } stop)
        {
            return (CodeVerdict.Unreadable, stop.Message);
        }

        if (!trials[0].Reads)
        {
            return (CodeVerdict.Unreadable, "The reader could not read it; use plainer colours, a smaller logo or more error correction.");
        }

        if (!pictureReads)
        {
            string why =
                $"{facts.Dots} × {facts.Dots} dots are too few, {facts.DotsPerModule} to a module; make it larger or raise the resolution";
            return format is null
                ? (CodeVerdict.Doubtful, $"It scans as SVG, PDF or EPS, but not as PNG or JPG: {why}.")
                : (CodeVerdict.Unreadable, $"A picture of this size doesn’t scan: {why}, or take SVG, PDF or EPS.");
        }

        var failed = trials.Where(t => !t.Reads).Select(t => t.Name).ToList();
        return failed.Count > 0
                ? (
                    CodeVerdict.Doubtful,
                    $"It scans as drawn, but not when {string.Join(" or ", failed.Select(f => f == ScanTrial.FromAfar ? "seen from afar" : f))}; print it larger, or use more contrast or a smaller logo."
                )
            : facts.Notices.Any(n => n.Severity == Severity.Warning)
                ? (CodeVerdict.Doubtful, "It scans, also from afar, out of focus and held askew; check the notices below before printing.")
            : (CodeVerdict.Scans, "It scans: as drawn, from afar, out of focus and held askew.");
    }
}
