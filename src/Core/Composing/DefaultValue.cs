using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.Core.Composing;

/// <summary>Finds a placement's default value of a field and fills it: <c>@{page}</c>, <c>@{campaign}</c>, <c>@{placement}</c>, a date, or an attribute of the campaign.</summary>
internal static class DefaultValue
{
    /// <summary>The default of a field; it stays with its field when the key is renamed. Null where there is none.</summary>
    public static string? Of(Convention convention, PlacementChoice placement, Field field)
    {
        if (placement.Defaults.TryGetValue(field.Key, out string? value))
        {
            return value;
        }

        foreach (var (name, template) in placement.Defaults)
        {
            if (convention.Find(name)?.Key == field.Key)
            {
                return template;
            }
        }

        return null;
    }

    /// <summary>The default with its fill-ins filled, and the names of those that are missing here.</summary>
    public static (string Value, IReadOnlyList<string> Missing) Fill(
        string template,
        LinkRequest request,
        Destination? destination,
        DateOnly today
    ) => FillIns.In(template) ? FillIns.Fill(template, name => ValueOf(name, request, destination, today)) : (template, []);

    private static string? ValueOf(string name, LinkRequest request, Destination? destination, DateOnly today)
    {
        var campaign = request.Campaign;
        return name.ToLowerInvariant() switch
        {
            "page" => destination is null ? null
            : LastOf(destination.Path) is { Length: > 0 } last ? last
            : "home",
            "campaign" => campaign?.Name,
            "placement" => request.Placement?.Name,
            "day" => DateText.Write(today, DateForm.Day),
            "month" => DateText.Write(campaign?.Starts ?? today, DateForm.Month),
            "quarter" => DateText.Write(campaign?.Starts ?? today, DateForm.Quarter),
            "week" => DateText.Write(campaign?.Starts ?? today, DateForm.Week),
            _ => campaign?.Attributes?.FirstOrDefault(a => a.Key.Equals(name, StringComparison.OrdinalIgnoreCase)).Value,
        };
    }

    /// <summary>The page's own name in its path, as in <c>/whats-on/lantern-nights.html</c>.</summary>
    private static string LastOf(string path)
    {
        string last = path.TrimEnd('/');
        last = last[(last.LastIndexOf('/') + 1)..];
        int dot = last.LastIndexOf('.');
        return dot > 0 ? last[..dot] : last;
    }
}
