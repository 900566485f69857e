using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Redirects;

/// <summary>What is known of a short domain besides its slugs.</summary>
/// <param name="Proof">What proves that its host leads here.</param>
/// <param name="Workspace">The name of the workspace it belongs to.</param>
public sealed record DomainFacts(string Proof, string Workspace);
