namespace PreciseBeacon.Core.Notices;

/// <summary>How grave a notice is, gravest last.</summary>
public enum Severity
{
    /// <summary>Worth knowing; nothing has to be done.</summary>
    Info,

    /// <summary>Probably wrong; the link is made all the same.</summary>
    Warning,

    /// <summary>Certainly wrong; the link is not saved.</summary>
    Error,
}
