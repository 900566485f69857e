namespace PreciseBeacon.Data.Entities;

/// <summary>A picture that can be put in the middle of codes.</summary>
public sealed class CodeLogo : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>The picture as a PNG, whatever it came as.</summary>
    public required byte[] Png { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }
}
