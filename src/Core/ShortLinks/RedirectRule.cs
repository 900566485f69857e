using System.Text.Json;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.ShortLinks;

/// <summary>Another page a short link leads to at some times, or for one kind of device.</summary>
/// <param name="LeadsTo">The page, as typed and without tags.</param>
/// <param name="From">From when; null from the beginning.</param>
/// <param name="Until">Until just before when; null for good.</param>
/// <param name="Device">One of <see cref="Traffic.Device"/>; null for any.</param>
/// <param name="Target">The address with the link's tags, ASCII.</param>
public sealed record RedirectRule(string LeadsTo, DateTimeOffset? From, DateTimeOffset? Until, string? Device, string Target)
{
    /// <summary>A link's turns as they are stored, in their order; none for null.</summary>
    public static List<RedirectRule> Read(string? stored) =>
        stored is null ? [] : JsonSerializer.Deserialize<List<RedirectRule>>(stored, JsonSerializerOptions.Web)!;

    /// <summary>Whether it holds at a moment for a kind of device.</summary>
    public bool Holds(DateTimeOffset now, string device) => !(From > now) && !(Until <= now) && (Device is null || Device == device);
}
