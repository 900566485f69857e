using PreciseBeacon.Core.Mails;

namespace PreciseBeacon.Data.Entities;

/// <summary>An HTML mail that was uploaded, with what is chosen for its links and the addresses that were written into it.</summary>
public sealed class Mail : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>Name of the file.</summary>
    public required string Name { get; set; }

    /// <summary>The file as it came.</summary>
    public required byte[] File { get; set; }

    /// <summary>The message's subject, or null.</summary>
    public string? Subject { get; set; }

    /// <summary>Id or name of the placement, or null.</summary>
    public string? Placement { get; set; }

    /// <summary>Id or name of the campaign, or null.</summary>
    public string? Campaign { get; set; }

    public MailContentBy ContentBy { get; set; }

    /// <summary>True when short links are written into the mail.</summary>
    public bool Shorten { get; set; }

    /// <summary>Content typed for single links, by their number.</summary>
    public Dictionary<string, string> Typed { get; set; } = [];

    /// <summary>Numbers of links somebody leaves alone.</summary>
    public List<int> Skipped { get; set; } = [];

    /// <summary>Addresses written into the mail, by the number of their link; empty before the links were made.</summary>
    public Dictionary<string, string> Written { get; set; } = [];

    public string? MadeBy { get; set; }

    public DateTimeOffset? MadeAt { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Grows with every change.</summary>
    public int Revision { get; set; }
}
