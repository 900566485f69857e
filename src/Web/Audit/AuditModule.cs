namespace PreciseBeacon.Web.Audit;

/// <summary>Who changed what.</summary>
public static class AuditModule
{
    public static void Map(IEndpointRouteBuilder app) => app.MapAudit();
}
