namespace PreciseBeacon.Core.Batches;

/// <summary>A sheet that can't be read, or is too large; the message is one sentence for whoever brings it.</summary>
public sealed class SheetException : Exception
{
    public SheetException() { }

    public SheetException(string message)
        : base(message) { }

    public SheetException(string message, Exception inner)
        : base(message, inner) { }
}
