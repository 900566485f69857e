using PreciseBeacon.Data.Outbox;

namespace PreciseBeacon.Web.Outbox;

/// <summary>Mails the application sends.</summary>
public static class OutboxModule
{
    public static void Add(IServiceCollection services)
    {
        services.AddSingleton<MailQueue>();
        services.AddSingleton<MailChoices>();
        services.AddSingleton<MailStop>();
        services.AddSingleton<OutboxSignal>();
        services.AddSingleton<SmtpSender>();
        services.AddScoped<OutboxWriter>();
        services.AddHostedService<OutboxWorker>();
    }

    public static void Map(IEndpointRouteBuilder app) => app.MapOutbox();
}
