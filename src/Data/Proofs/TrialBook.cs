using System.Text.Json;
using System.Text.Json.Serialization;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Proofs;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Keeps trials, and what happened on their addresses.</summary>
public sealed class TrialBook(NpgsqlDataSource database)
{
    /// <summary>Openings of one address that are kept (ours); a scanner that goes on and on fills nothing.</summary>
    public const int MostHits = 500;

    private const string Columns =
        "t.id, t.workspace_id, t.link_id, t.token, t.address, t.started_at, t.started_by, t.ends_at, t.trace, t.page_keys, t.mail_id, t.mail_number, t.run_id";

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter() } };

    /// <summary>Keeps trials that begin: all of them, or none.</summary>
    public async Task AddAsync(IReadOnlyCollection<Trial> trials, CancellationToken cancel)
    {
        await using var batch = database.CreateBatch();
        foreach (var trial in trials)
        {
            batch.Add(
                """
                insert into trial (id, workspace_id, link_id, token, address, started_at, started_by, ends_at, trace, page_keys, mail_id, mail_number, run_id)
                values ($1, $2, $3, $4, $5, $6, $7, $8, $9::jsonb, $10, $11, $12, $13)
                """,
                trial.Id,
                trial.WorkspaceId,
                trial.LinkId,
                trial.Token,
                trial.Address,
                trial.StartedAt.ToUniversalTime(),
                trial.StartedBy,
                trial.EndsAt.ToUniversalTime(),
                JsonSerializer.Serialize(trial.Trace, Json),
                trial.PageKeys.ToArray(),
                new NpgsqlParameter { Value = (object?)trial.Mail?.MailId ?? DBNull.Value, NpgsqlDbType = NpgsqlDbType.Uuid },
                new NpgsqlParameter { Value = (object?)trial.Mail?.Number ?? DBNull.Value, NpgsqlDbType = NpgsqlDbType.Integer },
                new NpgsqlParameter { Value = (object?)trial.Mail?.RunId ?? DBNull.Value, NpgsqlDbType = NpgsqlDbType.Uuid }
            );
        }

        await batch.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Takes trials of a mail back that could not be sent.</summary>
    public Task ForgetRunAsync(Guid run, CancellationToken cancel) => database.RunAsync("delete from trial where run_id = $1", cancel, run);

    /// <summary>The trials of a mail's latest sending, in the order of its links; none where it was never sent.</summary>
    public Task<List<Trial>> OfMailAsync(Guid workspaceId, Guid mailId, CancellationToken cancel) =>
        ReadAsync(
            $"""
            select {Columns} from trial t
            where t.workspace_id = $1 and t.mail_id = $2
                and t.run_id = (select run_id from trial where mail_id = $2 order by started_at desc, id desc limit 1)
            order by t.mail_number
            """,
            cancel,
            workspaceId,
            mailId
        );

    /// <summary>One trial; null where there is none.</summary>
    public async Task<Trial?> FindAsync(Guid workspaceId, Guid id, CancellationToken cancel) =>
        (
            await ReadAsync($"select {Columns} from trial t where t.workspace_id = $1 and t.id = $2", cancel, workspaceId, id)
        ).SingleOrDefault();

    /// <summary>The trial of an address; null where there is none.</summary>
    public async Task<Trial?> OfTokenAsync(string token, CancellationToken cancel) =>
        (await ReadAsync($"select {Columns} from trial t where t.token = $1", cancel, token)).SingleOrDefault();

    /// <summary>Trials, the newest first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="linkId">Only those of this link; null for all.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    public Task<List<Trial>> ListAsync(Guid workspaceId, Guid? linkId, int most, CancellationToken cancel) =>
        linkId is { } link
            ? ReadAsync(
                $"select {Columns} from trial t where t.link_id = $2 and t.workspace_id = $1 order by t.started_at desc, t.id desc limit $3",
                cancel,
                workspaceId,
                link,
                most
            )
            : ReadAsync(
                $"select {Columns} from trial t where t.workspace_id = $1 order by t.started_at desc, t.id desc limit $2",
                cancel,
                workspaceId,
                most
            );

    /// <summary>Keeps an opening of a trial's address, and tells whoever looks on.</summary>
    public async Task AddHitAsync(Trial trial, RawHit hit, RouteOutcome outcome, string? address, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var command = new NpgsqlCommand(
            """
            insert into trial_hit (id, workspace_id, trial_id, at, visitor, kind, user_agent, outcome, address)
            select $1, $2, $3, $4, $5, $6, $7, $8, $9
            where (select count(*) from trial_hit where trial_id = $3) < $10
            """,
            connection
        );
        object[] values =
        [
            hit.Id,
            hit.WorkspaceId,
            trial.Id,
            hit.At.ToUniversalTime(),
            hit.Visitor,
            (short)HitClassifier.KindAlone(hit.Flags, hit.UserAgent),
            hit.UserAgent,
            (short)outcome,
            (object?)address ?? DBNull.Value,
            MostHits,
        ];
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
        await TrafficNotices.TellChangedAsync(connection, [trial.WorkspaceId], cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Openings of some trials' addresses, and of those sent in the same mails, in the order of time.</summary>
    public async Task<IReadOnlyList<KeptTrialHit>> HitsAsync(IReadOnlyCollection<Trial> trials, CancellationToken cancel)
    {
        await using var command = database.Command(
            """
            select h.id, h.trial_id, h.at, h.visitor, h.kind, h.user_agent, h.outcome, h.address, t.run_id
            from trial t join trial_hit h on h.trial_id = t.id
            where t.id = any($1) or (t.mail_id = any($2) and t.run_id = any($3))
            order by h.at, h.id
            """,
            trials.Select(t => t.Id).ToArray(),
            trials.Select(t => t.Mail?.MailId).OfType<Guid>().Distinct().ToArray(),
            trials.Select(t => t.Mail?.RunId).OfType<Guid>().Distinct().ToArray()
        );
        var hits = new List<KeptTrialHit>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            hits.Add(
                new KeptTrialHit(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetFieldValue<DateTimeOffset>(2),
                    reader.GetGuid(3),
                    (HitKind)reader.GetInt16(4),
                    reader.GetString(5),
                    (RouteOutcome)reader.GetInt16(6),
                    reader.IsDBNull(7) ? null : reader.GetString(7),
                    reader.IsDBNull(8) ? null : reader.GetGuid(8)
                )
            );
        }

        return hits;
    }

    /// <summary>Visits of some trials, in the order of time.</summary>
    public async Task<IReadOnlyList<KeptTrialVisit>> VisitsAsync(IReadOnlyCollection<Guid> trials, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select trial_id, hit_id, started_at, site_id, tags, referrer_host, landing_page
            from trial_visit where trial_id = any($1) order by started_at, id
            """
        );
        command.Parameters.Add(new() { Value = trials.ToArray() });
        var visits = new List<KeptTrialVisit>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            visits.Add(
                new KeptTrialVisit(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetFieldValue<DateTimeOffset>(2),
                    reader.GetGuid(3),
                    RawTags.Parse(reader.GetString(4)),
                    reader.GetString(5),
                    reader.GetString(6)
                )
            );
        }

        return visits;
    }

    /// <summary>What the fetch of each link's latest trial found; links without one are left out.</summary>
    public async Task<IReadOnlyDictionary<Guid, IReadOnlyList<Finding>>> LatestFindingsAsync(
        Guid workspaceId,
        IReadOnlyCollection<Guid> links,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            """
            select distinct on (link_id) link_id, trace -> 'findings' from trial
            where workspace_id = $1 and link_id = any($2) order by link_id, started_at desc
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = links.ToArray() });
        var found = new Dictionary<Guid, IReadOnlyList<Finding>>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found[reader.GetGuid(0)] = JsonSerializer.Deserialize<List<Finding>>(reader.GetString(1), Json)!;
        }

        return found;
    }

    private async Task<List<Trial>> ReadAsync(string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = database.CreateCommand(sql);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        var trials = new List<Trial>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            trials.Add(
                new Trial(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetGuid(2),
                    reader.GetString(3),
                    reader.GetString(4),
                    reader.GetFieldValue<DateTimeOffset>(5),
                    reader.GetString(6),
                    reader.GetFieldValue<DateTimeOffset>(7),
                    JsonSerializer.Deserialize<TrialTrace>(reader.GetString(8), Json)!,
                    reader.GetFieldValue<long[]>(9),
                    reader.IsDBNull(10) ? null : new TrialInMail(reader.GetGuid(10), reader.GetInt32(11), reader.GetGuid(12))
                )
            );
        }

        return trials;
    }
}

/// <summary>A trial of a link.</summary>
/// <param name="Id">Its id.</param>
/// <param name="WorkspaceId">Whose it is.</param>
/// <param name="LinkId">The link tried.</param>
/// <param name="Token">What its address ends on; nobody can guess it.</param>
/// <param name="Address">The address to open.</param>
/// <param name="StartedAt">When it began.</param>
/// <param name="StartedBy">Name of the person or key that began it.</param>
/// <param name="EndsAt">When its address ends.</param>
/// <param name="Trace">What the fetch before it saw.</param>
/// <param name="PageKeys">Keys of the pages its link may come to; see <see cref="PageKey"/>.</param>
/// <param name="Mail">Where in a mail the link was sent; null where it was tried alone.</param>
public sealed record Trial(
    Guid Id,
    Guid WorkspaceId,
    Guid LinkId,
    string Token,
    string Address,
    DateTimeOffset StartedAt,
    string StartedBy,
    DateTimeOffset EndsAt,
    TrialTrace Trace,
    IReadOnlyList<long> PageKeys,
    TrialInMail? Mail = null
);

/// <summary>Where in a mail a link is that is tried.</summary>
/// <param name="MailId">The mail.</param>
/// <param name="Number">The link's number in it.</param>
/// <param name="RunId">The sending.</param>
public sealed record TrialInMail(Guid MailId, int Number, Guid RunId);

/// <summary>What the fetch before a trial saw.</summary>
/// <param name="Tagged">The way with tags.</param>
/// <param name="Plain">The way without them; null where it was not gone.</param>
/// <param name="Findings">What was found on it.</param>
public sealed record TrialTrace(PageTrace Tagged, PageTrace? Plain, IReadOnlyList<Finding> Findings);

/// <summary>An opening of a trial's address as it is kept; the run is that of the mail the trial was sent in, null for none.</summary>
public sealed record KeptTrialHit(
    Guid Id,
    Guid TrialId,
    DateTimeOffset At,
    Guid Visitor,
    HitKind Kind,
    string UserAgent,
    RouteOutcome Outcome,
    string? Address,
    Guid? RunId
);

/// <summary>A trial's visit as it is kept.</summary>
public sealed record KeptTrialVisit(
    Guid TrialId,
    Guid HitId,
    DateTimeOffset StartedAt,
    Guid SiteId,
    RawTags Tags,
    string ReferrerHost,
    string LandingPage
);
