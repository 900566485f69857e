using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Folds the uses that were worked out into the links. A few links at a time, and none that somebody else is changing right
/// now, so that neither a person who saves a link nor a click on a limited one waits for it.
/// </summary>
internal static class LinkUses
{
    private const int AtOnce = 200;

    private const string Fold = """
        with due as (
            select id, link_id from link_use_due order by id limit $1
        ), free as (
            select l.id from links l where l.id in (select link_id from due) order by l.id for no key update skip locked
        ), taken as (
            delete from link_use_due u using due d
            where u.id = d.id and (d.link_id in (select id from free) or not exists (select from links l where l.id = d.link_id))
            returning u.link_id, u.uses, u.last_used_at
        )
        update links l set uses = l.uses + t.uses, last_used_at = greatest(l.last_used_at, t.last_used_at)
        from (select link_id, sum(uses) as uses, max(last_used_at) as last_used_at from taken group by link_id) t
        where l.id = t.link_id
        """;

    /// <summary>Folds until nothing is left but what others hold.</summary>
    public static async Task FoldAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        int folded;
        do
        {
            await using var command = database.CreateCommand(Fold);
            command.Parameters.Add(new() { Value = AtOnce });
            folded = await command.ExecuteNonQueryAsync(cancel);
        } while (folded > 0);
    }
}
