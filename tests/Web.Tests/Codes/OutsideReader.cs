using System.Diagnostics;

namespace PreciseBeacon.WebTests.Codes;

/// <summary>Debian's tools, which share nothing with what draws the codes: they turn a file into dots and read it.</summary>
internal static class OutsideReader
{
    /// <summary>What zbarimg reads in a file of any of our formats.</summary>
    public static async Task<string> ReadAsync(byte[] file, string ending)
    {
        string folder = Directory.CreateTempSubdirectory("beacon-codes-").FullName;
        try
        {
            string drawn = Path.Combine(folder, $"code.{ending}");
            string dots = Path.Combine(folder, "dots.png");
            await File.WriteAllBytesAsync(drawn, file);
            switch (ending)
            {
                case "svg":
                    await RunAsync("rsvg-convert", "--zoom", "4", "--background-color", "white", "-o", dots, drawn);
                    break;
                case "pdf" or "eps":
                    await RunAsync(
                        "gs",
                        "-q",
                        "-dSAFER",
                        "-dBATCH",
                        "-dNOPAUSE",
                        "-dEPSCrop",
                        "-sDEVICE=pnggray",
                        "-r300",
                        $"-sOutputFile={dots}",
                        drawn
                    );
                    break;
                default:
                    dots = drawn;
                    break;
            }

            return (await RunAsync("zbarimg", "--quiet", "--raw", "-Sdisable", "-Sqrcode.enable", dots)).Trim();
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>What zbarimg reads in the PNG files of a folder, in the order of their names, a line each.</summary>
    public static Task<string> ReadFolderAsync(string folder) =>
        RunAsync(
            "zbarimg",
            ["--quiet", "--raw", "-Sdisable", "-Sqrcode.enable", .. Directory.GetFiles(folder, "*.png").Order(StringComparer.Ordinal)]
        );

    /// <summary>What zbarimg reads on the pages of a PDF, a line each.</summary>
    public static async Task<string> ReadPagesAsync(byte[] pdf)
    {
        string folder = Directory.CreateTempSubdirectory("beacon-codes-").FullName;
        try
        {
            string file = Path.Combine(folder, "sheet.pdf");
            await File.WriteAllBytesAsync(file, pdf);
            await RunAsync(
                "gs",
                "-q",
                "-dSAFER",
                "-dBATCH",
                "-dNOPAUSE",
                "-sDEVICE=pnggray",
                "-r200",
                $"-sOutputFile={Path.Combine(folder, "page%d.png")}",
                file
            );
            return await ReadFolderAsync(folder);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task<string> RunAsync(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var errors = process.StandardError.ReadToEndAsync();
        string output = await process.StandardOutput.ReadToEndAsync();
        await process.WaitForExitAsync();
        _ = await errors;
        return output;
    }
}
