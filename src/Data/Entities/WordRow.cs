namespace PreciseBeacon.Data.Entities;

public sealed class WordRow : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid FieldRowId { get; set; }

    public int Position { get; set; }

    public required string Written { get; set; }

    public required string Label { get; set; }

    public List<string> Aliases { get; set; } = [];

    public bool Retired { get; set; }

    public string? Successor { get; set; }
}
