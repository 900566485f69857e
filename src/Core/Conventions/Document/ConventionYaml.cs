using PreciseBeacon.Core.Notices;
using YamlDotNet.Core;
using YamlDotNet.Serialization;
using YamlDotNet.Serialization.NamingConventions;

namespace PreciseBeacon.Core.Conventions.Document;

/// <summary>A convention as one YAML file: what is as usual is left out, so that differences read well.</summary>
public static class ConventionYaml
{
    private static readonly ISerializer Writer = new SerializerBuilder()
        .WithNamingConvention(CamelCaseNamingConvention.Instance)
        .WithEnumNamingConvention(CamelCaseNamingConvention.Instance)
        .ConfigureDefaultValuesHandling(
            DefaultValuesHandling.OmitNull | DefaultValuesHandling.OmitDefaults | DefaultValuesHandling.OmitEmptyCollections
        )
        .WithIndentedSequences()
        .WithQuotingNecessaryStrings()
        .DisableAliases()
        .Build();

    private static readonly IDeserializer Reader = new DeserializerBuilder()
        .WithNamingConvention(CamelCaseNamingConvention.Instance)
        .WithEnumNamingConvention(CamelCaseNamingConvention.Instance)
        .WithTypeMapping<IReadOnlyList<FieldDocument>, List<FieldDocument>>()
        .WithTypeMapping<IReadOnlyList<WordDocument>, List<WordDocument>>()
        .WithTypeMapping<IReadOnlyList<ChannelDocument>, List<ChannelDocument>>()
        .WithTypeMapping<IReadOnlyList<ConditionDocument>, List<ConditionDocument>>()
        .WithTypeMapping<IReadOnlyList<ReferrerDocument>, List<ReferrerDocument>>()
        .WithTypeMapping<IReadOnlyList<ChoiceDocument>, List<ChoiceDocument>>()
        .WithTypeMapping<IReadOnlyList<ReadingSystemDocument>, List<ReadingSystemDocument>>()
        .WithTypeMapping<IReadOnlyList<NamePart>, List<NamePart>>()
        .WithTypeMapping<IReadOnlyDictionary<string, Presence>, Dictionary<string, Presence>>()
        .WithTypeMapping<IReadOnlyDictionary<string, Severity>, Dictionary<string, Severity>>()
        .WithTypeMapping<IReadOnlyList<string>, List<string>>()
        .WithDuplicateKeyChecking()
        .Build();

    public static string Write(ConventionDocument document) => Writer.Serialize(document).ReplaceLineEndings("\n");

    /// <summary>Reads a file.</summary>
    /// <exception cref="ConventionException">It is no such file; the message names the line.</exception>
    public static ConventionDocument Read(string yaml)
    {
        try
        {
            return Reader.Deserialize<ConventionDocument?>(yaml) ?? throw new ConventionException("The file is empty.");
        }
        catch (YamlException broken)
        {
            // The library names types of the code where a whole part is of another kind.
            string says = broken.InnerException?.Message ?? broken.Message;
            throw new ConventionException(
                $"Line {broken.Start.Line}: {(says.Contains(nameof(PreciseBeacon), StringComparison.Ordinal) ? "what stands here is of another kind than belongs here; compare it with a file that was saved from here." : says)}",
                broken
            );
        }
    }
}
