namespace PreciseBeacon.Core.Conventions;

/// <summary>How a pasted word stands to a list.</summary>
public enum PastedVerdict
{
    /// <summary>Like none in the list.</summary>
    Fresh,

    /// <summary>In the list already, or pasted twice.</summary>
    Already,

    /// <summary>Another name of a word in the list.</summary>
    Alias,

    /// <summary>The same letters as a word, apart from case and separators.</summary>
    SameLetters,

    /// <summary>One or two slips away from a word.</summary>
    Near,

    /// <summary>Nothing of it is left in the field's written form.</summary>
    Unusable,
}
