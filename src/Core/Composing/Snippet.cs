using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Composing;

/// <summary>The tags alone, for the parameter field of a tool that knows its pages itself. Placeholders stay literal.</summary>
/// <param name="ParameterText">The tags without a <c>?</c>.</param>
/// <param name="Encoded">The same percent-encoded once more, for use inside another URL's parameter.</param>
/// <param name="Fields">All fields of the convention in order.</param>
/// <param name="Notices">Everything there is to say, gravest first.</param>
public sealed record Snippet(string ParameterText, string Encoded, IReadOnlyList<ComposedField> Fields, IReadOnlyList<Notice> Notices)
{
    /// <summary>Stands for whichever page the tool will put the tags on; the name is reserved and never answers (RFC 2606).</summary>
    internal static readonly Destination AnyPage = DestinationReader.Read("https://page.invalid/").Destination!;

    /// <summary>True when it may be used.</summary>
    public bool Ready => Notices.All(n => n.Severity != Severity.Error);
}
