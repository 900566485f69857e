namespace PreciseBeacon.Web.Hosting;

/// <summary>Answers for tools that can only call an address and show what comes back: one plain line, also where something is wrong.</summary>
public static class PlainLine
{
    /// <summary>The line.</summary>
    public static IResult Of(int status, string sentence) =>
        Results.Text(sentence.ReplaceLineEndings(" "), "text/plain; charset=utf-8", statusCode: status);
}
