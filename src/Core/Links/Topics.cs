using System.Text;

namespace PreciseBeacon.Core.Links;

/// <summary>Words of the workspace's own to find links by; they are in no address.</summary>
public static class Topics
{
    /// <summary>Most of them on one link.</summary>
    public const int Most = 20;

    private const int Longest = 40;

    /// <summary>Topics as they are kept: lower case, outer and doubled white space taken away, each once, in the order of their characters.</summary>
    /// <param name="typed">As somebody typed them; empty ones are passed over.</param>
    /// <param name="problem">Why they can't be, in one sentence; null when they can.</param>
    public static string[] Read(IEnumerable<string?> typed, out string? problem)
    {
        string[] read =
        [
            .. typed
                .Select(t =>
                    string.Join(
                        ' ',
                        (t ?? "")
                            .Normalize(NormalizationForm.FormC)
                            .ToLowerInvariant()
                            .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
                    )
                )
                .Where(t => t.Length > 0)
                .Distinct()
                .Order(StringComparer.Ordinal),
        ];
        problem =
            read.FirstOrDefault(t => t.Length > Longest) is { } large
                ? $"“{large[..Longest]}…” is longer than the {Longest} characters allowed for a topic; shorten it."
            : read.FirstOrDefault(t => t.Any(char.IsControl) || t.Contains(',', StringComparison.Ordinal)) is { } strange
                ? $"“{strange}” contains a comma or an invisible character; enter topics one by one."
            : read.Length > Most ? $"A link has at most {Most} topics; remove some."
            : null;
        return read;
    }
}
