using PreciseBeacon.Bench;

switch (args)
{
    case ["bare", var port]:
        await BareRedirect.ServeAsync(int.Parse(port, System.Globalization.CultureInfo.InvariantCulture));
        return 0;
    case ["compose"]:
        Report.Print(ComposeRun.Measure());
        return 0;
    case ["live"]:
        Report.Print(LiveRun.Measure());
        return 0;
    case ["effect"]:
        Report.Print(EffectRun.Measure());
        return 0;
    case ["codes"]:
        Report.Print(await CodesRun.MeasureAsync());
        return 0;
    case ["redirect" or "million" or "three", var connection, var root]:
        foreach (var line in await RedirectRun.MeasureAsync(connection, root, args[0] == "million", args[0] == "three" ? 3 : 1))
        {
            Report.Print(line);
        }

        return 0;
    case ["crowd", var connection, var root]:
        Report.Print(await CrowdRun.MeasureAsync(connection, root));
        return 0;
    case ["steady", var connection, var root]:
        foreach (var line in await SteadyRun.MeasureAsync(connection, root))
        {
            Report.Print(line);
        }

        return 0;
    case ["log", var connection, var root]:
        Report.Print(await LogRun.MeasureAsync(connection, root));
        return 0;
    case ["batch", var connection, var root]:
        Report.Print(await BatchRun.MeasureAsync(connection, root));
        return 0;
    case ["arrivals" or "credit" or "strays", var connection, var root, var visits]:
        foreach (
            var line in await ArrivalsRun.MeasureAsync(
                connection,
                root,
                int.Parse(visits, System.Globalization.CultureInfo.InvariantCulture),
                args[0]
            )
        )
        {
            Report.Print(line);
        }

        return 0;
    default:
        await Console.Error.WriteLineAsync("Run ./bench.");
        return 2;
}
