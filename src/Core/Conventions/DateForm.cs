namespace PreciseBeacon.Core.Conventions;

/// <summary>How a date is written. Weeks are those of ISO 8601.</summary>
public enum DateForm
{
    /// <summary><c>20260301</c></summary>
    PlainDay,

    /// <summary><c>2026-03-01</c></summary>
    Day,

    /// <summary><c>2026-03</c></summary>
    Month,

    /// <summary><c>2026q1</c></summary>
    Quarter,

    /// <summary><c>2026w09</c></summary>
    Week,
}
