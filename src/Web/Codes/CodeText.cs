using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Codes;

/// <summary>A link as far as its code is concerned.</summary>
/// <param name="Id">The link.</param>
/// <param name="Code">Its short link for codes; null when it has none.</param>
/// <param name="Long">The link itself.</param>
/// <param name="Title">Its title, or null.</param>
/// <param name="Campaign">The campaign's name, or null.</param>
/// <param name="Placement">The placement's name, or null.</param>
public sealed record CodeText(Guid Id, string? Code, string Long, string? Title, string? Campaign, string? Placement)
{
    /// <summary>The readable part of the short link; empty without one.</summary>
    public string Slug => Code is null ? "" : Code[(Code.LastIndexOf('/') + 1)..];
}
