using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Fills the maps of a report: sources by the convention and plan of today, the other tables as they are.</summary>
internal sealed class RowMapReader(NpgsqlDataSource database, TrafficSourceCache sources)
{
    /// <summary>The maps a report needs, that of its sources first.</summary>
    public async Task<List<RowMap>> ReadAsync(ArrivalsRequest request, Convention convention, PlanOfVisits plan, CancellationToken cancel)
    {
        var maps = Enum.GetValues<RowTable>().Select(t => new RowMap(t, request.Rows, request.Where)).Where(m => m.IsNeeded).ToList();
        for (int i = 0; i < maps.Count; i++)
        {
            var map = maps[i];
            switch (map.Table)
            {
                case RowTable.Source or RowTable.FirstSource:
                    maps[i] = await sources.MapAsync(request.WorkspaceId, map.Table, request.Rows, request.Where, convention, plan, cancel);
                    break;
                case RowTable.Day:
                    map.AddDays(request.From, request.To);
                    break;
                case RowTable.Visitor:
                    map.AddVisitorKinds();
                    break;
                case RowTable.Hour:
                    map.AddHours();
                    break;
                default:
                    await AddRowsAsync(map, request.WorkspaceId, cancel);
                    break;
            }
        }

        return maps;
    }

    private async Task AddRowsAsync(RowMap map, Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            map.Table switch
            {
                RowTable.Place => "select id, country, region, city from visit_place",
                RowTable.Device => "select id, kind, model, system, browser, language from visit_device",
                _ => "select id, address from visited_page where workspace_id = $1",
            }
        );
        if (map.Table is RowTable.LandingPage or RowTable.LastPage)
        {
            command.Parameters.Add(new() { Value = workspaceId });
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            map.Add(reader.GetInt32(0), field => field.Kind switch
                {
                    RowKind.Region or RowKind.Model => Given(2),
                    RowKind.Town or RowKind.System => Given(3),
                    RowKind.Browser => Given(4),
                    RowKind.Language => Given(5),
                    _ => Given(1),
                });
        }

        string? Given(int column) => reader.GetString(column) is { Length: > 0 } value ? value : null;
    }
}
