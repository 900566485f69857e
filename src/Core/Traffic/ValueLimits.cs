namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// How many different values reports tell apart, so that forged or filled-in ones (an id for each recipient) cost little. What comes
/// beyond stands together (reports, section 1); the value stays with its visit.
/// </summary>
/// <param name="NewPerDay">New values on one day.</param>
/// <param name="InAll">Values in all.</param>
public sealed record ValueLimits(int NewPerDay, int InAll)
{
    /// <summary>What values beyond the limits are called together.</summary>
    public const string Many = "(many values)";

    /// <summary>Values of each tag, and hosts of referrers.</summary>
    public static readonly ValueLimits OfTag = new(1_000, 50_000);

    /// <summary>Keys of tags: anything that begins as the common family does is one (ours).</summary>
    public static readonly ValueLimits OfKeys = new(50, 500);

    /// <summary>Pages, of which a site may well have many at once (ours).</summary>
    public static readonly ValueLimits OfPages = new(10_000, 200_000);

    /// <summary>Models of devices; people have a few thousand (ours).</summary>
    public static readonly ValueLimits OfModels = new(300, 5_000);

    /// <summary>Systems, and browsers; people have a few dozen (ours).</summary>
    public static readonly ValueLimits OfPrograms = new(50, 500);

    /// <summary>Names of events; a site names a few dozen (ours).</summary>
    public static readonly ValueLimits OfEventNames = new(100, 1_000);

    /// <summary>Names of spots; a site has a few dozen as well (ours).</summary>
    public static readonly ValueLimits OfSpots = new(100, 1_000);

    /// <summary>How many more new values a day may bring.</summary>
    /// <param name="newToday">Those it brought already.</param>
    /// <param name="inAll">Those there are in all.</param>
    /// <returns>0 or more.</returns>
    public int Room(long newToday, long inAll) => (int)Math.Max(0, Math.Min(NewPerDay - newToday, InAll - inAll));
}
