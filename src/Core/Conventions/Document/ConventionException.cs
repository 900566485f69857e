namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>A convention that can't be; the message is one sentence for whoever writes it.</summary>
public sealed class ConventionException : Exception
{
    public ConventionException() { }

    public ConventionException(string message)
        : base(message) { }

    public ConventionException(string message, Exception inner)
        : base(message, inner) { }
}
