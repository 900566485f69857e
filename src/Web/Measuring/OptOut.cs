namespace PreciseBeacon.Web.Measuring;

/// <summary>Whether a browser asks on behalf of its user not to be followed.</summary>
public static class OptOut
{
    private const string Yes = "1";

    /// <summary>Global Privacy Control (W3C draft, <c>Sec-GPC: 1</c>) or Do Not Track (W3C note, <c>DNT: 1</c>).</summary>
    public static bool Asks(IHeaderDictionary headers) => headers["Sec-GPC"] == Yes || headers["DNT"] == Yes;
}
