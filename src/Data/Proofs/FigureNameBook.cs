using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Imports;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps what names in other systems' files mean: found when a file was read, or put right by hand.</summary>
public sealed class FigureNameBook(NpgsqlDataSource database)
{
    /// <summary>What names in files mean.</summary>
    public async Task<IReadOnlyList<FigureMatch>> ReadAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.Command(
            "select system, part, text, target_id, made_at, made_by from figure_match where workspace_id = $1",
            workspaceId
        );
        var matches = new List<FigureMatch>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            matches.Add(
                new FigureMatch(
                    reader.GetString(0),
                    (TargetPart)reader.GetInt16(1),
                    reader.GetString(2),
                    reader.IsDBNull(3) ? null : reader.GetGuid(3),
                    reader.GetFieldValue<DateTimeOffset>(4),
                    reader.GetString(5)
                )
            );
        }

        return matches;
    }

    /// <summary>What names of one system mean, as files are matched by it.</summary>
    public static Dictionary<(TargetPart Part, string Text), TargetCorrection> CorrectionsOf(IEnumerable<FigureMatch> ofSystem) =>
        ofSystem.ToDictionary(m => (m.Part, m.Text), m => new TargetCorrection(m.Id));

    /// <summary>Remembers what names of a system mean; one that was put right by hand gives way to nothing but a hand.</summary>
    public Task RememberAsync(Guid workspaceId, IReadOnlyCollection<FigureMatch> matches, CancellationToken cancel) =>
        database.RunAsync(
            """
            insert into figure_match (workspace_id, system, part, text, target_id, made_at, made_by)
            select $1, m.* from unnest($2, $3, $4, $5, $6, $7) as m(system, part, text, target_id, made_at, made_by)
            on conflict (workspace_id, system, part, md5(text)) do update
            set target_id = excluded.target_id, made_at = excluded.made_at, made_by = excluded.made_by where excluded.made_by <> ''
            """,
            cancel,
            workspaceId,
            matches.Select(m => m.System).ToArray(),
            matches.Select(m => (short)m.Part).ToArray(),
            matches.Select(m => m.Text).ToArray(),
            matches.Select(m => m.Id).ToArray(),
            matches.Select(m => m.MadeAt.ToUniversalTime()).ToArray(),
            matches.Select(m => m.MadeBy).ToArray()
        );

    /// <summary>Forgets what a name means.</summary>
    /// <returns>False where nothing was remembered.</returns>
    public async Task<bool> ForgetAsync(Guid workspaceId, string system, TargetPart part, string text, CancellationToken cancel) =>
        await database.RunAsync(
            "delete from figure_match where workspace_id = $1 and system = $2 and part = $3 and md5(text) = md5($4)",
            cancel,
            workspaceId,
            system,
            (short)part,
            text
        ) > 0;

    /// <summary>Gives what names mean one placement to another, into which it is merged; in the context's transaction.</summary>
    public static Task MoveAsync(BeaconDb db, Guid placement, Guid into, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"update figure_match set target_id = {into} where workspace_id = {db.CurrentWorkspaceId} and part = {(short)TargetPart.Placement} and target_id = {placement}",
            cancel
        );
}

/// <summary>What a name in a system's files means.</summary>
/// <param name="System">The system.</param>
/// <param name="Part">Whether it names a link, a campaign or a placement.</param>
/// <param name="Text">The name.</param>
/// <param name="Id">What it means; null where rows with it are left out.</param>
/// <param name="MadeAt">Since when.</param>
/// <param name="MadeBy">Who said so; empty where it was found when a file was read.</param>
public sealed record FigureMatch(string System, TargetPart Part, string Text, Guid? Id, DateTimeOffset MadeAt, string MadeBy);
