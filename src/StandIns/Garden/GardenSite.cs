using System.Globalization;
using System.Net;
using System.Text.Json;

namespace PreciseBeacon.StandIns.Garden;

/// <summary>The garden's website: real pages, measured by the real script, with a shop that takes orders and no money.</summary>
public static class GardenSite
{
    private const int MostPerOrder = 20;

    private static int _orders;

    public static void MapGarden(this IEndpointRouteBuilder app, GardenOptions options, ShopServer shop)
    {
        foreach (var page in GardenPage.All)
        {
            app.MapGet(page.Path, () => Html(Draw(options, page.Title, Body(page))));
        }

        // An old address that still stands on leaflets; whoever set its redirect up forgot what may stand behind it.
        app.MapGet("/lanterns", () => Results.Redirect("/lantern-nights", permanent: true));

        // The sitemaps protocol 0.9, as most sites have one.
        app.MapGet("/sitemap.xml", (HttpContext context) =>
            Results.Text(
                "<?xml version=\"1.0\" encoding=\"UTF-8\"?><urlset xmlns=\"http://www.sitemaps.org/schemas/sitemap/0.9\">"
                    + string.Concat(
                        GardenPage.All.Select(p =>
                            $"<url><loc>http://{WebUtility.HtmlEncode(context.Request.Host.Value)}{p.Path}</loc></url>"
                        )
                    )
                    + "</urlset>",
                "application/xml; charset=utf-8"
            )
        );

        app.MapPost("/order", async (HttpContext context, CancellationToken cancel) =>
            {
                var form = await context.Request.ReadFormAsync(cancel);
                var page = GardenPage.All.FirstOrDefault(p => p.Path == form["page"].ToString());
                if (
                    page?.Offer is not { } offer
                    || !int.TryParse(form["count"], CultureInfo.InvariantCulture, out int count)
                    || count is < 1 or > MostPerOrder
                )
                {
                    return Html(
                        Draw(
                            options,
                            "Not possible",
                            $"<p>Choose 1 to {MostPerOrder} of something we offer. <a href=\"/\">Back to the garden</a></p>"
                        ),
                        StatusCodes.Status400BadRequest
                    );
                }

                // The order's number goes along in the address, so that a reload thanks again and counts once.
                string order = $"G{DateTimeOffset.UtcNow.ToUnixTimeMilliseconds()}-{Interlocked.Increment(ref _orders)}";
                await shop.PlacedAsync(context.Request.Host.Value ?? "", order, offer, count, cancel);
                return Results.Redirect($"/thanks?order={order}&page={Uri.EscapeDataString(page.Path)}&count={count}");
            })
            .DisableAntiforgery();

        app.MapPost("/return", async (HttpContext context, CancellationToken cancel) =>
            {
                var form = await context.Request.ReadFormAsync(cancel);
                string order = form["order"].ToString();
                if (GardenPage.All.FirstOrDefault(p => p.Path == form["page"].ToString())?.Offer is { } offer && order.Length > 0)
                {
                    await shop.RefundedAsync(context.Request.Host.Value ?? "", order, offer, cancel);
                }

                return Html(
                    Draw(options, "Given back", "<p>You get the price of one back within a week. <a href=\"/\">Back to the garden</a></p>")
                );
            })
            .DisableAntiforgery();

        app.MapGet("/thanks", (string? order, string? page, int count = 1) =>
        {
            var bought = GardenPage.All.FirstOrDefault(p => p.Path == page)?.Offer;
            return bought is null || string.IsNullOrEmpty(order)
                ? Results.Redirect("/")
                : Html(Draw(options, "Thank you", Thanks(order, page!, bought, Math.Clamp(count, 1, MostPerOrder))));
        });
    }

    private static string Body(GardenPage page) =>
        $"<p>{WebUtility.HtmlEncode(page.Text)}</p>"
        + (
            page.Offer is not { } offer
                ? ""
                : $"""
                    <form method="post" action="/order" onsubmit="window.beacon &amp;&amp; beacon.event('basket begun')"><input type="hidden" name="page" value="{page.Path}">
                    <label>How many <input name="count" type="number" min="1" max="{MostPerOrder}" value="1"></label>
                    <button type="submit">Book: {WebUtility.HtmlEncode(offer.Name)}, € {offer.Price.ToString(
                        "0.00",
                        CultureInfo.InvariantCulture
                    )}</button></form>
                    """
        );

    private static string Thanks(string order, string page, GardenOffer offer, int count)
    {
        string data = JsonSerializer.Serialize(
            new
            {
                id = order,
                kind = offer.Kind,
                value = offer.Price * count,
                currency = "EUR",
                items = new[]
                {
                    new
                    {
                        name = offer.Name,
                        category = offer.Kind,
                        count,
                        value = offer.Price,
                    },
                },
            },
            JsonSerializerOptions.Web
        );
        return $"""
            <p>Your order <strong id="order">{WebUtility.HtmlEncode(order)}</strong> is in: {count} × {WebUtility.HtmlEncode(
                offer.Name
            )}. We look forward to seeing you.</p>
            <form method="post" action="/return"><input type="hidden" name="order" value="{WebUtility.HtmlEncode(order)}">
            <input type="hidden" name="page" value="{WebUtility.HtmlEncode(page)}"><button type="submit">Give one back</button></form>
            <script type="application/json" data-beacon="order">{data}</script>
            """;
    }

    private static string Draw(GardenOptions options, string title, string body)
    {
        string menu = string.Concat(GardenPage.All.Skip(1).Select(p => $"<a href=\"{p.Path}\">{WebUtility.HtmlEncode(p.Title)}</a>"));
        return $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
            <link rel="icon" href="data:,"><title>{{WebUtility.HtmlEncode(title)}}</title>
            <style>body{margin:0;font:17px/1.55 Georgia,serif;color:#23301f;background:#f3f5ec}header{background:#2f4a32;color:#f3f5ec;padding:1.6rem 2rem}
            header a{color:inherit;text-decoration:none;font-size:1.3rem}nav{padding:.8rem 2rem;display:flex;flex-wrap:wrap;gap:.4rem 1.2rem;border-bottom:1px solid #cfd6c0}
            nav a{color:#2f4a32}main{max-width:42rem;padding:2rem}button{font:inherit;padding:.5rem 1rem;background:#2f4a32;color:#fff;border:0;cursor:pointer}input{font:inherit;width:4rem}
            aside{margin-top:2rem;padding:1rem;border:1px solid #cfd6c0;background:#fff}aside a{color:#2f4a32}form{display:flex;gap:1rem;align-items:center;flex-wrap:wrap}</style>
            <script async src="{{options.BeaconUrl}}/beacon.js" data-key="{{options.MeasuringKey}}" data-keep-id></script></head>
            <body><header><a href="/">Marrowmere Botanic Garden</a></header><nav>{{menu}}</nav><main><h1>{{WebUtility.HtmlEncode(
                title
            )}}</h1>{{body}}{{(
                title == "Membership"
                    ? ""
                    : "<aside data-beacon-spot=\"membership banner\"><a href=\"/membership\">Come as often as you like: membership for a year</a></aside>"
            )}}</main></body></html>
            """;
    }

    private static IResult Html(string page, int status = StatusCodes.Status200OK) =>
        Results.Text(page, "text/html; charset=utf-8", statusCode: status);
}
