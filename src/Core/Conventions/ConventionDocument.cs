using PreciseBeacon.Core.Channels;
using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A whole convention as people write it, hand it over and keep it in one file.</summary>
public sealed record ConventionDocument
{
    /// <summary>The fields, in the order their tags stand in the URL.</summary>
    public IReadOnlyList<FieldDocument> Fields { get; init; } = [];

    /// <summary>The channels, in the order they claim.</summary>
    public IReadOnlyList<ChannelDocument> Channels { get; init; } = [];

    /// <summary>Kinds of sites the open data set doesn't know, or knows otherwise.</summary>
    public IReadOnlyList<ReferrerDocument> Referrers { get; init; } = [];

    /// <summary>The convention the rules work with.</summary>
    /// <exception cref="ConventionException">Something in it can't be; the message says what and where.</exception>
    public Convention ToConvention(int version, LinkSettings settings)
    {
        ThrowIfWrong();
        try
        {
            return new Convention(version, [.. Fields.Select(f => f.ToField())], settings)
            {
                Channels = new ChannelTable([.. Channels.Select(c => c.ToChannel())]),
                ReferrerKinds = Referrers.ToDictionary(r => r.Host.ToLowerInvariant(), r => r.Kind),
            };
        }
        catch (ArgumentException wrong)
        {
            throw new ConventionException(wrong.Message.Split(" (Parameter", StringSplitOptions.None)[0]);
        }
    }

    private void ThrowIfWrong()
    {
        if (Fields.Count == 0)
        {
            throw new ConventionException("A convention needs at least one field.");
        }

        foreach (var field in Fields)
        {
            if (string.IsNullOrWhiteSpace(field.Label))
            {
                throw new ConventionException($"The field “{field.Key}” needs a label.");
            }

            if (field.Words.GroupBy(w => w.Written, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
            {
                throw new ConventionException($"{field.Label}: the word “{twice.Key}” is in the list twice.");
            }

            if (field.LongestValue is < 1 or > 1_000)
            {
                throw new ConventionException($"{field.Label}: the longest value has 1 to 1,000 characters.");
            }
        }

        if (Channels.GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } channel)
        {
            throw new ConventionException($"Two channels are called “{channel.Key}”; give one of them another name.");
        }

        if (Channels.FirstOrDefault(c => c.Conditions.Any(k => k.Test != ChannelTest.Empty && k.Values.Count == 0)) is { } open)
        {
            throw new ConventionException($"The channel “{open.Name}” has a condition without a value.");
        }

        if (Referrers.GroupBy(r => r.Host, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } host)
        {
            throw new ConventionException($"The site “{host.Key}” is listed twice.");
        }
    }
}

/// <summary>How a field's values are chosen.</summary>
public enum ListKind
{
    /// <summary>Free text.</summary>
    None,

    /// <summary>Words that are offered; others are noticed.</summary>
    Open,

    /// <summary>Words, and nothing else.</summary>
    Closed,
}

/// <summary>A field as written.</summary>
public sealed record FieldDocument
{
    public string Key { get; init; } = "";

    public string Label { get; init; } = "";

    public Presence Presence { get; init; } = Presence.Offered;

    public ListKind List { get; init; }

    public LetterCase Case { get; init; }

    public SpaceRule Space { get; init; }

    public CharacterSet Characters { get; init; } = CharacterSet.Anything;

    public OutsideSet Outside { get; init; }

    public bool Transliterate { get; init; }

    public int LongestValue { get; init; } = 200;

    public bool HoldsNumbers { get; init; }

    public IReadOnlyList<string> AlsoRead { get; init; } = [];

    public string? Hint { get; init; }

    public string? Example { get; init; }

    public IReadOnlyList<WordDocument> Words { get; init; } = [];

    /// <summary>How the field writes values.</summary>
    public ValueRules ToRules() => new(Case, Space, Characters, Outside, Transliterate, LongestValue);

    /// <summary>The field the rules work with.</summary>
    public Field ToField() => new()
    {
        Key = Key,
        Label = Label,
        Presence = Presence,
        Rules = ToRules(),
        Words = List == ListKind.None ? null : new WordList([.. Words.Select(w => new Word(w.Written, w.Label.Length == 0 ? w.Written : w.Label, w.Aliases, w.Retired, w.Successor))], ToRules()),
        ClosedList = List == ListKind.Closed,
        HoldsNumbers = HoldsNumbers,
        AlsoRead = AlsoRead,
        Hint = Hint,
        Example = Example,
    };
}

/// <summary>A word as written.</summary>
public sealed record WordDocument
{
    public string Written { get; init; } = "";

    public string Label { get; init; } = "";

    public IReadOnlyList<string> Aliases { get; init; } = [];

    public bool Retired { get; init; }

    public string? Successor { get; init; }
}

/// <summary>A channel as written.</summary>
public sealed record ChannelDocument
{
    public string Name { get; init; } = "";

    public string Group { get; init; } = "";

    public IReadOnlyList<ConditionDocument> Conditions { get; init; } = [];

    public static ChannelDocument Of(Channel channel) => new()
    {
        Name = channel.Name,
        Group = channel.Group,
        Conditions = [.. channel.Conditions.Select(c => new ConditionDocument { Subject = c.Subject, Test = c.Test, Values = c.Values })],
    };

    public Channel ToChannel() => new(Name, Group, [.. Conditions.Select(c => new ChannelCondition(c.Subject, c.Test, c.Values))]);
}

/// <summary>A channel's condition as written.</summary>
public sealed record ConditionDocument
{
    public ChannelSubject Subject { get; init; }

    public ChannelTest Test { get; init; }

    public IReadOnlyList<string> Values { get; init; } = [];
}

/// <summary>What kind of site a host is.</summary>
public sealed record ReferrerDocument
{
    public string Host { get; init; } = "";

    public ReferrerKind Kind { get; init; }
}
