namespace PreciseBeacon.StandIns.Phone;

/// <summary>A phone: it reads codes from a picture or through the camera, in the browser, and follows them as a scan does.</summary>
public static class PhoneSite
{
    private const string ScriptType = "text/javascript; charset=utf-8";

    public static void MapPhone(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("").RequireHost("phone.localhost");
        group.MapGet("/", () => PlainPage.Show(
                "A phone",
                """
                <p>Drop a picture of a code here, choose one, or use the camera. Where a picture has several codes, point at the one you mean.</p>
                <p><label>Picture <input type="file" accept="image/*" aria-label="Picture" id="picture"></label> <button id="camera">Use the camera</button></p>
                <p id="says" role="status">Nothing was read yet.</p>
                <p><a id="follow" hidden>Follow it</a></p>
                <canvas id="seen" hidden style="max-width:100%;border:1px solid #ccc;cursor:crosshair" role="img" aria-label="What the phone sees"></canvas>
                <video id="live" hidden muted playsinline style="max-width:100%"></video>
                <script src="/reader.js"></script><script src="/phone.js"></script>
                """
            ));
        group.MapGet("/reader.js", () => Script("reader.js"));
        group.MapGet("/phone.js", () => Script("phone.js"));
    }

    private static IResult Script(string name) =>
        Results.Stream(
            typeof(PhoneSite).Assembly.GetManifestResourceStream(name) ?? throw new InvalidOperationException($"{name} is not embedded."),
            ScriptType
        );
}
