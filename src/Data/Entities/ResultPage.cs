namespace PreciseBeacon.Data.Entities;

/// <summary>A page of figures for somebody without an account, behind an address nobody guesses: one link's, or a view of Arrivals.</summary>
public sealed class ResultPage : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>The link whose figures it shows; null for a view.</summary>
    public Guid? LinkId { get; set; }

    public Link? Link { get; set; }

    /// <summary>The view it shows: the part of Arrivals' address behind the question mark; null for a link.</summary>
    public string? Address { get; set; }

    /// <summary>What a view's page is called; null for a link, which is called by its title.</summary>
    public string? Name { get; set; }

    /// <summary>Revenue, and what is worked out from it, is shown; never on a link's page.</summary>
    public bool WithMoney { get; set; }

    /// <summary>The last day it can be opened, in the workspace's zone; null for no end.</summary>
    public DateOnly? EndsOn { get; set; }

    /// <summary>The public page that says where the link's short link leads has a link to it.</summary>
    public bool OnWherePage { get; set; }

    /// <summary>128 bits of randomness in the address; whoever has it may look.</summary>
    public required string Token { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Set once nobody may look any more.</summary>
    public DateTimeOffset? RevokedAt { get; set; }

    /// <summary>How often a stranger opened it.</summary>
    public int Openings { get; set; }

    public DateTimeOffset? LastOpenedAt { get; set; }
}
