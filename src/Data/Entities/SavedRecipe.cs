namespace PreciseBeacon.Data.Entities;

/// <summary>A recipe kept for sheets with the same headings.</summary>
public sealed class SavedRecipe : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    public List<string> Headings { get; set; } = [];

    /// <summary>The recipe as JSON.</summary>
    public required string Recipe { get; set; }

    public required string SavedBy { get; set; }

    public DateTimeOffset SavedAt { get; set; }
}
