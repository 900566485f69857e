namespace PreciseBeacon.Core.Codes;

/// <summary>A text no QR code can hold.</summary>
public sealed class CodeTooLongException : Exception
{
    public CodeTooLongException() { }

    public CodeTooLongException(string message)
        : base(message) { }

    public CodeTooLongException(string message, Exception inner)
        : base(message, inner) { }
}
