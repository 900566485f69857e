using System.Text.Json;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Web.Imports;

/// <summary>Why rows of files are left out, as sentences.</summary>
public static class ImportProblemText
{
    /// <summary>How many rows are left out, by why, as calls name it.</summary>
    public static Dictionary<string, int> Skipped(IReadOnlyDictionary<ImportProblem, int> skipped) =>
        skipped.ToDictionary(s => JsonNamingPolicy.CamelCase.ConvertName(s.Key.ToString()), s => s.Value);

    /// <summary>A sentence with the way out.</summary>
    /// <param name="problem">Why the row is left out.</param>
    /// <param name="about">The text that is the problem; empty for none.</param>
    public static string Of(ImportProblem problem, string about) =>
        problem switch
        {
            ImportProblem.DayMissing => "There is no day.",
            ImportProblem.DayUnreadable => $"“{about}” isn't a day; write it like 2026-11-30.",
            ImportProblem.DayAmbiguous => $"“{about}” could be two days; say whether the day or the month stands first.",
            ImportProblem.DayToCome => $"“{about}” is still to come; import it when it is over.",
            ImportProblem.AmountMissing => "There is no amount.",
            ImportProblem.AmountUnreadable => $"“{about}” isn't an amount.",
            ImportProblem.AmountAmbiguous => $"“{about}” could be two amounts; say whether a point or a comma parts the decimals.",
            ImportProblem.AmountNegative => $"“{about}” is below zero; write 0 or more.",
            ImportProblem.CurrencyUnknown => $"“{about}” isn't a currency; write an ISO 4217 code such as EUR.",
            ImportProblem.CountUnreadable => $"“{about}” isn't a count; write a whole number.",
            ImportProblem.CountNegative => $"“{about}” is below zero; a count is 0 or more.",
            ImportProblem.FiguresMissing => "It has no figure.",
            ImportProblem.TargetMissing => "It names no link, campaign, placement or value.",
            ImportProblem.LinkUnknown => $"No link of the Ledger is “{about}”.",
            ImportProblem.LinkAmbiguous => $"Several links are called “{about}”; write the short URL.",
            ImportProblem.CampaignUnknown => $"No campaign is called “{about}”; add it to the plan, or correct its name.",
            ImportProblem.PlacementUnknown => $"No placement is called “{about}”; add it to the plan, or correct its name.",
            _ => "",
        };
}
