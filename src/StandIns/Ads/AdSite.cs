using MiniExcelLibs;

namespace PreciseBeacon.StandIns.Ads;

/// <summary>The pages of the ad account: its ads with their destinations, and the form that takes a sheet.</summary>
public static class AdSite
{
    private const string Keyword = "winter lights";

    public static void MapAds(this IEndpointRouteBuilder app, AdAccount account)
    {
        var group = app.MapGroup("").RequireHost("ads.localhost");
        group.MapGet("/", () => Show(account, ""));
        group
            .MapPost("/upload", async (HttpContext context, CancellationToken cancel) =>
            {
                var form = context.Request.HasFormContentType ? await context.Request.ReadFormAsync(cancel) : FormCollection.Empty;
                if (form.Files["sheet"] is not { Length: > 0 } file)
                {
                    return Show(account, "<p role=\"alert\">Choose a sheet first.</p>", StatusCodes.Status400BadRequest);
                }

                await using var stream = file.OpenReadStream();
                var upload = account.Take(stream);
                return upload.Refused.Count > 0
                    ? Show(
                        account,
                        $"<div role=\"alert\"><p>Nothing was changed.</p><ul>{string.Concat(upload.Refused.Select(r => $"<li>{PlainPage.Text(r)}</li>"))}</ul></div>",
                        StatusCodes.Status422UnprocessableEntity
                    )
                    : Show(account, $"<p role=\"status\">{upload.Changed} ads changed, {upload.Same} unchanged.</p>");
            })
            .DisableAntiforgery();
        group.MapGet("/export.xlsx", () =>
        {
            var file = new MemoryStream();
            file.SaveAs(
                account.Ads.Select(a => new Dictionary<string, object>
                {
                    ["Ad group"] = a.Group,
                    ["Ad no."] = a.Number,
                    ["Title"] = a.Title,
                    ["Text"] = a.Text,
                    ["Shown address"] = a.ShownAddress,
                    ["Destination URL"] = a.Destination,
                })
            );
            file.Position = 0;
            return Results.File(file, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", "ads.xlsx");
        });
    }

    private static IResult Show(AdAccount account, string said, int status = StatusCodes.Status200OK) =>
        PlainPage.Show(
            "Wendfar ads · Marrowmere",
            said
                + "<form method=\"post\" action=\"/upload\" enctype=\"multipart/form-data\"><label>Sheet <input type=\"file\" name=\"sheet\" aria-label=\"Sheet\"></label> <button>Upload sheet</button> <a href=\"/export.xlsx\">Export</a></form>"
                + $"<p>{account.Ads.Count} ads. A click on an ad fills {{keyword}} with what was searched for, here “{Keyword}”.</p>"
                + "<table><thead><tr><th>Ad no.</th><th>Ad group</th><th>Ad</th><th>Destination URL</th></tr></thead><tbody>"
                + string.Concat(
                    account.Ads.Select(a =>
                        $"<tr><td>{PlainPage.Text(a.Number)}</td><td>{PlainPage.Text(a.Group)}</td><td><a href=\"{PlainPage.Text(a.Destination.Replace("{keyword}", Uri.EscapeDataString(Keyword), StringComparison.Ordinal))}\">{PlainPage.Text(a.Title)}</a> {PlainPage.Text(a.Text)}</td><td class=\"address\">{PlainPage.Text(a.Destination)}</td></tr>"
                    )
                )
                + "</tbody></table>",
            status
        );
}
