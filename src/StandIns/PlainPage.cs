using System.Net;

namespace PreciseBeacon.StandIns;

/// <summary>The plain frame of the stand-ins that are no website of the garden.</summary>
public static class PlainPage
{
    public static IResult Show(string title, string body, int status = StatusCodes.Status200OK) =>
        Results.Text(
            $$"""
            <!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1"><link rel="icon" href="data:,">
            <title>{{Text(
                title
            )}}</title><style>body{margin:0 auto;padding:1.5rem 2rem;max-width:76rem;font:15px/1.5 system-ui,sans-serif;color:#1f2429;background:#fbfbfa}
            h1{font-size:1.4rem}table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:.3rem .8rem .3rem 0;border-bottom:1px solid #ddd;vertical-align:top}
            td.address{font-family:ui-monospace,monospace;font-size:.8rem;word-break:break-all}iframe{width:100%;height:70vh;border:1px solid #ccc;background:#fff}
            [role=alert]{color:#8f1d14}a{color:#22507a}</style></head><body><h1>{{Text(title)}}</h1>{{body}}</body></html>
            """,
            "text/html; charset=utf-8",
            statusCode: status
        );

    public static string Text(string? text) => WebUtility.HtmlEncode(text ?? "");
}
