namespace PreciseBeacon.Web.Codes;

/// <summary>A picture that can be put in the middle of codes.</summary>
public sealed record LogoAnswer(Guid Id, string Name, string CreatedBy, DateTimeOffset CreatedAt);
