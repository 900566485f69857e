using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;

namespace PreciseBeacon.Web.Hosting;

/// <summary>Two people who change one thing in the same moment: the later one is told, and shown the earlier one's version.</summary>
public static class ChangedMeanwhile
{
    public static RouteGroupBuilder TellTheLater(this RouteGroupBuilder group) =>
        group.AddEndpointFilter(
            async (context, next) =>
            {
                try
                {
                    return await next(context);
                }
                catch (DbUpdateConcurrencyException)
                {
                    return Refusal.Conflict(
                        "changed-meanwhile",
                        "Somebody else changed this meanwhile. Review their version, then make your change again."
                    );
                }
            }
        );
}
