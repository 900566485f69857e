using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>A whole convention as people write it, hand it over and keep it in one file.</summary>
public sealed record ConventionDocument
{
    /// <summary>Where links carry their tags unless site or placement say otherwise.</summary>
    public TagStyle Style { get; init; }

    /// <summary>The parameter the code of sealed links stands in; null where none are sealed.</summary>
    public string? SealedKey { get; init; }

    /// <summary>The fields, in the order their tags stand in the URL.</summary>
    public IReadOnlyList<FieldDocument> Fields { get; init; } = [];

    /// <summary>Which words go together.</summary>
    public IReadOnlyList<ChoiceDocument> Choices { get; init; } = [];

    /// <summary>The channels, in the order they claim.</summary>
    public IReadOnlyList<ChannelDocument> Channels { get; init; } = [];

    /// <summary>Kinds of sites the open data set doesn't know, or knows otherwise.</summary>
    public IReadOnlyList<ReferrerDocument> Referrers { get; init; } = [];

    /// <summary>Severities that differ from the usual ones, by the rule's name.</summary>
    public IReadOnlyDictionary<string, Severity> Severities { get; init; } = new Dictionary<string, Severity>();

    /// <summary>Systems that read the links, with the keys they understand.</summary>
    public IReadOnlyList<ReadingSystemDocument> ReadBy { get; init; } = [];

    /// <summary>The convention the rules work with.</summary>
    /// <exception cref="ConventionException">Something in it can't be; the message says what and where.</exception>
    public Convention ToConvention(int version, LinkSettings settings)
    {
        ConventionCheck.ThrowIfWrong(this);
        try
        {
            return new Convention(
                version,
                [.. Fields.Select(f => f.ToField())],
                settings with
                {
                    Style = Style,
                    SealedKey = SealedKey,
                    SealingSecret = SealedKey is null ? null : settings.SealingSecret,
                }
            )
            {
                Choices = [.. Choices.Select(c => new Choice(c.Field, c.Word, c.Narrows, c.To))],
                Channels = new ChannelTable([.. Channels.Select(c => c.ToChannel())]),
                ReferrerKinds = Referrers.ToDictionary(r => r.Host.ToLowerInvariant(), r => r.Kind),
                Severities = Severities.ToDictionary(s => s.Key, s => s.Value, StringComparer.Ordinal),
                ReadBy = [.. ReadBy.Select(r => new ReadingSystem(r.Name, r.Keys))],
            };
        }
        catch (ArgumentException wrong)
        {
            throw new ConventionException(wrong.Message.Split(" (Parameter", StringSplitOptions.None)[0]);
        }
    }
}

/// <summary>A system that reads the links, as written.</summary>
public sealed record ReadingSystemDocument
{
    public string Name { get; init; } = "";

    public IReadOnlyList<string> Keys { get; init; } = [];
}

/// <summary>A dependent choice as written; see <see cref="Choice"/>.</summary>
public sealed record ChoiceDocument
{
    public string Field { get; init; } = "";

    public string Word { get; init; } = "";

    public string Narrows { get; init; } = "";

    public IReadOnlyList<string> To { get; init; } = [];
}
