namespace PreciseBeacon.Core.ShortLinks;

/// <summary>The slugs a process knows to be taken. One it doesn't know may be taken all the same, a moment ago.</summary>
public interface IKnownSlugs
{
    /// <summary>How many slugs a short domain has.</summary>
    /// <param name="host">The domain, with a port where there is one.</param>
    long CountOn(string host);

    /// <summary>Whether a slug is taken on a short domain; case doesn't matter.</summary>
    bool IsTaken(string host, string slug);
}
