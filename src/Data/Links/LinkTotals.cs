using Npgsql;

namespace PreciseBeacon.Data.Links;

/// <summary>Folds the rows that changes of links add to their totals.</summary>
public static class LinkTotals
{
    // Two processes may choose the same rows: the second waits for the first, finds them gone and adds nothing.
    private const string Fold = """
        with folded as (
            delete from link_totals where id in (
                select unnest(array_agg(id)) from link_totals group by workspace_id, campaign_id, placement_id, state having count(*) > 1)
            returning *)
        insert into link_totals (workspace_id, campaign_id, placement_id, state, links, uses)
        select workspace_id, campaign_id, placement_id, state, sum(links), sum(uses) from folded
        group by workspace_id, campaign_id, placement_id, state having sum(links) <> 0 or sum(uses) <> 0
        """;

    /// <summary>Makes one row of all rows of a group; sums stay what they were for whoever reads meanwhile.</summary>
    /// <exception cref="NpgsqlException">The database can't be reached.</exception>
    public static async Task FoldAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(Fold);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
