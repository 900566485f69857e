namespace PreciseBeacon.Web.Outside;

/// <summary>Something outside could not be fetched; the message is one sentence for the person who asked.</summary>
public sealed class OutsideException : Exception
{
    public OutsideException() { }

    public OutsideException(string message)
        : base(message) { }

    public OutsideException(string message, Exception inner)
        : base(message, inner) { }
}
