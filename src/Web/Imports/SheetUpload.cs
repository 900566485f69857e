using System.Text.Json;
using PreciseBeacon.Core.Batches;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Hosting;
using RequestSizeLimitAttribute = Microsoft.AspNetCore.Mvc.RequestSizeLimitAttribute;

namespace PreciseBeacon.Web.Imports;

/// <summary>A table sent as a form, with a recipe that names its columns.</summary>
/// <param name="Table">The table.</param>
/// <param name="Name">The file's name, without a path; at most 200 characters.</param>
/// <param name="Recipe">The recipe; null where none was sent.</param>
public sealed record SheetUpload<T>(Table Table, string Name, T? Recipe)
    where T : class;

/// <summary>Reads tables sent as a form.</summary>
public static class SheetUploads
{
    /// <summary>The largest file, in megabytes.</summary>
    public const int MostMegabytes = 50;

    private const int LongestName = 200;

    /// <summary>Says what the call takes and refuses.</summary>
    public static RouteHandlerBuilder TakesSheet(this RouteHandlerBuilder call) =>
        call.ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status413PayloadTooLarge)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity)
            .WithMetadata(new RequestSizeLimitAttribute((MostMegabytes + 1L) << 20));

    /// <summary>Reads the file and the recipe of a form.</summary>
    /// <param name="context">The call.</param>
    /// <param name="of">What the table is of, as in “a table of costs”.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<Outcome<SheetUpload<T>>> ReadAsync<T>(HttpContext context, string of, CancellationToken cancel)
        where T : class
    {
        if (!context.Request.HasFormContentType)
        {
            return Refusal.Invalid("file-missing", "Send the file as “file” of a form (multipart).");
        }

        IFormCollection form;
        try
        {
            form = await context.Request.ReadFormAsync(cancel);
        }
        catch (Exception broken) when (broken is InvalidDataException or IOException)
        {
            return Refusal.Invalid("file-missing", "Send the file as “file” of a form, whole.");
        }

        if (form.Files.GetFile("file") is not { Length: > 0 } sent)
        {
            return Refusal.Invalid("file-missing", $"There is no file, or it is empty; choose a table of {of}.");
        }

        if (sent.Length > (long)MostMegabytes << 20)
        {
            return Refusal.TooLarge("file-too-large", $"A table of {of} has at most {MostMegabytes} MB.");
        }

        T? recipe;
        try
        {
            recipe = form["recipe"].ToString() is { Length: > 0 } json
                ? JsonSerializer.Deserialize<T>(json, JsonSerializerOptions.Web)
                : null;
        }
        catch (JsonException)
        {
            return Refusal.Invalid("recipe-malformed", "The recipe isn't a JSON object that names columns.");
        }

        var file = new MemoryStream();
        await sent.CopyToAsync(file, cancel);
        string name = Path.GetFileName(sent.FileName);
        try
        {
            return new SheetUpload<T>(SheetFile.Read(file.ToArray(), cancel), name.Length is 0 or > LongestName ? of : name, recipe);
        }
        catch (SheetException broken)
        {
            return Refusal.Unacceptable("sheet-refused", broken.Message);
        }
    }
}
