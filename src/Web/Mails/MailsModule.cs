namespace PreciseBeacon.Web.Mails;

/// <summary>Links of HTML mails.</summary>
public static class MailsModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<Inbox>();
        services.AddScoped<MailStore>();
    }

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapMails();
    }
}
