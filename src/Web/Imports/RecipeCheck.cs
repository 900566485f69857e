using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Imports;

/// <summary>Checks the part that recipes of tables have in common.</summary>
public static class RecipeCheck
{
    /// <summary>Why a recipe can't be followed; null where it can.</summary>
    /// <param name="missing">A column it names that the file does not have; null for none.</param>
    /// <param name="sign">The sign that parts decimals; null where each row says so.</param>
    /// <param name="values">Columns of written values, by field key.</param>
    /// <param name="convention">The convention the fields are of.</param>
    public static Refusal? Refused(string? missing, string? sign, IReadOnlyDictionary<string, string>? values, Convention convention) =>
        missing is not null ? Refused($"The file has no column “{missing}”; choose one it has.")
        : sign is not (null or "." or ",") ? Refused("“decimal” is a point or a comma.")
        : values?.Keys.FirstOrDefault(k => convention.Find(k) is null) is { } strange
            ? Refused($"The convention has no field “{strange}”; leave it out.")
        : null;

    private static Refusal Refused(string says) => Refusal.Invalid("recipe-refused", says);
}
