namespace PreciseBeacon.Core.Batches;

/// <summary>How a text file is encoded.</summary>
public enum FileEncoding
{
    /// <summary>UTF-8 without a byte order mark.</summary>
    Utf8,

    /// <summary>UTF-8 with a byte order mark.</summary>
    Utf8Marked,

    /// <summary>UTF-16, the low octet first.</summary>
    Utf16Little,

    /// <summary>UTF-16, the high octet first.</summary>
    Utf16Big,

    /// <summary>The Western code page of older spreadsheets.</summary>
    Windows1252,
}
