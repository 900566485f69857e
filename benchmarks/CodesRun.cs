using System.Diagnostics;
using PreciseBeacon.Core.Codes;
using PreciseBeacon.Web.Codes;
using QRCoder;

namespace PreciseBeacon.Bench;

/// <summary>10,000 codes of short links as SVG in a zip, beside QRCoder's matrix of the same texts alone.</summary>
public static class CodesRun
{
    private const int Codes = 10_000;
    private const int Pairs = 9;

    public static async Task<Report> MeasureAsync()
    {
        var urls = Enumerable.Range(0, Codes).Select(i => $"https://mmr.example/{i:x6}").ToList();
        var style = new CodeStyle();
        var ours = new List<double>();
        var reference = new List<double>();
        long sink = 0;
        for (int pair = -1; pair < Pairs; pair++)
        {
            long began = Stopwatch.GetTimestamp();
            using var zip = new MemoryStream();
            await CodeZip.WriteAsync(
                zip,
                urls.Select((u, i) => ($"{i:D5}", CodeDrawing.Of(u, style))).ToAsyncEnumerable(),
                CodeFormat.Svg,
                DateTimeOffset.UnixEpoch,
                CancellationToken.None
            );
            double drawing = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            began = Stopwatch.GetTimestamp();
            foreach (string url in urls)
            {
                using var code = QRCodeGenerator.GenerateQrCode(url, QRCodeGenerator.ECCLevel.M);
                sink += code.ModuleMatrix.Count;
            }

            double matrices = Stopwatch.GetElapsedTime(began).TotalMilliseconds;
            sink += zip.Length;
            if (pair >= 0)
            {
                ours.Add(drawing);
                reference.Add(matrices);
            }
        }

        return sink == 0
            ? throw new InvalidOperationException("Nothing was drawn.")
            : new Report("10,000 codes as SVG in a zip", "≤ 2", ours, reference, "ms");
    }
}
