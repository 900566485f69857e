using PreciseBeacon.Web.AccessLogs;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.Web.Addresses;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Audit;
using PreciseBeacon.Web.Batches;
using PreciseBeacon.Web.Codes;
using PreciseBeacon.Web.Compose;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Conversions;
using PreciseBeacon.Web.Costs;
using PreciseBeacon.Web.Hosting;
using PreciseBeacon.Web.Ledger;
using PreciseBeacon.Web.LinkReviews;
using PreciseBeacon.Web.Mails;
using PreciseBeacon.Web.Measuring;
using PreciseBeacon.Web.Outbox;
using PreciseBeacon.Web.Outside;
using PreciseBeacon.Web.Plan;
using PreciseBeacon.Web.Proofs;
using PreciseBeacon.Web.Redirects;
using PreciseBeacon.Web.ResultsPages;
using PreciseBeacon.Web.Shorten;
using PreciseBeacon.Web.Traffic;

namespace PreciseBeacon.Web;

/// <summary>What the application is made of: the places in the order of the rail, then what stands behind them.</summary>
public static class Modules
{
    /// <summary>Registers what each of them needs.</summary>
    public static void Add(IServiceCollection services, BeaconOptions options)
    {
        PlanModule.Add(services);
        ConventionsModule.Add(services);
        ComposeModule.Add(services);
        BatchesModule.Add(services);
        MailsModule.Add(services);
        LinkReviewsModule.Add(services);
        LedgerModule.Add(services);
        CodesModule.Add(services);
        ArrivalsModule.Add(services);
        ProofsModule.Add(services);
        ResultsPagesModule.Add(services);
        AddressesModule.Add(services);
        ConversionsModule.Add(services);
        CostsModule.Add(services);
        AccountsModule.Add(services, options);

        RedirectsModule.Add(services);
        MeasuringModule.Add(services);
        AccessLogModule.Add(services);
        TrafficModule.Add(services);
        OutboxModule.Add(services);
        OutsideModule.Add(services);
    }

    /// <summary>Maps the calls of each.</summary>
    public static void Map(IEndpointRouteBuilder app)
    {
        app = app.MapGroup("").WithOutcomes();
        PlanModule.Map(app);
        ConventionsModule.Map(app);
        ComposeModule.Map(app);
        BatchesModule.Map(app);
        MailsModule.Map(app);
        LinkReviewsModule.Map(app);
        LedgerModule.Map(app);
        CodesModule.Map(app);
        ArrivalsModule.Map(app);
        ProofsModule.Map(app);
        ResultsPagesModule.Map(app);
        AddressesModule.Map(app);
        ConversionsModule.Map(app);
        CostsModule.Map(app);
        AccountsModule.Map(app);
        OutboxModule.Map(app);
        AuditModule.Map(app);

        ShortenModule.Map(app);
        MeasuringModule.Map(app);
        AccessLogModule.Map(app);
    }
}
