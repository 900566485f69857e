using PreciseBeacon.Core.Conventions.Document;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Conventions;

/// <summary>A convention going out as a sheet, and a file coming in: first read and compared, saved only by who has seen the difference.</summary>
public static class ConventionFileEndpoints
{
    private const int LargestFile = 8;

    public static void MapFiles(RouteGroupBuilder group)
    {
        group
            .MapGet("/sheet.xlsx", SheetAsync)
            .WithName("ReadConventionSheet")
            .WithSummary("Gives the convention as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
        group
            .MapPost("/read-file", ReadFileAsync)
            .WithName("ReadConventionFile")
            .WithSummary("Reads a convention from YAML or a workbook, and stores nothing.")
            .For(Caller.Owner)
            .Produces<FileRead>();
        group
            .MapGet("/difference", DifferenceAsync)
            .WithName("CompareConventions")
            .WithSummary("Compares two versions of the convention.")
            .For(Caller.Readers);
    }

    private static async Task<IResult> SheetAsync(ConventionStore store, CancellationToken cancel, string? version = null) =>
        await store.FindAsync(version, cancel) is not { } found
            ? Refusal.NotFound("version of the convention").ToResult()
            : Results.Bytes(ConventionSheet.Write(ConventionRows.DocumentOf(found)), ConventionSheet.ContentType, "convention.xlsx");

    /// <summary>
    /// Reads a YAML file or an XLSX workbook, told apart by what is in it, and compares it with the draft, or with what
    /// holds while there is none. Stores nothing.
    /// </summary>
    private static async Task<IResult> ReadFileAsync(HttpContext context, ConventionStore store, CancellationToken cancel)
    {
        var (file, refusal) = await UploadedFile.ReadAsync(context, LargestFile, "A convention's file", cancel);
        if (refusal is not null)
        {
            return refusal.ToResult();
        }

        try
        {
            var document = Read(file);
            if ((await store.WorkUpAsync(document, cancel)).Refusal is { } wrong)
            {
                return wrong.ToResult();
            }

            var now = await store.FindAsync("draft", cancel) ?? await store.FindAsync(null, cancel);
            return TypedResults.Ok(new FileRead(document, ConventionDifference.Between(ConventionRows.DocumentOf(now!), document)));
        }
        catch (ConventionException broken)
        {
            return Refusal.Unacceptable("file-refused", broken.Message).ToResult();
        }
    }

    /// <summary><c>before</c> and <c>after</c> are numbers of versions, or <c>draft</c>.</summary>
    private static async Task<IResult> DifferenceAsync(ConventionStore store, string before, string after, CancellationToken cancel) =>
        await store.FindAsync(before, cancel) is { } one && await store.FindAsync(after, cancel) is { } other
            ? TypedResults.Ok(ConventionDifference.Between(ConventionRows.DocumentOf(one), ConventionRows.DocumentOf(other)))
            : Refusal.NotFound("version of the convention").ToResult();

    private static ConventionDocument Read(MemoryStream file)
    {
        file.Position = 0;
        if (UploadedFile.IsZip(file))
        {
            return ConventionSheet.Read(file);
        }

        try
        {
            using var text = new StreamReader(file, new System.Text.UTF8Encoding(false, throwOnInvalidBytes: true));
            string yaml = text.ReadToEnd();
            return yaml.Contains('\0', StringComparison.Ordinal)
                ? throw new ConventionException("The file is neither YAML nor an XLSX workbook.")
                : ConventionYaml.Read(yaml);
        }
        catch (System.Text.DecoderFallbackException broken)
        {
            throw new ConventionException("The file is neither YAML in UTF-8 nor an XLSX workbook.", broken);
        }
    }
}
