using System.Globalization;
using MiniExcelLibs;

namespace PreciseBeacon.StandIns.Ads;

/// <summary>What came of a sheet that was uploaded.</summary>
/// <param name="Changed">Ads that are different now.</param>
/// <param name="Same">Ads that stay as they were.</param>
/// <param name="Refused">Why nothing was taken, one sentence for each row; empty when the sheet was taken.</param>
public sealed record AdUpload(int Changed, int Same, IReadOnlyList<string> Refused);

/// <summary>
/// An account of the invented search engine Wendfar. It takes a sheet whose headings may stand in any order, whole or not at
/// all, and is as strict as such places are.
/// </summary>
public sealed class AdAccount
{
    private const int LongestDestination = 2_048;
    private const int MostRefusals = 50;
    private static readonly string[] Required = ["Ad no.", "Ad group", "Title", "Text", "Destination URL"];

    private readonly Lock _lock = new();
    private readonly SortedDictionary<string, Ad> _ads = new(StringComparer.Ordinal);

    /// <summary>An account with the ads of a sheet in it, or an empty one.</summary>
    public static AdAccount Of(string? sheet)
    {
        var account = new AdAccount();
        if (sheet is not null && File.Exists(sheet))
        {
            using var file = File.OpenRead(sheet);
            account.Take(file, isNew: true);
        }

        return account;
    }

    public IReadOnlyList<Ad> Ads
    {
        get
        {
            lock (_lock)
            {
                return [.. _ads.Values];
            }
        }
    }

    /// <summary>Takes a sheet.</summary>
    /// <param name="file">XLSX or CSV.</param>
    /// <param name="isNew">True when ads the account doesn't know are added instead of refused.</param>
    public AdUpload Take(Stream file, bool isNew = false)
    {
        using var sheet = new MemoryStream();
        file.CopyTo(sheet);
        sheet.Position = 0;
        List<List<string>> rows;
        try
        {
            var type = sheet.Length > 2 && sheet.GetBuffer()[0] == 'P' && sheet.GetBuffer()[1] == 'K' ? ExcelType.XLSX : ExcelType.CSV;
            rows =
            [
                .. sheet
                    .Query(useHeaderRow: false, excelType: type)
                    .Cast<IDictionary<string, object?>>()
                    .Select(r => r.Values.Select(v => Convert.ToString(v, CultureInfo.InvariantCulture) ?? "").ToList()),
            ];
        }
        catch (Exception broken)
            when (broken
                    is InvalidDataException
                        or System.Xml.XmlException
                        or NotSupportedException
                        or InvalidOperationException
                        or IOException
            )
        {
            return new AdUpload(0, 0, ["The file can't be read; upload XLSX or CSV."]);
        }

        var headings = rows.Count == 0 ? [] : rows[0].Select(h => h.Trim('\uFEFF', ' ')).ToList();
        var missing = Required.Where(h => !headings.Contains(h)).ToList();
        if (missing.Count > 0)
        {
            return new AdUpload(0, 0, [.. missing.Select(h => $"The column “{h}” is missing.")]);
        }

        lock (_lock)
        {
            var taken = new List<Ad>();
            var refused = new List<string>();
            for (int i = 1; i < rows.Count; i++)
            {
                string Cell(string heading) => headings.IndexOf(heading) is var at and >= 0 && at < rows[i].Count ? rows[i][at] : "";
                var ad = new Ad(
                    Cell("Ad no."),
                    Cell("Ad group"),
                    Cell("Title"),
                    Cell("Text"),
                    Cell("Shown address"),
                    Cell("Destination URL")
                );
                if (WhyRefused(ad, isNew) is { } why)
                {
                    refused.Add($"Row {i + 1}: {why}");
                }

                taken.Add(ad);
            }

            if (refused.Count > 0)
            {
                return new AdUpload(
                    0,
                    0,
                    refused.Count > MostRefusals
                        ? [.. refused.Take(MostRefusals), $"… and {refused.Count - MostRefusals} rows more."]
                        : refused
                );
            }

            int changed = taken.Count(a => _ads.GetValueOrDefault(a.Number) != a);
            taken.ForEach(a => _ads[a.Number] = a);
            return new AdUpload(changed, taken.Count - changed, []);
        }
    }

    private string? WhyRefused(Ad ad, bool isNew) =>
        ad.Number.Length == 0 ? "it has no “Ad no.”."
        : !isNew && !_ads.ContainsKey(ad.Number) ? $"this account has no ad {ad.Number}."
        : ad.Title.Length == 0 ? "its “Title” is empty."
        : ad.Destination.Length > LongestDestination ? $"its “Destination URL” is longer than {LongestDestination} characters."
        : ad.Destination.Any(char.IsWhiteSpace)
        || !Uri.TryCreate(ad.Destination, UriKind.Absolute, out var url)
        || url.Scheme is not ("http" or "https")
            ? "its “Destination URL” isn't a web address."
        : ad.Destination.Contains("%7Bkeyword%7D", StringComparison.OrdinalIgnoreCase)
            ? "its placeholder is encoded and would never be filled in; write {keyword}."
        : ad.ShownAddress.Length > 0 && !ad.ShownAddress.Split('/')[0].Equals(url.Host, StringComparison.OrdinalIgnoreCase)
            ? $"it shows {ad.ShownAddress} and leads to {url.Host}."
        : null;
}
