using System.Text.Json.Serialization;

namespace PreciseBeacon.Core.Imports;

/// <summary>Why a row of a file is left out.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<ImportProblem>))]
public enum ImportProblem
{
    DayMissing,
    DayUnreadable,
    DayAmbiguous,

    /// <summary>Its day is still to come.</summary>
    DayToCome,

    AmountMissing,
    AmountUnreadable,
    AmountAmbiguous,
    AmountNegative,
    CurrencyUnknown,

    CountUnreadable,
    CountNegative,

    /// <summary>It has no figure at all.</summary>
    FiguresMissing,

    /// <summary>It doesn't say what it is about.</summary>
    TargetMissing,

    LinkUnknown,

    /// <summary>Several links are meant, such as by a title that is given twice.</summary>
    LinkAmbiguous,

    CampaignUnknown,
    PlacementUnknown,
}
